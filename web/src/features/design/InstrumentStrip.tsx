import clsx from "clsx";
import { type KeyboardEvent, useRef, useState, type WheelEvent } from "react";
import { Link } from "react-router";
import type { Schema } from "@/api/client";
import { useKit } from "@/features/kit/kit";
import { BurProfile } from "@/steps/BurProfile";
import { useInstruments } from "@/steps/instruments";
import { firstDrawn, stepName } from "@/steps/sequence";

interface Props {
  caseId: string;
  steps: Schema["Step"][];
  /** Whether the steps are those of the drawing alone, or proven by cutting. */
  proof: "drawn" | "running" | "failed" | "proven";
  /** Of the proof that is made, while it runs. */
  share: number;
  onProve: () => void;
  /** The proven step that the sheet shows. */
  shown?: number;
  onShow: (step: number | undefined) => void;
}

/**
 * The burs and hand instruments in order of use, each bur to one scale. A step opens on
 * click; a proven one shows in the drawings.
 */
export function InstrumentStrip({ caseId, steps, proof, share, onProve, shown, onShow }: Props) {
  const instruments = useInstruments();
  const kit = useKit();
  const out = new Set(kit.data?.notes.filter((n) => n.out).map((n) => n.instrument));
  const [opened, setOpened] = useState<number>();
  const open = proof === "proven" ? shown : opened;
  const setOpen = proof === "proven" ? onShow : setOpened;
  const list = useRef<HTMLOListElement>(null);
  const minutes = Math.round(steps.reduce((sum, s) => sum + s.seconds, 0) / 60);
  const step = open === undefined || proof === "proven" ? undefined : steps[open];

  function goTo(n: number) {
    const at = Math.min(Math.max(n, 0), steps.length - 1);
    const button = list.current?.querySelectorAll<HTMLButtonElement>("button")[at];
    button?.focus();
    button?.scrollIntoView({ inline: "nearest", block: "nearest" });
    if (open !== undefined) setOpen(at);
  }

  function onKeyDown(event: KeyboardEvent, n: number) {
    if (event.key === "ArrowRight") goTo(n + 1);
    else if (event.key === "ArrowLeft") goTo(n - 1);
    else if (event.key === "Home") goTo(0);
    else if (event.key === "End") goTo(steps.length - 1);
    else if (event.key === "Escape") setOpen(undefined);
    else return;
    event.preventDefault();
  }

  /** A plain mouse wheel turns one way only. */
  function onWheel(event: WheelEvent<HTMLOListElement>) {
    if (event.deltaX === 0) event.currentTarget.scrollLeft += event.deltaY;
  }

  return (
    <section
      aria-label="Instruments"
      className="relative flex h-28 shrink-0 items-stretch border-t border-line bg-panel"
    >
      {step && <OpenStep step={step} number={(open ?? 0) + 1} onClose={() => setOpen(undefined)} />}
      <div className="flex w-44 shrink-0 flex-col justify-center gap-0.5 border-r border-line px-2 text-xs text-soft">
        <b className="text-ink">Steps</b>
        <span>about {minutes} min</span>
        {proof === "running" && <span>Not proven yet: {Math.round(100 * share)} % cut</span>}
        {proof === "proven" && <span role="status">Proven by cutting</span>}
        {proof === "drawn" && <span>Not proven yet</span>}
        {(proof === "drawn" || proof === "failed") && (
          <button type="button" className="text-left text-accent underline" onClick={onProve}>
            {proof === "failed" ? "No answer: try again" : "Prove by cutting"}
          </button>
        )}
        <span className="flex gap-2">
          <Link className="text-accent underline" to={`/cases/${caseId}/chair`}>
            At the chair
          </Link>
          <Link className="text-accent underline" to={`/cases/${caseId}/hands`}>
            Your hands
          </Link>
        </span>
      </div>
      <ol
        ref={list}
        className="flex min-w-0 flex-1 overflow-x-auto"
        aria-label="Instruments in order"
        onWheel={onWheel}
      >
        {steps.map((s, n) => {
          const bur = firstDrawn(s, instruments.data);
          const missing = s.instruments.filter((id) => out.has(id));
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: two cavities may have the same step
            <li key={n} className="flex min-w-36 flex-1 border-r border-line">
              <button
                type="button"
                aria-expanded={open === n}
                className={clsx(
                  "flex w-full items-center gap-2 px-2 text-left",
                  open === n ? "bg-accent-ground" : "hover:bg-sheet",
                )}
                onClick={() => setOpen(open === n ? undefined : n)}
                onKeyDown={(event) => onKeyDown(event, n)}
              >
                {bur && (
                  <BurProfile profile={bur.profile} length={bur.length} neck={bur.neck} name={bur.name} />
                )}
                <span className="min-w-0">
                  <span className="line-clamp-2 text-xs leading-tight text-soft">
                    {n + 1} {stepName(s)}
                  </span>
                  <b className="line-clamp-2 text-sm leading-tight">{s.instrument}</b>
                  <span className="block text-xs leading-tight text-soft">
                    {s.speed === "none" ? "" : s.speed}
                  </span>
                  {missing.length > 0 && (
                    <span className="line-clamp-2 text-xs leading-tight font-bold text-warn">
                      not in the kit{missing.length < s.instruments.length && `: ${missing.join(", ")}`}
                    </span>
                  )}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** What is done in a step, how it is proved, and what to beware of. */
function OpenStep({ step, number, onClose }: { step: Schema["Step"]; number: number; onClose: () => void }) {
  const parts: [string, string | undefined][] = [
    ["Do", step.action],
    ["Gauge", step.gauge],
    ["Beware", step.caution],
  ];
  return (
    <section
      aria-label={`Step ${number}`}
      className="absolute right-0 bottom-full left-0 z-20 max-h-72 overflow-auto border-t border-accent bg-paper p-3 shadow-md"
    >
      <div className="flex items-baseline gap-3">
        <h2 className="font-bold">
          {number} {step.step}: {step.instrument}
        </h2>
        <button type="button" className="ml-auto text-accent underline" onClick={onClose}>
          Close
        </button>
      </div>
      <dl className="mt-1 grid grid-cols-[5rem_1fr] gap-x-3 gap-y-1">
        {parts.map(
          ([name, text]) =>
            text && (
              <div key={name} className="contents">
                <dt className="text-soft">{name}</dt>
                <dd className="max-w-3xl">{text}</dd>
              </div>
            ),
        )}
      </dl>
    </section>
  );
}
