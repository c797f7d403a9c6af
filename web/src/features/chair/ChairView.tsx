import clsx from "clsx";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import type { Schema } from "@/api/client";
import type { Device } from "@/features/device/useDevice";
import { Behind } from "./Behind";
import { ChairClock } from "./ChairClock";
import { FilledPicture, Picture } from "./ChairPictures";
import type { RunKeeper, Standing } from "./RunKeeper";
import { RunningClocks } from "./RunningClocks";
import { Aloud, StepText } from "./StepText";
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
