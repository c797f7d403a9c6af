import { useState } from "react";
import { Link, Navigate, Outlet, useLocation } from "react-router";
import { useSession, useSignOut } from "@/features/session/session";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";
import { Notice } from "@/ui/Notice";
import { CommandPalette } from "./CommandPalette";
import { ShortcutList } from "./ShortcutList";
import { toggleTheme } from "./theme";
import { useShortcut } from "./useShortcut";

/** The frame around every signed-in page. */
export function Shell() {
  const session = useSession();
  const signOut = useSignOut();
  const location = useLocation();
  const [helpOpen, setHelpOpen] = useState(false);
  useShortcut("?", () => setHelpOpen(true));

  if (session.isPending) return <p className="p-10 text-soft">One moment…</p>;
  if (session.isError) {
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
  if (!session.data) return <Navigate to="/sign-in" state={{ from: location.pathname }} replace />;

  return (
    <div className="flex h-full flex-col">
      <header className="flex h-12 shrink-0 items-center gap-4 border-b border-line bg-panel px-4">
        <Link to="/cases" className="font-bold tracking-wide">
          Obturon
        </Link>
        <span className="text-soft">{session.data.practice}</span>
        <nav className="ml-auto flex items-center gap-2" aria-label="Main">
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/cases">
            Day sheet
          </Link>
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/cases/new">
            New case
          </Link>
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/study">
            Teeth
          </Link>
          <Link className="rounded px-2 py-1 hover:bg-accent-ground" to="/schools">
            Schools
          </Link>
          <Menu label={session.data.name}>
            <MenuItem onSelect={toggleTheme}>Light or dark</MenuItem>
            <MenuItem onSelect={() => setHelpOpen(true)}>Shortcuts (?)</MenuItem>
            <MenuItem onSelect={() => window.open("/api/docs", "_blank")}>API description</MenuItem>
            <MenuItem onSelect={() => signOut.mutate()}>Sign out</MenuItem>
          </Menu>
        </nav>
      </header>
      <div className="min-h-0 flex-1">
        <Outlet />
      </div>
      <CommandPalette onHelp={() => setHelpOpen(true)} />
      <ShortcutList open={helpOpen} onOpenChange={setHelpOpen} />
    </div>
  );
}
