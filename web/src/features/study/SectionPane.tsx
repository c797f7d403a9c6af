import type { Schema } from "@/api/client";
import { ViewDrawing } from "@/drawing/ViewDrawing";
import type { Axis } from "./study";

const axes: [Axis, string][] = [
  ["buccolingual", "Across the arch"],
  ["mesiodistal", "Along the arch"],
  ["level", "Level"],
];

interface Props {
  axis: Axis;
  /** Where the section lies, mm, between the two of range. */
  at: number;
  range: [number, number];
  view?: Schema["View"];
  /** The tooth is cut open along it. */
  cut: boolean;
  onAxis: (axis: Axis) => void;
  onCut: () => void;
  onMove: (at: number) => void;
}

/** A section of the studied tooth, with what moves it. */
export function SectionPane({ axis, at, range, view, cut, onAxis, onCut, onMove }: Props) {
  return (
    <>
      <div className="flex items-center justify-between gap-2 px-3 pt-2">
        <select
          aria-label="Section"
          className="rounded border border-line bg-sheet px-2 py-1"
          value={axis}
          onChange={(e) => onAxis(e.target.value as Axis)}
        >
          {axes.map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" className="accent-accent" checked={cut} onChange={onCut} />
          Cut open
        </label>
      </div>
      <label className="flex items-center gap-2 px-3 py-1">
        <span className="text-xs text-soft">{axis === "level" ? "above the CEJ" : "from the middle"}</span>
        <input
          type="range"
          className="min-w-0 flex-1 accent-accent"
          min={range[0]}
          max={range[1]}
          step={0.1}
          value={at}
          aria-label="Place of the section, mm"
          onChange={(e) => onMove(Number(e.target.value))}
        />
        <output className="w-16 text-right font-mono">{at.toFixed(1)} mm</output>
      </label>
      <div className="grid h-[270px] shrink-0 border-b border-line">
        {view && (
          <ViewDrawing
            view={view}
            checks={[]}
            dimensions={[]}
            onHover={() => undefined}
            onSelect={() => undefined}
            onChange={() => undefined}
          />
        )}
      </div>
    </>
  );
}
