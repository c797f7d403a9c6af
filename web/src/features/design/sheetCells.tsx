import clsx from "clsx";
import type { ReactNode } from "react";
import type { Schema } from "@/api/client";
import { pair } from "@/drawing/geometry";
import type { Sections } from "@/sheet/sections";

type Place = "plan" | "side" | "along";

/** Where the sheet's drawings stand; the turnable tooth takes the fourth place. */
export const cellPlaces: Record<Place, string> = {
  plan: "order-1 border-r border-b",
  side: "order-3 border-r",
  along: "order-4",
};

interface Cell {
  place: Place;
  view: Schema["View"];
  caption?: ReactNode;
}

const isAlong = (view: Schema["View"]) => view.section === "along";

/**
 * Places a plan's views on the sheet: the plan or the surface as the dentist looks at
 * it, a section, and in the third place one of the others.
 */
export function sheetCells(
  views: Schema["View"][],
  chosen: string | undefined,
  choose: (id: string) => void,
  sections: Sections,
  /** Left out where the sections stay. */
  moveTo?: (sections: Sections) => void,
): Cell[] {
  const plan = views.find((v) => v.id === "plan") ?? views[0];
  const along = (plan?.id === "plan" ? views.find(isAlong) : views.findLast(isAlong)) ?? views.at(-1);
  const sides = views.filter((v) => v !== plan && v !== along);
  const side = sides.find((v) => v.id === chosen) ?? sides[0];
  const cells: Cell[] = [];
  if (plan) cells.push({ place: "plan", view: plan });
  if (side) {
    cells.push({
      place: "side",
      view: side,
      caption: (
        <>
          {sides.length > 1 ? (
            <Tabs views={sides} current={side.id} onChoose={choose} />
          ) : (
            <Title view={side} />
          )}
          {moveTo && side.section === "across" && (
            <Mover
              label="Section across, moved"
              range={pair(side.section_range ?? [])}
              at={side.at}
              own={sections.across !== undefined}
              onMove={(across) => moveTo({ ...sections, across })}
            />
          )}
        </>
      ),
    });
  }
  if (along) {
    cells.push({
      place: "along",
      view: along,
      caption: (
        <>
          <Title view={along} />
          {moveTo && isAlong(along) && (
            <Mover
              label="Section along, moved"
              range={pair(along.section_range ?? [])}
              at={along.at}
              own={sections.along !== undefined}
              onMove={(along) => moveTo({ ...sections, along })}
            />
          )}
        </>
      ),
    });
  }
  return cells;
}

function Title({ view }: { view: Schema["View"] }) {
  return <span className="shrink-0 font-bold text-ink">{view.title}</span>;
}

function Tabs({
  views,
  current,
  onChoose,
}: {
  views: Schema["View"][];
  current: string;
  onChoose: (id: string) => void;
}) {
  if (views.length > 3)
    return (
      <select
        aria-label="View from the side"
        className="shrink-0 rounded border border-line bg-sheet px-1 font-bold text-ink"
        value={current}
        onChange={(e) => onChoose(e.target.value)}
      >
        {views.map((v) => (
          <option key={v.id} value={v.id}>
            {v.title}
          </option>
        ))}
      </select>
    );
  return (
    <span role="tablist" aria-label="View from the side" className="flex shrink-0 gap-1">
      {views.map((v) => (
        <button
          key={v.id}
          type="button"
          role="tab"
          aria-selected={v.id === current}
          className={clsx(
            "rounded px-1.5",
            v.id === current ? "bg-accent-ground font-bold text-ink" : "text-accent underline",
          )}
          onClick={() => onChoose(v.id)}
        >
          {v.id === "buccolingual" ? "Across" : v.title}
        </button>
      ))}
    </span>
  );
}

const step = 0.2;

/** Moves a section through the tooth; back lets the plan place it again. */
function Mover({
  label,
  range,
  at,
  own,
  onMove,
}: {
  label: string;
  /** Lowest and highest place, mm from the tooth's middle, or over its cervical line. */
  range: [number, number];
  at: number;
  own: boolean;
  onMove: (at: number | undefined) => void;
}) {
  return (
    <span className="flex min-w-0 flex-1 items-center justify-end gap-1">
      <input
        type="range"
        aria-label={label}
        className="min-w-12 max-w-28 flex-1 accent-accent"
        min={range[0]}
        max={range[1]}
        step={step}
        value={Math.round(at / step) * step}
        onChange={(e) => onMove(Number(e.target.value))}
      />
      <b className="w-9 text-right font-mono text-ink">{(Math.round(at * 10) / 10 || 0).toFixed(1)}</b>
      {own && (
        <button type="button" className="text-accent underline" onClick={() => onMove(undefined)}>
          back
        </button>
      )}
    </span>
  );
}
