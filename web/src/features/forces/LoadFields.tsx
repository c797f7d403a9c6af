import type { Schema } from "@/api/client";
import { FigureInput } from "@/ui/FigureInput";
import type { Load } from "./forces";

const places: Record<Schema["LoadPlace"], string> = {
  between_cusps: "between the cusps",
  contacts: "on the marked contacts",
  antagonist: "by a flat antagonist",
};

interface Props {
  load: Load;
  /** What came of it, with the usual figures that were left out. */
  deflection?: Schema["Deflection"];
  /** Contacts are marked on the tooth. */
  marked: boolean;
  onLoad: (load: Load) => void;
}

/** How much presses, where and how slanted; an empty field takes the usual. */
export function LoadFields({ load, deflection, marked, onLoad }: Props) {
  const place = load.place ?? deflection?.place ?? "between_cusps";
  return (
    <p className="mb-1 flex flex-wrap items-center gap-x-2 gap-y-1">
      Load
      <FigureInput
        label="Load in newtons"
        value={load.newtons ?? deflection?.newtons}
        open="the usual one"
        onChange={(newtons) => onLoad({ ...load, newtons })}
      />
      N
      <select
        className="rounded border border-line bg-sheet px-1 py-0.5"
        aria-label="Where it presses"
        value={place}
        onChange={(e) => onLoad({ ...load, place: e.target.value as Schema["LoadPlace"] })}
      >
        {(Object.keys(places) as Schema["LoadPlace"][]).map((p) => (
          <option key={p} value={p} disabled={p === "contacts" && !marked}>
            {places[p]}
          </option>
        ))}
      </select>
      {place === "between_cusps" && (
        <span className="flex items-center gap-2">
          <FigureInput
            label="Load, millimetres from the tips"
            value={load.down ?? deflection?.down}
            open="the usual place"
            onChange={(down) => onLoad({ ...load, down })}
          />
          mm from the tips
        </span>
      )}
      <span className="flex items-center gap-2">
        slanted
        <FigureInput
          label="Slant of the load, degrees outwards"
          value={load.slant ?? deflection?.slant}
          open="not slanted"
          onChange={(slant) => onLoad({ ...load, slant })}
        />
        ° outwards
      </span>
    </p>
  );
}
