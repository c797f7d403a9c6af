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

/** The name of a step, with the cavity that it is about. */
export function stepName(step: Schema["Step"]) {
  return step.of ? `${step.step}, ${step.of}` : step.step;
}

/** How an instrument turns, in words. */
export const speedWords: Record<Schema["Speed"], string> = {
  high: "high speed, water",
  low: "low speed",
  hand: "by hand",
  none: "",
};

/** The first instrument of a step that turns, to be drawn. */
export function firstBur(step: Schema["Step"], kit: Schema["Instrument"][] | undefined) {
  for (const id of step.instruments) {
    const found = kit?.find((i) => i.id === id && i.profile.length > 0);
    if (found) return found;
  }
  return undefined;
}
