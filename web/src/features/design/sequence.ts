import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type CaseDocument, type Schema, unwrap } from "@/api/client";
import { useKit } from "@/features/kit/kit";

/** The steps at the chair, proven by cutting; asked for once it is wanted. */
export function useProvenSequence(document: CaseDocument, wanted: boolean) {
  const kit = useKit(); // another kit cuts otherwise
  return useQuery({
    queryKey: ["sequence", document, kit.data?.version],
    enabled: wanted && kit.data !== undefined,
    queryFn: async ({ signal }) => unwrap(await api.POST("/evaluate/sequence", { body: document, signal })),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The tooth as it looks after a step, with the bur in it. */
export function useStage(document: CaseDocument, step: number | undefined) {
  const kit = useKit();
  return useQuery({
    queryKey: ["stage", document, step, kit.data?.version],
    enabled: step !== undefined && kit.data !== undefined,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate/sequence/stage", {
          params: { query: { step: step ?? 0 } },
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
