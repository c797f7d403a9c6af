import { type QueryClient, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** The newest tolerance run of a case, if it has one, and the hand to begin with. */
export function useTolerance(caseId: string) {
  return useQuery({
    queryKey: keys.tolerance(caseId),
    queryFn: async () => unwrap(await api.GET("/cases/{id}/tolerance", { params: { path: { id: caseId } } })),
    staleTime: 0,
  });
}

function keepRun(queries: QueryClient, caseId: string, run: Schema["ToleranceRun"]) {
  queries.setQueryData<Schema["LastTolerance"]>(keys.tolerance(caseId), (last) => last && { ...last, run });
}

export function useStartTolerance(caseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schema["NewToleranceRun"]) =>
      unwrap(await api.POST("/cases/{id}/tolerance", { params: { path: { id: caseId } }, body })),
    onSuccess: (run) => keepRun(queries, caseId, run),
  });
}

export function useCancelTolerance(caseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (run: string) =>
      unwrap(await api.DELETE("/cases/{id}/tolerance/{run}", { params: { path: { id: caseId, run } } })),
    onSuccess: (run) => keepRun(queries, caseId, run),
  });
}
