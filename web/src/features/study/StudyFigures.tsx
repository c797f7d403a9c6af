import type { Schema } from "@/api/client";
import { formatValue } from "@/drawing/geometry";
import type { Studied } from "./study";

interface TouchProps {
  touched?: Schema["Touch"];
  /** What was pointed at is not on the tooth. */
  failed: boolean;
}

/** What a finger on the tooth has under it. */
export function UnderFinger({ touched, failed }: TouchProps) {
  return (
    <section className="border-b border-line px-3 py-2" aria-live="polite">
      <h2 className="font-bold">Under your finger</h2>
      {failed ? (
        <p className="text-soft">That point is not on this tooth. Touch its surface.</p>
      ) : touched ? (
        <dl className="grid grid-cols-[1fr_auto] gap-x-3">
          <dt>Enamel</dt>
          <dd className="text-right font-mono">
            {touched.enamel > 0 ? formatValue(touched.enamel, "mm") : "none, root"}
          </dd>
          <dt>To the pulp{touched.horn && `, ${touched.horn} horn`}</dt>
          <dd className="text-right font-mono">{formatValue(touched.pulp, "mm")}</dd>
          <dt>of it dentin</dt>
          <dd className="text-right font-mono">{formatValue(touched.dentin, "mm")}</dd>
        </dl>
      ) : (
        <p className="text-soft">
          Click the tooth anywhere: how thick the enamel is there, and how far the pulp.
        </p>
      )}
    </section>
  );
}

interface Props {
  studied: Studied;
  /** Left out where they are not shown. */
  neighbours?: Schema["StudyNeighbour"][];
  onLit: (landmark: string | undefined) => void;
}

/** What is measured on the studied tooth, and its landmarks. */
export function StudyFigures({ studied, neighbours, onLit }: Props) {
  return (
    <>
      <section className="border-b border-line px-3 py-2">
        <h2 className="font-bold">Measured on this model</h2>
        <dl className="grid grid-cols-[1fr_auto] gap-x-3">
          {studied.figures.map((f) => (
            <div key={f.label} className="contents">
              <dt>{f.label}</dt>
              <dd className="text-right font-mono">{formatValue(f.value, f.unit)}</dd>
            </div>
          ))}
          {neighbours?.map((n) => (
            <div key={n.iso} className="contents">
              <dt>
                Gap to {n.iso}, {n.side}
              </dt>
              <dd className="text-right font-mono">{formatValue(n.gap, "mm")}</dd>
            </div>
          ))}
        </dl>
      </section>
      <section className="px-3 py-2">
        <h2 className="font-bold">Landmarks</h2>
        <ul className="grid grid-cols-2 gap-x-3">
          {studied.landmarks.map((l) => (
            <li key={l.name}>
              <button
                type="button"
                className="w-full rounded px-1 text-left hover:bg-accent-ground focus-visible:bg-accent-ground"
                onPointerEnter={() => onLit(l.name)}
                onPointerLeave={() => onLit(undefined)}
                onFocus={() => onLit(l.name)}
                onBlur={() => onLit(undefined)}
              >
                {l.name}
              </button>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}
