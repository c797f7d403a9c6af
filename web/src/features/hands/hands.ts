import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";

const key = (caseId: string) => ["tolerance", caseId];
const glance = 1_500; // milliseconds between looks at a run that goes on

/** The newest tolerance run of a case; undefined where it has none. */
export function useTolerance(caseId: string) {
  return useQuery({
    queryKey: key(caseId),
    queryFn: async () => unwrap(await api.GET("/cases/{id}/tolerance", { params: { path: { id: caseId } } })),
    select: (runs) => ({ run: runs[0] as Schema["ToleranceRun"] | undefined }),
    refetchInterval: (query) => (query.state.data?.[0]?.state === "runs" ? glance : false),
    staleTime: 0,
  });
}

export function useStartTolerance(caseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ requestKey, body }: { requestKey: string; body: Schema["NewToleranceRun"] }) =>
      unwrap(
        await api.POST("/cases/{id}/tolerance", {
          params: { path: { id: caseId }, header: { "Idempotency-Key": requestKey } },
          body,
        }),
      ),
    onSuccess: (run) => queries.setQueryData(key(caseId), [run]),
  });
}

export function useCancelTolerance(caseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (run: string) =>
      unwrap(await api.DELETE("/cases/{id}/tolerance/{run}", { params: { path: { id: caseId, run } } })),
    onSuccess: (run) => queries.setQueryData(key(caseId), [run]),
  });
}
