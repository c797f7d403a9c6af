import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

export type KitItem = Schema["KitItem"];

/** What the practice has of the instruments. */
export function useKit() {
  return useQuery({ queryKey: keys.kit(), queryFn: async () => unwrap(await api.GET("/kit")) });
}

export function useSaveKit() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: { version: number; kit: Schema["Kit"] }) =>
      unwrap(await api.PUT("/kit", { body })),
    onSuccess: (kept) => queries.setQueryData(keys.kit(), kept),
  });
}

/** The items with one of them changed; one that says nothing is left out. */
export function withItem(items: KitItem[], changed: KitItem): KitItem[] {
  const says = Object.entries(changed).some(([field, v]) => field !== "instrument" && v !== undefined);
  const at = items.findIndex((i) => i.instrument === changed.instrument);
  if (at < 0) return says ? [...items, changed] : items;
  return says ? items.with(at, changed) : items.toSpliced(at, 1);
}
