import type { Schema } from "@/api/client";
import { type Verdict, VerdictMark } from "@/ui/VerdictMark";
import { formatTarget, formatValue } from "./geometry";
import type { LabelBox } from "./labels";

interface Props {
  tag: Schema["Tag"];
  check?: Schema["Check"];
  /** The figure that the tag moves. */
  dimension?: Schema["Dimension"];
  label: LabelBox;
  pane: { width: number; height: number };
}

const noteWidth = 248; // pixels
const noteHeight = 132; // at the most

/** What a tag is, beside it: its name, what was measured and asked for, and the school's view. */
export function TagNote({ tag, check, dimension, label, pane }: Props) {
  const start = tag.label_right ? label.x : label.x - label.width;
  const left = Math.min(Math.max(start, 4), Math.max(pane.width - noteWidth - 4, 4));
  const under = label.y + label.height / 2 + 4;
  const below = under + noteHeight < pane.height;
  return (
    <div
      role="tooltip"
      className="pointer-events-none absolute z-10 rounded border border-accent bg-paper p-2 text-xs shadow-md"
      style={{
        left,
        width: Math.min(noteWidth, pane.width - 8),
        ...(below ? { top: under } : { bottom: pane.height - label.y + label.height / 2 + 4 }),
      }}
    >
      <p className="flex items-center gap-1.5 font-bold">
        {check && <VerdictMark verdict={check.verdict as Verdict} />}
        {check?.label ?? tag.label}
      </p>
      <p>
        <b className="font-mono">{formatValue(tag.value, tag.unit)}</b> measured
        {check && `, target ${formatTarget(check.target, check.unit)}`}
      </p>
      {dimension && (
        <p className="text-soft">
          Moves {dimension.label.toLowerCase()}, now {formatValue(dimension.value, dimension.unit)}
        </p>
      )}
      {check && <p className="mt-1 line-clamp-3 text-soft">{check.why}</p>}
    </div>
  );
}
