import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** A criterion as a school's document holds it. */
export type Criterion = Schema["SchoolCriterion"];

export type SchoolDocument = Schema["SchoolContent"];

export function useHouseRules(id: string) {
  return useQuery({
    queryKey: keys.houseRules(id),
    retry: false,
    queryFn: async () => unwrap(await api.GET("/schools/{id}", { params: { path: { id } } })),
  });
}

export function useCopySchool() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: { base: string; name: string }) => unwrap(await api.POST("/schools", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.schools() }),
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
      queries.setQueryData(keys.houseRules(id), kept);
      await queries.invalidateQueries({ queryKey: keys.schools() });
      await queries.invalidateQueries({ queryKey: keys.evaluation() });
    },
  });
}

/** Takes rules off the list, or brings them back. */
export function useArchivingRules(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (archive: boolean) =>
      unwrap(
        archive
          ? await api.DELETE("/schools/{id}", { params: { path: { id } } })
          : await api.POST("/schools/{id}/unarchive", { params: { path: { id } } }),
      ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: keys.houseRules(id) });
      await queries.invalidateQueries({ queryKey: keys.schools() });
    },
  });
}

/** The practice's rules that are archived. */
export function useArchivedRules() {
  return useQuery({
    queryKey: keys.schools("archived"),
    queryFn: async () => unwrap(await api.GET("/schools", { params: { query: { archived: true } } })),
  });
}

/** What the rules would say to one open case, its design left as it is. */
export async function judgeUnder(id: string, school: string, signal: AbortSignal) {
  return unwrap(await api.GET("/cases/{id}/under/{school}", { params: { path: { id, school } }, signal }));
}
