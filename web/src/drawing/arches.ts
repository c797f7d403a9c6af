import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** Outlines of all teeth; they change only with the model. */
export function useArches() {
  return useQuery({
    queryKey: keys.arches(),
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/arches")),
  });
}
