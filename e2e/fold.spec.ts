import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { type Folded, fold, type Timed } from "../web/src/features/chair/fold";

interface Vector {
  name: string;
  limits: { least_seconds: number; most_seconds: number; after: number }[];
  events: Parameters<typeof fold>[2];
  stands: Folded;
}

const vectors: Vector[] = JSON.parse(
  readFileSync(new URL("../core/chair/testdata/folds.json", import.meta.url), "utf8"),
);

// What the browser shows while the server does not answer is what the server will say: of the same
// events, however many of them it has already.
test("a run is folded as the server folds it", () => {
  for (const { name, limits, events, stands } of vectors) {
    const steps = limits.map((clock) => (clock.most_seconds > 0 ? { clock } : {})) as Timed[];
    const began: Folded = {
      step: 0,
      seconds: 0,
      at_seconds: 0,
      paused: false,
      finished: false,
      steps: steps.map((_, n) => ({ seconds: 0, times: n === 0 ? 1 : 0, done: false, skipped: false })),
      clocks: [],
    };
    for (let had = 0; had <= events.length; had++) {
      const server = fold(steps, began, events.slice(0, had));
      expect(fold(steps, server, events.slice(had)), `${name}, of which the server has ${had}`).toEqual(
        stands,
      );
    }
  }
});
