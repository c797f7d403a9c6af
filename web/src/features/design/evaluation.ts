import { keepPreviousData, type UseQueryResult, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { ApiProblem, api, type CaseDocument, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";
import type { Sections } from "@/sheet/sections";
import { reliefKnown, withRelief } from "./relief";

const keptMilliseconds = 5_000; // an evaluation holds a mesh of half a megabyte
const patienceMilliseconds = 1_500; // that a newer document waits for an older one's plan

async function evaluate(document: CaseDocument, sections: Sections, signal: AbortSignal) {
  const relief = reliefKnown(document) ? false : undefined;
  const answer = unwrap(
    await api.POST("/evaluate", { params: { query: { ...sections, relief } }, body: document, signal }),
  );
  return withRelief(document, answer);
}

/** The figures of a document that keep it from being built, with the reason of each. */
export type Unbuildable = Record<string, string>;

function unbuildable(error: Error | null): Unbuildable | undefined {
  if (!(error instanceof ApiProblem) || error.faults.length === 0) return undefined;
  const prefix = "$.overrides.";
  if (!error.faults.every((f) => f.path.startsWith(prefix))) return undefined;
  return Object.fromEntries(error.faults.map((f) => [f.path.slice(prefix.length), f.message]));
}

/**
 * The plan of a document. While one is worked out the newest document waits, so
 * that the drawing follows a drag; one that takes too long is given up for it. What
 * cannot be worked out leaves the last drawing; where there is none yet, the case is
 * drawn without the figures that are to blame.
 */
export function useEvaluation(document: CaseDocument, sections: Sections) {
  const [asked, ask] = useState({ document, sections });
  const query = useQuery({
    queryKey: keys.evaluation(asked.document, asked.sections),
    queryFn: ({ signal }) => evaluate(asked.document, asked.sections, signal),
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
  const solving = useSolving(asked.document, query);
  const last = useRef<Schema["Evaluation"]>(undefined);
  if (query.data) last.current = query.data;
  const blamed = unbuildable(query.error);
  const without = useQuery({
    queryKey: keys.evaluation("without", asked.document, asked.sections, Object.keys(blamed ?? {})),
    enabled: blamed !== undefined && last.current === undefined,
    queryFn: ({ signal }) => {
      const overrides = Object.entries(asked.document.overrides ?? {}).filter(([id]) => !blamed?.[id]);
      return evaluate(
        { ...asked.document, overrides: Object.fromEntries(overrides) },
        asked.sections,
        signal,
      );
    },
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
  return {
    data: query.data ?? last.current ?? without.data,
    error: query.error,
    refetch: query.refetch,
    isPending: query.isPending || without.isLoading,
    isPlaceholderData: query.isPlaceholderData,
    /** The figures that the drawing leaves out, by dimension. */
    unbuildable: blamed ?? {},
    settled: !waiting && !query.isFetching && !without.isFetching && !solving,
    /** The proposal is being fitted to the tooth behind the drawing. */
    solving,
    /** The drawing is that of the newest document. */
    current: !waiting && query.isSuccess,
  };
}

/**
 * Has the proposal fitted to the tooth once the first drawing stands, and draws it again
 * then; what was set by hand stays. Says whether that goes on.
 */
function useSolving(document: CaseDocument, drawn: UseQueryResult<Schema["Evaluation"]>) {
  const untouched = { ...document, overrides: undefined };
  const unsolved = drawn.data !== undefined && drawn.data.solution === undefined;
  const solution = useQuery({
    queryKey: keys.solution(untouched),
    enabled: unsolved && !drawn.isPlaceholderData,
    queryFn: async ({ signal }) => unwrap(await api.POST("/evaluate/solve", { body: untouched, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
  const ready = unsolved && solution.isSuccess && !solution.isFetching && !drawn.isFetching;
  const newer = solution.dataUpdatedAt >= drawn.dataUpdatedAt;
  useEffect(() => {
    if (!ready) return;
    if (newer) drawn.refetch();
    else solution.refetch(); // the server has forgotten it
  }, [ready, newer, drawn.refetch, solution.refetch]);
  return solution.isFetching || (ready && newer);
}

/** The cut tooth as finely as the screen shows it, once its plan has settled. */
export function useSolid(document: CaseDocument, settled: boolean, filled = false) {
  return useQuery({
    queryKey: keys.solid(document, filled),
    enabled: settled,
    queryFn: async ({ signal }) =>
      unwrap(await api.POST("/evaluate/solid", { params: { query: { filled } }, body: document, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
}

/** What each style of finish gains and costs, once the plan has settled. */
export function useFinishes(document: CaseDocument, wanted: boolean) {
  return useQuery({
    queryKey: keys.finishes(document),
    enabled: wanted,
    queryFn: async ({ signal }) => unwrap(await api.POST("/evaluate/finishes", { body: document, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
}
