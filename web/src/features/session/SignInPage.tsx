import { useState } from "react";
import { Navigate, useLocation } from "react-router";
import { ApiProblem } from "@/api/client";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { useDemoSignIns, useSession, useSignIn } from "./session";

export function SignInPage() {
  const session = useSession();
  const signIn = useSignIn();
  const demo = useDemoSignIns();
  const location = useLocation();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");

  if (session.data) {
    const from = (location.state as { from?: string } | null)?.from ?? "/cases";
    return <Navigate to={from} replace />;
  }
  const problem = signIn.error instanceof ApiProblem ? signIn.error.problem : undefined;
  return (
    <main className="mx-auto grid min-h-full max-w-3xl content-center gap-10 p-8 md:grid-cols-2">
      <section>
        <h1 className="text-3xl font-bold">Obturon</h1>
        <p className="mt-3 text-base text-soft">
          Design cavity preparations for direct fillings: outline, depth, walls and burs, measured on a
          computed tooth and judged by the school you choose.
        </p>
        <p className="mt-3 text-soft">
          A planning aid for licensed practitioners. Local codes come first. Patients are known by codes,
          never by name.
        </p>
      </section>
      <section aria-label="Sign in">
        <form
          className="space-y-4"
          onSubmit={(e) => {
            e.preventDefault();
            signIn.mutate({ sign_in: name, password });
          }}
        >
          <TextField
            label="Sign-in name"
            autoComplete="username"
            required
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <TextField
            label="Password"
            type="password"
            autoComplete="current-password"
            required
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
          {signIn.isError && (
            <Notice tone="warn" title={problem?.title ?? "The server does not answer"}>
              {problem?.detail ?? "Check that it runs, then try again."}
            </Notice>
          )}
          <Button kind="main" type="submit" disabled={signIn.isPending}>
            Sign in
          </Button>
        </form>
        {demo.data && demo.data.length > 0 && (
          <div className="mt-8">
            <h2 className="font-bold">Demonstration</h2>
            <p className="text-soft">One click signs you in at the clinic of Halvarra, an invented island.</p>
            <ul className="mt-2 flex flex-wrap gap-2">
              {demo.data.map((d) => (
                <li key={d.sign_in}>
                  <Button onClick={() => signIn.mutate({ sign_in: d.sign_in, password: d.password })}>
                    {d.name}
                  </Button>
                </li>
              ))}
            </ul>
          </div>
        )}
      </section>
    </main>
  );
}
