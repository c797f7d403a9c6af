import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";

/** Outlines of all teeth; they change only with the model. */
export function useArches() {
  return useQuery({
    queryKey: ["arches"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/arches")),
  });
}
