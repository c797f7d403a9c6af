import type { ReactNode } from "react";
import type { Schema } from "@/api/client";
import { speedWords, stepName } from "@/steps/sequence";

interface Props {
  sequence: Schema["ProvenSequence"];
  /** Index of the step that is shown. */
  at: number;
  /** The pictures are still of another step. */
  waiting: boolean;
  onStep: (at: number) => void;
  /** Shows a place in the drawings; nothing takes it back. */
  onPoint: (place: number[] | undefined) => void;
  onClose: () => void;
}

/** A rehearsed step, in place of the checks, while the sheet shows the tooth after it. */
export function StepPanel({ sequence, at, waiting, onStep, onPoint, onClose }: Props) {
  const step = sequence.steps[at];
  if (!step) return null;
  const last = sequence.steps.length - 1;
  return (
    <aside
      aria-label="Step"
      className="w-80 shrink-0 overflow-auto border-l border-line bg-paper p-3 max-lg:w-full max-lg:overflow-visible max-lg:border-t max-lg:border-l-0"
    >
      <div className="flex items-baseline justify-between gap-2 text-xs text-soft">
        <span aria-live="polite">
          After step {at + 1} of {last + 1}
          {waiting && ", drawing…"}
        </span>
        <button type="button" className="text-accent underline" onClick={onClose}>
          Back to the checks
        </button>
      </div>
      <input
        type="range"
        aria-label="Step of the sequence"
        aria-valuetext={`${at + 1}, ${stepName(step)}`}
        className="my-2 w-full accent-accent"
        min={0}
        max={last}
        value={at}
        onChange={(e) => onStep(Number(e.target.value))}
      />
      <h2 className="text-lg leading-tight font-bold">{stepName(step)}</h2>
      <p className="text-soft">
        {[step.instrument, speedWords[step.speed]].filter(Boolean).join(", ")}
        {step.figure && <b className="ml-2 font-mono text-ink">{step.figure}</b>}
      </p>
      {step.alarms?.map((a) => (
        <p key={a} className="mt-2 border-l-4 border-warn pl-2">
          {a}
        </p>
      ))}
      {step.lack && <p className="mt-2 border-l-4 border-accent pl-2">{step.lack}</p>}
      <p className="mt-2">{step.action}</p>
      <dl className="mt-2 space-y-1.5">
        <Fact name="Gauge" text={step.gauge} />
        <Fact name="Look for" text={step.look_for} />
        <Fact name="Beware" text={step.caution} />
        <Fact name="Leave" text={step.stays} />
        <Fact name="Hold" text={step.grasp ?? step.lean} />
        <Fact name="Sit" text={step.position} />
        <Fact name="Why this, and now" text={step.why} />
        {step.cut && <Fact name="Takes" text={taken(step.cut)} />}
        {step.others && step.others.length > 0 && (
          <Fact
            name="Instead"
            text={step.others.map((o) => (
              <span key={o.instrument} className="block">
                <b>{o.instrument}</b> {o.trade}
              </span>
            ))}
          />
        )}
      </dl>
      <Proof cavities={sequence.cavities} onPoint={onPoint} />
    </aside>
  );
}

function Fact({ name, text }: { name: string; text?: ReactNode }) {
  if (!text) return null;
  return (
    <div>
      <dt className="text-xs text-soft">{name}</dt>
      <dd>{text}</dd>
    </div>
  );
}

function taken(cut: Schema["StepCut"]) {
  const parts = [
    ["enamel", cut.enamel_mm3],
    ["dentin", cut.dentin_mm3],
    ["old filling", cut.filling_mm3],
  ] as const;
  const said = parts
    .filter(([, mm3]) => mm3 >= 0.01)
    .map(([name, mm3]) => `${mm3.toFixed(2)} mm³ of ${name}`);
  return `${said.join(", ") || "less than 0.01 mm³"}; ${cut.left_mm3.toFixed(2)} mm³ still to go.`;
}

/** How near the kit comes to what is drawn. */
function Proof({ cavities, onPoint }: { cavities: Schema["CavityProof"][] } & Pick<Props, "onPoint">) {
  return (
    <section aria-label="Proof" className="mt-3 border-t border-line pt-2">
      {cavities.map((c, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: in the order of the cavities
        <div key={n}>
          {cavities.length > 1 && <h3 className="font-bold">{c.name || "occlusal"}</h3>}
          {c.undone.map((text) => (
            <p key={text} className="border-l-4 border-warn pl-2">
              {text}
            </p>
          ))}
          {c.unproven.length === 0 ? (
            <p>
              These instruments make it within {c.proven_within_mm} mm of the drawing on every surface;{" "}
              {c.left_mm3.toFixed(2)} of {c.to_go_mm3.toFixed(1)} mm³ are left.
            </p>
          ) : (
            <>
              <p>Not within {c.proven_within_mm} mm of the drawing:</p>
              <ul className="ml-4 list-disc">
                {c.unproven.map(({ text, worst }) => (
                  <li key={text}>
                    <button
                      type="button"
                      className="inline text-left align-top hover:text-accent"
                      title="Show where it is furthest off"
                      onPointerEnter={() => onPoint(worst)}
                      onPointerLeave={() => onPoint(undefined)}
                      onFocus={() => onPoint(worst)}
                      onBlur={() => onPoint(undefined)}
                    >
                      {text}
                    </button>
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      ))}
    </section>
  );
}
