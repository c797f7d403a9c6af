import clsx from "clsx";
import type { Schema } from "@/api/client";
import type { RunKeeper, Standing } from "./RunKeeper";
import { useTick } from "./useRunKeeper";

interface Props {
  run: Schema["ChairRun"];
  keeper: RunKeeper;
  standing: Standing;
}

/** The step's time against the plan and the own past, and the whole against plan or limit. */
export function ChairClock({ run, keeper, standing }: Props) {
  const runs = run.own && !standing.paused && !standing.finished;
  useTick(runs);
  const since = runs ? keeper.now() - standing.at_seconds : 0;
  const step = run.sequence.steps[standing.step];
  const planned = run.sequence.steps.reduce((sum, s) => sum + s.seconds, 0);
  const most = run.limit_minutes > 0 ? run.limit_minutes * 60 : planned;
  const past = run.past_seconds[standing.step] ?? 0;
  const onStep = standing.stepSeconds + since;
  const total = standing.seconds + since;
  return (
    <div className="flex items-baseline gap-8 font-mono">
      {step && (
        <span className={clsx(onStep > step.seconds && "text-warn")}>
          <span className="sr-only">Step </span>
          <b>{clock(onStep)}</b>
          <span className="text-soft"> of {clock(step.seconds)}</span>
          {past > 0 && <span className="text-soft">, yours {clock(past)}</span>}
        </span>
      )}
      <span className={clsx(total > most && "text-warn")}>
        <span className="font-sans text-soft">{run.limit_minutes > 0 ? "limit " : "all "}</span>
        <b>{clock(total)}</b>
        <span className="text-soft"> of {clock(most)}</span>
      </span>
      {standing.paused && <b className="font-sans">Paused</b>}
    </div>
  );
}

function clock(seconds: number) {
  const whole = Math.floor(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
