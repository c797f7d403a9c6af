import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type CaseDocument, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

const keptMilliseconds = 60_000;

/** What is kept of an answer that only depends on what was asked. */
const asked = {
  placeholderData: keepPreviousData,
  staleTime: Number.POSITIVE_INFINITY,
  gcTime: keptMilliseconds,
};

/** A load on the tooth; what is left out is the usual one. */
export type Load = Schema["AskedLoad"];

/** How the fillings of a document are held, once its plan has settled. */
export function useHold(document: CaseDocument, wanted: boolean) {
  return useQuery({
    ...asked,
    queryKey: keys.hold(document),
    enabled: wanted,
    queryFn: async ({ signal }) => unwrap(await api.POST("/evaluate/hold", { body: document, signal })),
  });
}

/** How the fillings are held against a pull of one's own, if one is asked about. */
export function usePull(
  document: CaseDocument,
  tilt: { mesial: number; facial: number } | undefined,
  wanted: boolean,
) {
  return useQuery({
    ...asked,
    queryKey: keys.pull(document, tilt),
    enabled: wanted && tilt !== undefined,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate/pull", {
          params: { query: tilt ?? { mesial: 0, facial: 0 } },
          body: document,
          signal,
        }),
      ),
  });
}

const askDeflection = async (
  document: CaseDocument,
  query: Load & { school?: string },
  signal: AbortSignal,
) => unwrap(await api.POST("/evaluate/deflection", { params: { query }, body: document, signal }));

/** Cuspal deflection under a load, once the plan has settled. */
export function useDeflection(document: CaseDocument, load: Load, wanted: boolean) {
  return useQuery({
    ...asked,
    queryKey: keys.strength("deflection", document, load),
    enabled: wanted,
    queryFn: ({ signal }) => askDeflection(document, load, signal),
  });
}

/** The picture of a section under load; at is left out where none is shown. */
export function useStrain(
  document: CaseDocument,
  load: Load,
  as: Schema["SectionState"],
  at: number | undefined,
  wanted: boolean,
) {
  return useQuery({
    ...asked,
    queryKey: keys.strength("strain", document, load, as, at),
    enabled: wanted && at !== undefined,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate/strain", {
          params: { query: { ...load, as, at: at ?? 0 } },
          body: document,
          signal,
        }),
      ),
  });
}

/** The same section cut in several ways, that of another school among them if one is named. */
export function useSections(document: CaseDocument, load: Load, at: number, school: string | undefined) {
  return useQuery({
    ...asked,
    queryKey: keys.strength("sections", document, load, at, school),
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate/sections", {
          params: { query: { ...load, at, school } },
          body: document,
          signal,
        }),
      ),
  });
}

/** What the figures of strength rest on. */
export function useConstants(wanted: boolean) {
  return useQuery({
    queryKey: keys.constants(),
    enabled: wanted,
    queryFn: async () => unwrap(await api.GET("/strength-constants")),
  });
}

export function useSaveConstants() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: { version: number; own: Schema["OwnConstant"][] }) =>
      unwrap(await api.PUT("/strength-constants", { body })),
    onSuccess: (kept) => {
      queries.setQueryData(keys.constants(), kept);
      queries.invalidateQueries({ queryKey: keys.strength() });
      queries.invalidateQueries({ queryKey: keys.fineRun() });
    },
  });
}

/** The newest computation of a case on fine cells. */
export function useFineRun(caseId: string, wanted: boolean) {
  return useQuery({
    queryKey: keys.fineRun(caseId),
    enabled: wanted,
    queryFn: async () =>
      unwrap(await api.GET("/cases/{id}/fine-deflection", { params: { path: { id: caseId } } })).run ?? null,
    staleTime: 0,
  });
}

export function useStartFineRun(caseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (load: Load) =>
      unwrap(await api.POST("/cases/{id}/fine-deflection", { params: { path: { id: caseId } }, body: load })),
    onSuccess: (run) => queries.setQueryData(keys.fineRun(caseId), run),
  });
}

export function useCancelFineRun(caseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (run: string) =>
      unwrap(
        await api.DELETE("/cases/{id}/fine-deflection/{run}", { params: { path: { id: caseId, run } } }),
      ),
    onSuccess: (run) => queries.setQueryData(keys.fineRun(caseId), run),
  });
}
