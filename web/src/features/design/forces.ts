import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type CaseDocument, type Schema, unwrap } from "@/api/client";

const keptMilliseconds = 60_000;

/** How the fillings of a document are held, once its plan has settled. */
export function useHold(document: CaseDocument, wanted: boolean) {
  return useQuery({
    queryKey: ["hold", document],
    enabled: wanted,
    queryFn: async ({ signal }) => unwrap(await api.POST("/evaluate/hold", { body: document, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
}

/** A load between the cusps; what is left out is the usual one. */
export interface Bite {
  newtons?: number;
  down?: number;
}

/** The picture of a section under load, once the plan has settled; at is left out where there is none. */
export function useStrain(
  document: CaseDocument,
  bite: Bite,
  as: Schema["SectionState"],
  at: number | undefined,
) {
  return useQuery({
    queryKey: ["strain", document, bite, as, at],
    enabled: at !== undefined,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate/strain", {
          params: { query: { ...bite, as, at: at ?? 0 } },
          body: document,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
}

/** How far the cusps part under a load, once the plan has settled. */
export function useParting(document: CaseDocument, bite: Bite, wanted: boolean) {
  return useQuery({
    queryKey: ["parting", document, bite],
    enabled: wanted,
    queryFn: async ({ signal }) =>
      unwrap(await api.POST("/evaluate/parting", { params: { query: { ...bite } }, body: document, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
}
