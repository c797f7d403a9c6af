import type { UseQueryResult } from "@tanstack/react-query";
import { Link } from "react-router";
import { inWords, type Schema } from "@/api/client";
import { Assumed, Heading } from "@/ui/Heading";
import { AmalgamPart } from "./AmalgamPart";
import { FillSteps } from "./FillSteps";
import { Increments } from "./Increments";

/** How each cavity is filled: what stands round it, and the portions in their order. */
export function FillingPanel({ filling }: { filling: UseQueryResult<Schema["FilledCase"]> }) {
  const cavities = filling.data?.fill ?? [];
  let laid = 0; // increments are counted on through all cavities, as in the drawings
  return (
    <aside
      aria-label="Filling"
      className="w-80 shrink-0 overflow-auto border-l border-line bg-paper p-3 max-lg:w-full max-lg:overflow-visible max-lg:border-t max-lg:border-l-0"
      aria-busy={filling.isFetching}
    >
      {filling.isPending && <p className="text-soft">Filling the cavity…</p>}
      {filling.error && <p className="text-warn">{inWords(filling.error)}</p>}
      {cavities.map((cavity) => (
        <section key={cavity.of ?? ""} className="mb-4">
          {cavities.length > 1 && <h2 className="font-bold capitalize">{cavity.of || "occlusal"}</h2>}
          <Protection layers={cavity.protection ?? []} />
          <Matrix matrix={cavity.matrix} />
          {cavity.parts.map((part, n) => {
            const first = laid;
            laid += part.increments.length;
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: parts stand in the order of the plan
              <div key={n} className="mt-3">
                {cavity.parts.length > 1 && (
                  <h3 className="text-soft">
                    Part {n + 1} of {cavity.parts.length}
                  </h3>
                )}
                {part.charge ? (
                  <AmalgamPart part={part} charge={part.charge} />
                ) : (
                  <Increments part={part} first={first} />
                )}
              </div>
            );
          })}
          {cavity.lamp && <LampUsed lamp={cavity.lamp} />}
          <FillSteps steps={cavity.steps} seconds={cavity.seconds} />
          <Assumed all={cavity.assumptions} />
        </section>
      ))}
    </aside>
  );
}

function LampUsed({ lamp }: { lamp: Schema["FillLamp"] }) {
  return (
    <p className="mt-2">
      Cured by {lamp.name}, {lamp.output} mW/cm² as read last.{" "}
      {lamp.note && <span className="text-warn">{lamp.note} </span>}
      <Link className="text-accent underline" to="/materials">
        Materials
      </Link>
    </p>
  );
}

/** What is laid over the pulp first. */
function Protection({ layers }: { layers: Schema["PulpProtection"][] }) {
  if (layers.length === 0) return null;
  return (
    <div className="mb-3">
      <Heading ground="fitted">Over the pulp</Heading>
      <ol className="list-decimal space-y-1 pl-4">
        {layers.map((l) => (
          <li key={l.product}>
            {l.product}, {l.thick_mm.toFixed(1)} mm thick on {l.area_mm2.toFixed(1)} mm² of floor. {l.why}
          </li>
        ))}
      </ol>
    </div>
  );
}

function Matrix({ matrix }: { matrix: Schema["Matrix"] }) {
  return (
    <>
      <Heading ground="fitted">{matrix.name ?? "Matrix"}</Heading>
      <p>{matrix.why}</p>
      {matrix.bands.map((b) => (
        <div key={b.side} className={b.seats ? "mt-2" : "mt-2 border-l-4 border-warn pl-2"}>
          <h3 className="font-bold capitalize">{b.side}</h3>
          <ul className="list-disc space-y-0.5 pl-4">
            {b.notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </div>
      ))}
    </>
  );
}
