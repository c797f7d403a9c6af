import clsx from "clsx";
import { useEffect, useRef } from "react";
import type { Schema } from "@/api/client";
import { stepName } from "@/steps/sequence";
import type { RunKeeper, Standing } from "./RunKeeper";
import { sound } from "./sound";
import { useTick } from "./useRunKeeper";

const soon = 5; // seconds before an end that is announced

/** What a clock comes to now: how far it has run, and what that means. */
function reading(clock: Schema["StepClock"], ran: number): { words: string; seconds: number; late: boolean } {
  const { least_seconds: least, most_seconds: most } = clock;
  if (ran < least) return { words: "to go", seconds: least - ran, late: false };
  if (ran <= most) return { words: least > 0 ? "enough, at most" : "left", seconds: most - ran, late: false };
  return { words: "over", seconds: ran - most, late: true };
}

interface Props {
  run: Schema["ChairRun"];
  keeper: RunKeeper;
  standing: Standing;
}

/** All clocks that run, that of the step at hand large and first; the ends are seen and heard. */
export function RunningClocks({ run, keeper, standing }: Props) {
  const own = (c: Schema["RunningClock"]) => (c.step === standing.step ? 0 : 1);
  const clocks = standing.clocks.toSorted((a, b) => own(a) - own(b));
  useTick(clocks.length > 0);
  const now = keeper.now();
  const { steps } = run.sequence;
  return (
    <ul aria-label="Clocks" className={clsx("space-y-2", clocks.length === 0 && "hidden")}>
      {clocks.map((c) => {
        const step = steps[c.step];
        return (
          step?.clock && (
            <RunningClock
              key={`${c.step} ${c.from_seconds}`}
              name={stepName(step)}
              clock={step.clock}
              small={own(c) > 0}
              ran={now - c.from_seconds}
              onStop={run.own ? () => keeper.note("clock_stopped", undefined, c.step) : undefined}
            />
          )
        );
      })}
    </ul>
  );
}

const minute = 60;

/** Seconds, or minutes and seconds where there are many. */
function counted(seconds: number) {
  if (seconds < 2 * minute) return `${seconds} s`;
  return `${Math.floor(seconds / minute)}:${String(seconds % minute).padStart(2, "0")}`;
}

interface OneProps {
  name: string;
  clock: Schema["StepClock"];
  /** Another step's: a line of its own is enough. */
  small: boolean;
  /** Seconds since it was started. */
  ran: number;
  onStop?: () => void;
}

function RunningClock({ name, clock, small, ran, onStop }: OneProps) {
  const { words, seconds, late } = reading(clock, ran);
  // Announced a little before the least and before the most, and at the least itself.
  const stage = [
    clock.least_seconds - soon,
    clock.least_seconds,
    clock.most_seconds - soon,
    clock.most_seconds,
  ].filter((at) => at > 0 && ran >= at).length;
  const heard = useRef(stage);
  useEffect(() => {
    if (stage > heard.current) sound(late ? "late" : ran >= clock.least_seconds ? "enough" : "soon");
    heard.current = stage;
  }, [stage, late, ran, clock.least_seconds]);
  const near = seconds <= soon;
  return (
    <li
      className={clsx(
        "flex items-baseline gap-4 rounded px-4 text-[32px] leading-tight",
        small ? "border-2" : "border-4 py-1",
        late || near ? "border-warn" : "border-line",
        near && !late && "bg-accent-ground",
      )}
    >
      <b className={clsx("font-mono leading-none", small ? "text-[32px]" : "text-[64px]")}>
        {counted(Math.ceil(seconds))}
      </b>
      <span className={clsx("min-w-0 flex-1", small && "truncate")}>
        <span className={clsx(!small && "sr-only")}>{name}</span>
        <span className={clsx("text-soft", small ? "ml-2" : "block")}>{words}</span>
      </span>
      {onStop && (
        <button
          type="button"
          aria-label={`Stop the clock: ${name}`}
          className={clsx("rounded border border-line bg-sheet px-4", !small && "py-1")}
          onClick={(event) => {
            event.currentTarget.blur(); // the next Space is the chair's again
            onStop();
          }}
        >
          {small ? "×" : "Stop"}
        </button>
      )}
    </li>
  );
}
