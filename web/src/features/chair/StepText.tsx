import type { ReactNode } from "react";
import type { Schema } from "@/api/client";
import { BurProfile } from "@/steps/BurProfile";
import { useInstruments } from "@/steps/instruments";
import { firstDrawn, speedWords, stepName } from "@/steps/sequence";
import type { Standing } from "./RunKeeper";

interface TextProps {
  step: Schema["Step"];
  number: number;
  of: number;
  /** Without hints: what, not how. */
  bare: boolean;
  /** What was just noted; it comes before what to do. */
  children: ReactNode;
}

export function StepText({ step, number, of, bare, children }: TextProps) {
  const instruments = useInstruments();
  const bur = firstDrawn(step, instruments.data);
  return (
    <>
      <p className="text-[32px] leading-none text-soft">
        {number} of {of}
      </p>
      <h1 className="text-[40px] leading-tight font-bold">{stepName(step)}</h1>
      {children}
      {!bare && (
        <>
          <div className="flex items-center gap-5">
            {bur && <BurProfile profile={bur.profile} length={bur.length} neck={bur.neck} name={bur.name} />}
            <div className="text-[32px] leading-tight">
              <b>{step.instrument}</b>
              {!step.filling && <span className="block text-soft">{speedWords[step.speed]}</span>}
              {step.position && <span className="block text-soft">{step.position}</span>}
            </div>
          </div>
          {step.why && step.teeth && <p className="text-[32px] leading-[1.15] text-soft">{step.why}</p>}
          {step.figure && <p className="font-mono text-[64px] leading-none font-bold">{step.figure}</p>}
          <p className="text-[32px] leading-[1.15]">{step.action}</p>
          {step.caution && (
            <p className="border-l-8 border-warn pl-4 text-[32px] leading-[1.15]">{step.caution}</p>
          )}
        </>
      )}
    </>
  );
}

/** What was just noted, and what the newest slip leads on to. */
export function Aloud({ told, begun, standing }: { told: string; begun: string; standing: Standing }) {
  const sequel = standing.sequels.at(-1);
  return (
    <div aria-live="polite" className="text-[32px] leading-[1.15]">
      {begun && <p className="text-soft">{begun === "D" ? "Too deep by, tenths: ?" : `${begun}.?`}</p>}
      {told && <p>{told}</p>}
      {sequel && (told || sequel.step === standing.step) && (
        <div className="border-l-8 border-accent pl-4">
          <p>{sequel.text}</p>
          {sequel.steps && (
            <ol className="ml-8 list-decimal text-2xl leading-[1.15]" aria-label="What to do now">
              {sequel.steps.map((s) => (
                <li key={s}>{s}</li>
              ))}
            </ol>
          )}
        </div>
      )}
    </div>
  );
}
