import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type CaseDocument, unwrap } from "@/api/client";

const keptMilliseconds = 5_000; // an evaluation holds a mesh of half a megabyte
const patienceMilliseconds = 1_500; // that a newer document waits for an older one's plan

/** Where sections lie, mm from the tooth's middle; left out where the plan decides. */
export interface Sections {
  across?: number;
  along?: number;
}

/**
 * The plan of a document. While one is worked out the newest document waits, so
 * that the drawing follows a drag; one that takes too long is given up for it.
 */
export function useEvaluation(document: CaseDocument, sections: Sections) {
  const [asked, ask] = useState({ document, sections });
  const query = useQuery({
    queryKey: ["evaluation", asked.document, asked.sections],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate", {
          params: { query: asked.sections },
          body: asked.document,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
  const waiting = asked.document !== document || asked.sections !== sections;
  useEffect(() => {
    if (!waiting) return;
    const timer = setTimeout(() => ask({ document, sections }), query.isFetching ? patienceMilliseconds : 0);
    return () => clearTimeout(timer);
  }, [waiting, query.isFetching, document, sections]);
  return { ...query, settled: !waiting && !query.isFetching };
}

/** The cut tooth as finely as the screen shows it, once its plan has settled. */
export function useSolid(document: CaseDocument, settled: boolean) {
  return useQuery({
    queryKey: ["solid", document],
    enabled: settled,
    queryFn: async ({ signal }) => unwrap(await api.POST("/evaluate/solid", { body: document, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
}

/** What each style of finish gains and costs, once the plan has settled. */
export function useFinishes(document: CaseDocument, wanted: boolean) {
  return useQuery({
    queryKey: ["finishes", document],
    enabled: wanted,
    queryFn: async ({ signal }) => unwrap(await api.POST("/evaluate/finishes", { body: document, signal })),
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
