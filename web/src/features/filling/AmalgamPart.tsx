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
        {charge.mass_mg} mg with what is carved off: {capsules(charge.capsules_mg)} of {charge.product}.
      </p>
      <p className="mt-1">
        From the end of trituration: condensed within {minutes(charge.condense_seconds)} min, carved by{" "}
        {minutes(charge.carve_seconds)} min, no heavy load for {charge.no_load_hours} h.
      </p>
      <table className="mt-2 w-full">
        <thead className="text-left text-xs text-soft">
          <tr>
            <th className="font-normal">Load</th>
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

/** Capsules of the same size together: "2 of 800 mg". */
function capsules(sizes: number[]): string {
  const counted = new Map<number, number>();
  for (const mg of sizes) counted.set(mg, (counted.get(mg) ?? 0) + 1);
  return [...counted]
    .map(([mg, n]) => `${n} ${n === 1 ? "capsule" : "capsules"} of ${mg} mg alloy`)
    .join(" and ");
}
