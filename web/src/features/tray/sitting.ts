import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** The cervical cavities of this patient's quadrant that are done together. */
export function useSitting(id: string, wanted: boolean) {
  return useQuery({
    queryKey: keys.sitting(id),
    enabled: wanted,
    queryFn: async () => unwrap(await api.GET("/cases/{id}/sitting", { params: { path: { id } } })),
  });
}
