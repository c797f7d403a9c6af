import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { toast } from "sonner";
import type { Schema } from "@/api/client";
import { keys } from "@/api/keys";
import { RunKeeper } from "./RunKeeper";

/** The keeper of a run for as long as its page is open, and where the run stands. */
export function useRunKeeper(caseId: string, run: Schema["ChairRun"]) {
  const queries = useQueryClient();
  const [keeper] = useState(
    () =>
      new RunKeeper(
        caseId,
        run,
        () => queries.invalidateQueries({ queryKey: keys.runs(caseId) }),
        (event, why) =>
          toast.error(`Not kept: ${event.kind.replaceAll("_", " ")}. ${why}`, {
            duration: Number.POSITIVE_INFINITY,
          }),
      ),
  );
  useEffect(() => {
    keeper.open();
    return () => keeper.close();
  }, [keeper]);
  useEffect(() => keeper.adopt(run), [keeper, run]);
  const standing = useSyncExternalStore(keeper.subscribe, () => keeper.standing);
  return { keeper, standing };
}

const tick = 1_000;

/** Counts up once a second while it runs; how long that has been is up to the caller. */
export function useTick(runs: boolean) {
  const [, beat] = useState(0);
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => beat((n) => n + 1), tick);
    return () => clearInterval(timer);
  }, [runs]);
}
