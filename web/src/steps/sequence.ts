import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type CaseDocument, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";
import { useKit } from "@/features/kit/kit";

/** How far the proof of a case is; the sequence comes with its end. */
export interface Proof {
  share: number;
  sequence?: Schema["ProvenSequence"];
}

/** A revision, which is answered with the kit and the products that were fixed with it. */
export interface Fixed {
  case: string;
  revision: number;
}

const stillLooking = 4_000; // milliseconds

/** The steps at the chair, proven by cutting: asked for while it is wanted, and no longer. */
export function useProof(document: CaseDocument | undefined, wanted: boolean, fixed?: Fixed) {
  const kit = useKit(); // another kit cuts otherwise
  return useQuery({
    queryKey: keys.proof(document, fixed, kit.data?.version),
    enabled: wanted && document !== undefined && kit.data !== undefined,
    queryFn: async ({ signal }): Promise<Proof> => {
      const params = { query: { wait: 1, ...fixed } };
      const body = document as CaseDocument; // not asked for without
      const made = unwrap(await api.POST("/evaluate/sequence", { params, body, signal }));
      return "steps" in made ? { share: 1, sequence: made } : made;
    },
    // How far it is, changes tell; this says that somebody still looks, or it would be ended.
    refetchInterval: (query) => (query.state.data && !query.state.data.sequence ? stillLooking : false),
    staleTime: (query) => (query.state.data?.sequence ? Number.POSITIVE_INFINITY : 0),
  });
}

/** Whether a value has stayed as it is for so many seconds; never after none. */
export function useRested<T>(value: T, seconds: number): boolean {
  const [rested, rest] = useState<T>();
  useEffect(() => {
    if (seconds <= 0) return;
    const timer = setTimeout(() => rest(value), 1000 * seconds);
    return () => clearTimeout(timer);
  }, [value, seconds]);
  return rested === value;
}

/** The tooth as it looks after a step, with the bur in it. */
export function useStage(document: CaseDocument, step: number | undefined, fixed?: Fixed) {
  const kit = useKit();
  return useQuery({
    queryKey: keys.stage(document, step, fixed, kit.data?.version),
    enabled: step !== undefined && kit.data !== undefined,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate/sequence/stage", {
          params: { query: { step: step ?? 0, ...fixed } },
          body: document,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The name of a step, with the cavity and the teeth that it is about. */
export function stepName(step: Schema["Step"]) {
  const teeth = step.teeth?.join(" and ");
  return [step.step, step.of, teeth].filter(Boolean).join(", ");
}

/** How an instrument turns, in words. */
export const speedWords: Record<Schema["Speed"], string> = {
  high: "high speed, water",
  low: "low speed",
  hand: "by hand",
  none: "",
};

/** The working end of a blade that is drawn, mm. */
const workingEnd = 4;

/** The first instrument of a step that cuts, to be drawn: a head whole, of a blade its working end. */
export function firstDrawn(step: Schema["Step"], kit: Schema["Instrument"][] | undefined) {
  for (const id of step.instruments) {
    const found = kit?.find((i) => i.id === id);
    if (found?.blade) {
      const profile = found.blade.outline.map((v, n) => (n % 2 === 1 ? Math.min(v, workingEnd) : v));
      return { ...found, profile, length: workingEnd, neck: found.width / 2 };
    }
    if (found && found.profile.length > 0) return found;
  }
  return undefined;
}
