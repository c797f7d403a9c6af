import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** The times that a case was gone through at the chair, the newest first. */
export function useRuns(caseId: string) {
  return useQuery({
    queryKey: keys.runs(caseId),
    queryFn: async () => unwrap(await api.GET("/cases/{id}/runs", { params: { path: { id: caseId } } })),
    staleTime: 0,
  });
}

export function useStartRun(caseId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ key, body }: { key: string; body: Schema["NewChairRun"] }) =>
      unwrap(
        await api.POST("/cases/{id}/runs", {
          params: { path: { id: caseId }, header: { "Idempotency-Key": key } },
          body,
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.runs(caseId) }),
  });
}

/** A run as the server has it; what happens from then on its keeper has. */
export function useRun(caseId: string, run: string) {
  return useQuery({
    queryKey: keys.run(run),
    queryFn: async () =>
      unwrap(await api.GET("/cases/{id}/runs/{run}", { params: { path: { id: caseId, run } } })),
    staleTime: 0,
    refetchOnWindowFocus: false,
  });
}
