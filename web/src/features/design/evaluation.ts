import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type CaseDocument, type Schema, unwrap } from "@/api/client";

const keptMilliseconds = 5_000; // an evaluation holds a mesh of some megabytes

/** Where sections lie, mm from the tooth's middle; left out where the plan decides. */
export interface Sections {
  across?: number;
  along?: number;
}

/** The plan of a document. A newer document cancels the request of an older one. */
export function useEvaluation(document: CaseDocument, sections: Sections) {
  return useQuery({
    queryKey: ["evaluation", document, sections],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate", {
          params: { query: sections },
          body: document as unknown as Schema["CaseDocument"],
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
}

export function useInstruments() {
  return useQuery({
    queryKey: ["instruments"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/instruments")),
  });
}
