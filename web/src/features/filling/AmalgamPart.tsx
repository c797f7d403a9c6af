import type { Schema } from "@/api/client";
import { Heading } from "@/ui/Heading";

const seconds = 60;
const minutes = (s: number) => (s / seconds).toLocaleString("en", { maximumFractionDigits: 1 });

/** What a part takes of amalgam, load by load. */
export function AmalgamPart({ part, charge }: { part: Schema["FillPart"]; charge: Schema["AmalgamCharge"] }) {
  return (
    <>
      <Heading ground="from the cut cavity">{`${charge.loads} loads, ${part.volume_mm3.toFixed(0)} mm³`}</Heading>
      <p>
        {charge.mass_mg} mg of {charge.product} with what is carved off, {mixes(charge.mixes)}.
      </p>
      <p className="mt-1">
        Each mix from the end of its trituration: condensed within {minutes(charge.condense_seconds)} min,
        carved by {minutes(charge.carve_seconds)} min. No heavy load for {charge.no_load_hours} h.
      </p>
      <table className="mt-2 w-full">
        <thead className="text-left text-xs text-soft">
          <tr>
            <th className="pr-2 font-normal">Load</th>
            <th className="font-normal">goes</th>
            <th className="text-right font-normal">stands, mm</th>
          </tr>
        </thead>
        <tbody>
          {part.loads.map((l, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: loads are known by their order
            <tr key={n} className="border-t border-line align-top">
              <td className="py-0.5 pr-2 font-mono">{n + 1}</td>
              <td className="py-0.5">{l.where}</td>
              <td className="py-0.5 text-right font-mono">{l.height_mm.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** The capsules in their order: "600 mg alloy for 7 loads, then 400 mg for 6". */
function mixes(all: Schema["AmalgamMix"][]): string {
  return all
    .map((m, n) =>
      n === 0
        ? `a capsule of ${m.alloy_mg} mg alloy for ${m.loads} loads`
        : `${m.alloy_mg} mg for ${m.loads}`,
    )
    .join(", then ");
}
