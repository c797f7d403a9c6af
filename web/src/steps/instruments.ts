import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** The instruments of the kit, as they are shipped. */
export function useInstruments() {
  return useQuery({
    queryKey: keys.instruments(),
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/instruments")),
  });
}
