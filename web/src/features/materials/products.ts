import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

export type Product = Schema["Product"];

/** What the practice fills with. */
export function useProducts() {
  return useQuery({ queryKey: keys.products(), queryFn: async () => unwrap(await api.GET("/products")) });
}

export function useSaveProducts() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: { version: number; products: Product[] }) =>
      unwrap(await api.PUT("/products", { body })),
    onSuccess: (kept) => {
      queries.setQueryData(keys.products(), kept);
      queries.invalidateQueries({ queryKey: keys.filling() });
    },
  });
}
