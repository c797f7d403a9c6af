import { Command } from "cmdk";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useMay } from "@/features/session/session";
import { useFocusReturn } from "@/ui/useFocusReturn";
import { usePageActions } from "./actions";
import { toggleTheme } from "./theme";
import { useShortcut } from "./useShortcut";

/** Ctrl-K: every action by name. */
export function CommandPalette({ onHelp }: { onHelp: () => void }) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const giveBack = useFocusReturn(open);
  const change = (next: boolean) => {
    setOpen(next);
    // An action may have opened something that has the focus now.
    if (!next) requestAnimationFrame(() => document.activeElement === document.body && giveBack());
  };
  const pageActions = usePageActions();
  const mayStart = useMay("start_case");
  useShortcut("ctrl+k", () => setOpen((o) => !o), true);

  const actions = [
    ...pageActions,
    { name: "Day sheet", run: () => navigate("/cases") },
    ...(mayStart ? [{ name: "New case", run: () => navigate("/cases/new") }] : []),
    { name: "Study a tooth", run: () => navigate("/study") },
    { name: "Light or dark", run: toggleTheme },
    { name: "Shortcuts", run: onHelp },
  ];
  return (
    <Command.Dialog
      open={open}
      onOpenChange={change}
      label="Actions"
      overlayClassName="fixed inset-0 bg-black/30"
      contentClassName="fixed left-1/2 top-24 w-[28rem] -translate-x-1/2 rounded-lg border border-line bg-sheet shadow-xl"
    >
      <Command.Input
        placeholder="What do you want to do?"
        className="w-full border-b border-line bg-transparent px-4 py-3 outline-none placeholder:text-soft"
      />
      <Command.List className="max-h-80 overflow-auto p-2">
        <Command.Empty className="p-3 text-soft">No action of that name.</Command.Empty>
        {actions.map((a) => (
          <Command.Item
            key={a.name}
            onSelect={() => {
              change(false);
              a.run();
            }}
            className="cursor-pointer rounded px-3 py-2 data-[selected=true]:bg-accent-ground"
          >
            {a.name}
          </Command.Item>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
