import { useEffect, useRef, useState } from "react";
import { Link, Navigate, Outlet, useLocation } from "react-router";
import { Toaster } from "sonner";
import { useChanges } from "@/api/changes";
import type { Schema } from "@/api/client";
import { sessionEnded } from "@/api/connection";
import { useDraftKeeping } from "@/features/drafts/keepers";
import { SignInAgain } from "@/features/session/SignInAgain";
import { useSession, useSignOut } from "@/features/session/session";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";
import { Notice } from "@/ui/Notice";
import { CommandPalette } from "./CommandPalette";
import { ShortcutList } from "./ShortcutList";
import { toggleTheme } from "./theme";
import { useShortcut } from "./useShortcut";

/** Lets nobody in who is not signed in. */
export function Shell() {
  const session = useSession();
  const location = useLocation();
  // Who worked here stays: where the session has ended, the password is asked for in place.
  const last = useRef<Schema["User"]>(undefined);
  if (session.data) last.current = session.data;

  if (session.isPending) return <p className="p-10 text-soft">One moment…</p>;
  if (session.isError && !last.current) {
    return (
      <div className="mx-auto max-w-xl p-10">
        <Notice tone="warn" title="The server does not answer">
          Check that it runs, then try again. Nothing was lost.
        </Notice>
        <Button className="mt-4" onClick={() => session.refetch()}>
          Try again
        </Button>
      </div>
    );
  }
  if (!last.current) return <Navigate to="/sign-in" state={{ from: location.pathname }} replace />;

  return <Frame user={last.current} />;
}

/** The frame around every signed-in page. */
function Frame({ user }: { user: Schema["User"] }) {
  const signOut = useSignOut();
  const [helpOpen, setHelpOpen] = useState(false);
  useShortcut("?", () => setHelpOpen(true));
  useDraftKeeping(user.sign_in);
  useSamePerson(user);
  useChanges();

  return (
    <div className="flex h-full flex-col">
      <header className="flex min-h-12 shrink-0 flex-wrap items-center gap-x-4 border-b border-line bg-panel px-4">
        <Link to="/cases" className="font-bold tracking-wide">
          Obturon
        </Link>
        <span className="text-soft">{user.practice}</span>
        <nav className="ml-auto flex flex-wrap items-center gap-2" aria-label="Main">
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/cases">
            Day sheet
          </Link>
          {user.may.includes("start_case") && (
            <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/cases/new">
              New case
            </Link>
          )}
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/study">
            Teeth
          </Link>
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/schools">
            Schools
          </Link>
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/kit">
            Kit
          </Link>
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/materials">
            Materials
          </Link>
          <Menu label={user.name}>
            <MenuItem onSelect={toggleTheme}>Light or dark</MenuItem>
            <MenuItem onSelect={() => setHelpOpen(true)}>Shortcuts (?)</MenuItem>
            <MenuItem onSelect={() => window.open("/api/docs", "_blank")}>API description</MenuItem>
            <MenuItem onSelect={() => signOut.mutate()}>Sign out</MenuItem>
          </Menu>
        </nav>
      </header>
      <div className="min-h-0 flex-1 max-lg:overflow-auto">
        <Outlet />
      </div>
      <SignInAgain name={user.sign_in} />
      <Toaster position="bottom-center" toastOptions={{ className: "!bg-sheet !text-ink !border-line" }} />
      <CommandPalette onHelp={() => setHelpOpen(true)} />
      <ShortcutList open={helpOpen} onOpenChange={setHelpOpen} />
    </div>
  );
}

/** Notices when the session has ended, or another person has signed in in another window. */
function useSamePerson(user: Schema["User"]) {
  const session = useSession();
  const shown = useRef(user.sign_in);
  const { refetch } = session;
  useEffect(() => {
    const look = () => refetch();
    window.addEventListener("focus", look);
    return () => window.removeEventListener("focus", look);
  }, [refetch]);
  useEffect(() => {
    if (session.data === null) sessionEnded();
    else if (session.data && session.data.sign_in !== shown.current) window.location.reload();
  }, [session.data]);
}
