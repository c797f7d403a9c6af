import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";

/** A criterion as a school's document holds it. */
export type Criterion = Schema["SchoolCriterion"];

export type SchoolDocument = Schema["SchoolContent"];

export function useHouseRules(id: string) {
  return useQuery({
    queryKey: ["house-rules", id],
    retry: false,
    queryFn: async () => unwrap(await api.GET("/schools/{id}", { params: { path: { id } } })),
  });
}

export function useCopySchool() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: { base: string; name: string }) => unwrap(await api.POST("/schools", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["schools"] }),
  });
}

export function useSaveHouseRules(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (document: SchoolDocument) =>
      unwrap(
        await api.PUT("/schools/{id}", {
          params: { path: { id } },
          body: document,
        }),
      ),
    onSuccess: async (kept) => {
      queries.setQueryData(["house-rules", id], kept);
      await queries.invalidateQueries({ queryKey: ["schools"] });
      await queries.invalidateQueries({ queryKey: ["evaluation"] });
    },
  });
}

/** What the rules would say to one open case, its design left as it is. */
export async function judgeUnder(id: string, school: string, signal: AbortSignal) {
  return unwrap(await api.GET("/cases/{id}/under/{school}", { params: { path: { id, school } }, signal }));
}
