import clsx from "clsx";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import type { Schema } from "@/api/client";
import { ViewDrawing } from "@/drawing/ViewDrawing";
import type { Device } from "@/features/device/useDevice";
import { useFilling } from "@/features/filling/filling";
import { BurProfile } from "@/steps/BurProfile";
import { useInstruments } from "@/steps/instruments";
import { firstDrawn, speedWords, stepName, useStage } from "@/steps/sequence";
import { ChairClock } from "./ChairClock";
import type { RunKeeper, Standing } from "./RunKeeper";
import { RunningClocks } from "./RunningClocks";
import { useChairKeys } from "./useChairKeys";
import { useFootSwitch } from "./useFootSwitch";

interface Props {
  caseId: string;
  run: Schema["ChairRun"];
  keeper: RunKeeper;
  standing: Standing;
}

/** One step at a time, to be read from a metre and a half and gone through with gloves on. */
export function ChairView({ caseId, run, keeper, standing }: Props) {
  const navigate = useNavigate();
  const [turn, setTurn] = useState(0);
  const [told, tell] = useState("");
  const { steps } = run.sequence;
  const step = steps[standing.step];
  // Of a sitting the tooth that the step is about is the one to be seen.
  const shown = run.visits?.find((v) => v.tooth === step?.teeth?.[0]) ?? {
    document: run.document,
    case: caseId,
  };
  const going = run.own && !standing.finished;
  const running = standing.clocks.some((c) => c.step === standing.step);
  // Where time decides and no other step starts it, the first press starts the clock.
  const byHand = step?.clock !== undefined && !step.clock.after;

  function slip(kind: Schema["ChairEventKind"], words: string, mm?: number) {
    keeper.note(kind, mm);
    tell(words);
  }
  const deeds = {
    next: () => {
      tell("");
      if (standing.paused) keeper.note("resumed");
      else if (byHand && !running) keeper.note("clock_started");
      else if (step) keeper.note("done");
      else keeper.note("finished");
    },
    back: () => {
      tell("");
      keeper.note("back");
    },
    skip: () => {
      tell("");
      if (step) keeper.note("skipped");
    },
    pause: () => keeper.note(standing.paused ? "resumed" : "paused"),
    clock: () => {
      if (step?.clock) keeper.note(running ? "clock_stopped" : "clock_started");
    },
    view: () => setTurn(turn + 1),
    neighbour: () => slip("neighbour_touched", "Noted: neighbour touched."),
    pulp: () => slip("pulp_seen", "Noted: pulp seen."),
    tooDeep: (mm: number) => slip("too_deep", `Noted: ${mm.toFixed(1)} mm too deep.`, mm),
    reading: (mm: number) => slip("reading", `Read: ${mm.toFixed(1)} mm.`, mm),
  };
  const begun = useChairKeys(deeds, going);
  const [footSwitch, wantFootSwitch] = useFootSwitch(deeds, going);

  return (
    <main className="flex h-full flex-col overflow-hidden" aria-label="At the chair">
      <div className="grid min-h-0 flex-1 grid-cols-[1fr_36rem]">
        <div className="relative grid min-h-0 min-w-0 border-r border-line bg-sheet">
          {step && !run.examination ? (
            step.filling ? (
              <FilledPicture document={shown.document} caseId={shown.case} turn={turn} />
            ) : (
              <Picture document={shown.document} step={(step.shown ?? standing.step + 1) - 1} turn={turn} />
            )
          ) : (
            <p className="place-self-center p-10 text-center text-4xl text-soft">
              {step ? "Examination: no hints." : "All steps are behind you."}
            </p>
          )}
        </div>
        <section aria-label="Step at hand" className="flex min-h-0 flex-col gap-3 overflow-auto p-5">
          {step ? (
            <StepText step={step} number={standing.step + 1} of={steps.length} bare={run.examination}>
              <RunningClocks run={run} keeper={keeper} standing={standing} />
              <Aloud told={told} begun={begun} standing={standing} />
            </StepText>
          ) : (
            <Behind standing={standing} steps={steps} />
          )}
        </section>
      </div>
      <footer className="flex shrink-0 items-center gap-3 border-t border-line bg-panel px-4 py-2 text-[32px]">
        <ChairClock run={run} keeper={keeper} standing={standing} />
        <div className="ml-auto flex items-center gap-2">
          {going ? (
            <>
              <Key onPress={deeds.back} name="Back" keys="←" />
              <Key onPress={deeds.pause} name={standing.paused ? "Go on" : "Pause"} keys="P" />
              <Key
                onPress={deeds.next}
                name={!step ? "Finish" : byHand && !running ? "Start the clock" : "Done"}
                keys="Space"
                main
              />
            </>
          ) : (
            <Key onPress={() => navigate(`/cases/${caseId}/chair`)} name="Close" keys="" main />
          )}
        </div>
      </footer>
      {going && (
        <p className="shrink-0 bg-panel px-4 pb-1 text-sm text-soft">
          Space done, ← back, S skip, P pause, C clock, V other view, N neighbour touched, U pulp seen, D and
          a digit: tenths too deep, two digits: a reading ·{" "}
          <button
            type="button"
            className="text-accent underline"
            onClick={() => wantFootSwitch(footSwitch === "off")}
          >
            {footSwitchWords[footSwitch]}
          </button>
          {standing.unsent > 0 && <b className="text-warn"> · kept here, not sent yet: {standing.unsent}</b>}
        </p>
      )}
    </main>
  );
}

const footSwitchWords: Record<Device, string> = {
  off: "Use a foot switch",
  sought: "Foot switch: none answers yet",
  connected: "Foot switch connected",
};

/** The filling in the sections of the tooth, in one view at a time. */
function FilledPicture({
  document,
  caseId,
  turn,
}: {
  document: Schema["CaseDocument"];
  caseId: string;
  turn: number;
}) {
  const filling = useFilling(document, { caseId, proven: true, wanted: true });
  const views = filling.data?.views ?? [];
  const along = Math.max(
    views.findIndex((v) => v.section === "along"),
    0,
  );
  return (
    <Shown
      view={views[(along + turn) % Math.max(views.length, 1)]}
      failed={filling.isError}
      waiting={filling.isPlaceholderData}
    />
  );
}

/** The tooth as it should look after the step, with its bur, in one view at a time. */
function Picture({ document, step, turn }: { document: Schema["CaseDocument"]; step: number; turn: number }) {
  const stage = useStage(document, step);
  const views = stage.data?.views ?? [];
  const first = stage.data?.first ?? 0; // V turns to the others
  return (
    <Shown
      view={views[(first + turn) % Math.max(views.length, 1)]}
      failed={stage.isError}
      waiting={stage.isPlaceholderData}
    />
  );
}

function Shown({ view, failed, waiting }: { view?: Schema["View"]; failed: boolean; waiting: boolean }) {
  if (failed)
    return <p className="place-self-center p-10 text-center text-[32px] text-warn">No picture: no answer.</p>;
  if (!view || waiting) return <p className="place-self-center p-10 text-[32px] text-soft">Drawing…</p>;
  return (
    <ViewDrawing
      view={view}
      checks={[]}
      dimensions={[]}
      readOnly
      lettering={32}
      onHover={() => {}}
      onSelect={() => {}}
      onChange={() => {}}
    />
  );
}

interface TextProps {
  step: Schema["Step"];
  number: number;
  of: number;
  /** Without hints: what, not how. */
  bare: boolean;
  /** What was just noted; it comes before what to do. */
  children: ReactNode;
}

function StepText({ step, number, of, bare, children }: TextProps) {
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
function Aloud({ told, begun, standing }: { told: string; begun: string; standing: Standing }) {
  const sequel = standing.sequels.at(-1);
  return (
    <div aria-live="polite" className="text-[32px] leading-[1.15]">
      {begun && <p className="text-soft">{begun === "D" ? "Too deep by, tenths: ?" : `${begun}.?`}</p>}
      {told && <p>{told}</p>}
      {sequel && (told || sequel.step === standing.step) && (
        <p className="border-l-8 border-accent pl-4">{sequel.text}</p>
      )}
    </div>
  );
}

/** What a run came to, once its steps are behind. */
function Behind({ standing, steps }: { standing: Standing; steps: Schema["Step"][] }) {
  const skipped = steps.filter((_, n) => standing.steps[n]?.skipped);
  return (
    <>
      <h1 className="text-[40px] leading-tight font-bold">
        {standing.finished ? "Finished" : "All steps done"}
      </h1>
      <p className="text-[32px]">{Math.round(standing.seconds / 60)} minutes of work.</p>
      {skipped.length > 0 && <p className="text-[32px]">Skipped: {skipped.map(stepName).join(", ")}.</p>}
      {standing.sequels.length > 0 && (
        <ul className="ml-8 list-disc text-[32px] leading-[1.15]">
          {standing.sequels.map((s, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: slips stay in their order
            <li key={n}>{s.text}</li>
          ))}
        </ul>
      )}
    </>
  );
}

interface KeyProps {
  name: ReactNode;
  keys: string;
  main?: boolean;
  onPress: () => void;
}

function Key({ name, keys, main, onPress }: KeyProps) {
  return (
    <button
      type="button"
      className={clsx(
        "rounded border px-6 py-2 leading-tight font-bold",
        main ? "border-accent bg-accent text-paper" : "border-line bg-sheet",
      )}
      aria-keyshortcuts={keys === "←" ? "ArrowLeft" : keys || undefined}
      onClick={(event) => {
        event.currentTarget.blur(); // the next Space is the chair's again
        onPress();
      }}
    >
      {name}
    </button>
  );
}
