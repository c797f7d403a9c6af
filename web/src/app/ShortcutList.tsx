import { Dialog } from "@/ui/Dialog";

const shortcuts: [string, string][] = [
  ["Ctrl K", "Every action by name"],
  ["?", "This list"],
  ["/", "Search, on the day sheet"],
  ["Tab", "From dimension to dimension on the drawing"],
  ["Arrow keys", "Change the dimension in hand by 0.1 mm or 1°"],
  ["Shift with arrow", "By 0.5 mm or 5°"],
  ["Backspace", "Back to the proposal"],
  ["N", "Names on the tags, on or off"],
  ["1 to 6", "The cut tooth from occlusal, facial, lingual, mesial, distal, in the mirror"],
  ["+ − 0", "Closer, further away, and back to the first view"],
  ["Arrow keys in the strip", "From step to step; Enter opens one"],
  ["Ctrl Z", "Undo"],
  ["Ctrl Shift Z", "Redo"],
];

export function ShortcutList({
  open,
  onOpenChange,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Shortcuts">
      <dl className="grid grid-cols-[10rem_1fr] gap-y-2">
        {shortcuts.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt className="font-mono">{keys}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
