import type { Schema } from "@/api/client";

/** Where a run stands after some events, as the server tells it. */
export type Folded = Pick<
  Schema["ChairState"],
  "step" | "seconds" | "at_seconds" | "paused" | "finished" | "steps" | "clocks"
>;

/** What of a step matters to where a run stands. */
export type Timed = Pick<Schema["Step"], "clock">;

/**
 * Where a run stands once more has happened: what the server would say, for as long as it does not
 * answer. core/chair does the same there; both are tested by core/chair/testdata/folds.json.
 */
export function fold(steps: Timed[], from: Folded, events: Schema["ChairEvent"][]): Folded {
  const s = { ...from, steps: from.steps.map((p) => ({ ...p })) };
  for (const e of events) take(steps, s, e);
  return s.finished ? { ...s, clocks: [] } : s;
}

function take(steps: Timed[], s: Folded, e: Schema["ChairEvent"]) {
  if (s.finished) return; // from a window that was cut off when another one finished
  pass(s, e.at_seconds);
  const at = s.steps[s.step];
  switch (e.kind) {
    case "done":
    case "skipped":
      if (e.step !== s.step || !at) return; // a key pressed twice, or in two windows
      at.done = e.kind === "done";
      at.skipped = e.kind === "skipped";
      leave(steps, s, e);
      goTo(s, s.step + 1);
      return;
    case "back":
      if (e.step === s.step && s.step > 0) goTo(s, s.step - 1);
      return;
    case "paused":
      s.paused = true;
      return;
    case "resumed":
      s.paused = false;
      return;
    case "finished":
      s.finished = true;
      return;
    case "clock_started":
      if (steps[e.step]?.clock) start(s, e.step, e.at_seconds);
      return;
    case "clock_stopped":
      s.clocks = s.clocks.filter((c) => c.step !== e.step);
      return;
  }
}

/** Counts the time up to an event to the step at hand. */
function pass(s: Folded, at: number) {
  const spent = at - s.at_seconds;
  if (spent <= 0) return;
  const step = s.steps[s.step];
  if (!s.paused) {
    s.seconds += spent;
    if (step) step.seconds += spent;
  }
  s.at_seconds = at;
}

function goTo(s: Folded, step: number) {
  s.step = step;
  const at = s.steps[step];
  if (at) at.times++;
}

/** Ends and starts the clocks that hang on the end of a step. */
function leave(steps: Timed[], s: Folded, e: Schema["ChairEvent"]) {
  const least = steps[s.step]?.clock?.least_seconds ?? 0;
  const over = (c: Schema["RunningClock"]) =>
    c.step === s.step && (e.kind === "skipped" || e.at_seconds - c.from_seconds >= least);
  s.clocks = s.clocks.filter((c) => !over(c));
  if (e.kind === "skipped") return;
  steps.forEach((step, n) => {
    if (step.clock?.after === s.step + 1) start(s, n, e.at_seconds);
  });
}

function start(s: Folded, step: number, from_seconds: number) {
  s.clocks = [...s.clocks.filter((c) => c.step !== step), { step, from_seconds }];
}
