import type { Schema } from "@/api/client";
import { Heading } from "@/ui/Heading";

type Part = Schema["FillPart"];

/** The increments of a part in their order; first is how many others come before it. */
export function Increments({ part, first }: { part: Part; first: number }) {
  return (
    <>
      <Heading ground="measured">
        {`${part.increments.length === 1 ? "One increment" : `${part.increments.length} increments`}, ${part.volume_mm3.toFixed(0)} mm³`}
      </Heading>
      {part.why && <p>{part.why}</p>}
      <ol className="mt-1 space-y-1.5">
        {part.increments.map((i, n) => (
          <li key={i.name} className="rounded border border-line bg-sheet px-2 py-1.5">
            <div className="flex items-baseline justify-between gap-2">
              <b>
                {first + n + 1}. {i.name}
              </b>
              <span className="font-mono text-xs">{i.volume_mm3.toFixed(1)} mm³</span>
            </div>
            <div className="text-xs text-soft">{i.product}</div>
            {i.why && <p>{i.why}</p>}
            <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
              <dt className="text-soft">Thickest</dt>
              <dd className="text-right font-mono">
                {i.thickest_mm.toFixed(2)} of {i.most_mm.toFixed(1)} mm
              </dd>
              <dt className="text-soft">C-factor</dt>
              <dd className="text-right font-mono">
                {typeof i.c_factor === "number" ? i.c_factor.toFixed(1) : "no free face"}
              </dd>
              <dt className="text-soft">Light</dt>
              <dd className="text-right font-mono">
                {i.light.least_seconds}–{i.light.most_seconds} s at {i.light.distance_mm.toFixed(1)} mm
              </dd>
            </dl>
          </li>
        ))}
      </ol>
    </>
  );
}
