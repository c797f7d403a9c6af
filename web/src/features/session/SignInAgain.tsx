import { useState } from "react";
import { inWords } from "@/api/client";
import { signedIn, useConnection } from "@/api/connection";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { useSignIn } from "./session";

/** Asks for the password in place where the session has ended; what waited goes on. */
export function SignInAgain({ name }: { name: string }) {
  const { signedOut } = useConnection();
  const signIn = useSignIn();
  const [password, setPassword] = useState("");
  return (
    <Dialog open={signedOut} onOpenChange={() => undefined} title="Your session has ended">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          signIn.mutate(
            { sign_in: name, password },
            {
              onSuccess: () => {
                setPassword("");
                signedIn();
              },
            },
          );
        }}
      >
        <p className="mb-3">Nothing is lost: this page goes on as soon as you have signed in again.</p>
        <TextField label="Sign-in name" value={name} readOnly autoComplete="username" />
        <div className="mt-3">
          <TextField
            label="Password"
            type="password"
            autoComplete="current-password"
            required
            data-first
            value={password}
            fault={signIn.isError ? inWords(signIn.error) : undefined}
            onChange={(e) => setPassword(e.target.value)}
          />
        </div>
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => window.location.assign("/sign-in")}>Sign in as someone else</Button>
          <Button kind="main" type="submit" disabled={signIn.isPending}>
            Go on
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
