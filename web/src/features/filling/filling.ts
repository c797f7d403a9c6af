import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type CaseDocument, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";
import type { Sections } from "@/sheet/sections";

const keptMilliseconds = 60_000;

interface Asked {
  sections?: Sections;
  /** Boxes of the patient's other cases that face this one's are filled in one go with it. */
  caseId: string;
  /** Of a revision: what was fixed with it decides. */
  revision?: number;
  /** Its steps are proven by cutting: what lies ready for them is known better. */
  proven: boolean;
  wanted: boolean;
}

/** How the cavities of a document are filled, once its plan has settled. */
export function useFilling(document: CaseDocument, { sections, caseId, revision, proven, wanted }: Asked) {
  return useQuery({
    queryKey: keys.filling(document, sections, caseId, revision, proven),
    enabled: wanted,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/evaluate/filling", {
          params: { query: { ...sections, case: caseId, revision } },
          body: document,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keptMilliseconds,
  });
}

type View = Schema["View"];

/** A plan's views, its sections with the filling in them. */
export function withFilling(views: View[], filled: View[] | undefined): View[] {
  return views.map((v) => filled?.find((f) => f.id === v.id) ?? v);
}
