import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { ApiProblem, api, type CaseDocument, type Schema, unwrap } from "@/api/client";

/** The day sheet or the archive, a page after the other. */
export function useCases(archived = false) {
  return useInfiniteQuery({
    queryKey: ["cases", archived],
    initialPageParam: undefined as string | undefined,
    queryFn: async ({ pageParam }) =>
      unwrap(await api.GET("/cases", { params: { query: { archived, after: pageParam } } })),
    getNextPageParam: (page) => page.next,
    select: (all) => all.pages.flatMap((p) => p.cases),
  });
}

export function useCase(id: string) {
  return useQuery({
    queryKey: ["case", id],
    queryFn: async () => unwrap(await api.GET("/cases/{id}", { params: { path: { id } } })),
  });
}

export function useRevision(id: string, number: number | undefined) {
  return useQuery({
    queryKey: ["case", id, "revision", number],
    enabled: number !== undefined,
    queryFn: async () =>
      unwrap(
        await api.GET("/cases/{id}/revisions/{number}", { params: { path: { id, number: number ?? 1 } } }),
      ),
  });
}

const retryMilliseconds = 2_000;

/** A lost connection is tried again until it is there; a refusal is an answer. */
const untilAnswered = {
  retry: (_: number, error: unknown) => !(error instanceof ApiProblem),
  retryDelay: retryMilliseconds,
};

export function useCreateCase() {
  const queries = useQueryClient();
  return useMutation({
    ...untilAnswered,
    mutationFn: async ({ key, body }: { key: string; body: Schema["NewCase"] }) =>
      unwrap(await api.POST("/cases", { params: { header: { "Idempotency-Key": key } }, body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["cases"] }),
  });
}

/** Takes a case off the day sheet, or brings it back. */
export function useArchiving() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ id, archive }: { id: string; archive: boolean }) =>
      unwrap(
        archive
          ? await api.DELETE("/cases/{id}", { params: { path: { id } } })
          : await api.POST("/cases/{id}/unarchive", { params: { path: { id } } }),
      ),
    onSuccess: (_, { id }) => {
      queries.invalidateQueries({ queryKey: ["cases"] });
      queries.invalidateQueries({ queryKey: ["case", id] });
    },
  });
}

export function useFixRevision(id: string) {
  const queries = useQueryClient();
  return useMutation({
    ...untilAnswered,
    mutationFn: async ({ key, version }: { key: string; version: number }) =>
      unwrap(
        await api.POST("/cases/{id}/revisions", {
          params: { path: { id }, header: { "If-Match": `"${version}"`, "Idempotency-Key": key } },
        }),
      ),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: ["case", id] });
      queries.invalidateQueries({ queryKey: ["cases"] });
    },
  });
}

/** What a case speaks for before anything is cut; nothing until it can be told. */
export function useProposal(document: CaseDocument | undefined) {
  return useQuery({
    queryKey: ["advice", document],
    enabled: document !== undefined,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => {
      if (!document) throw new Error("nothing to ask about");
      return unwrap(await api.POST("/advice", { body: document, signal }));
    },
  });
}

/** Reads a typed tooth name while it is typed. */
export function useToothReading(text: string) {
  return useQuery({
    queryKey: ["tooth", text],
    enabled: text.trim() !== "",
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/teeth/{text}", { params: { path: { text: text.trim() } } })),
  });
}

/** The tooth's own drawing with its places; nothing for a tooth that is not planned. */
export function useToothChart(iso: string | undefined) {
  return useQuery({
    queryKey: ["chart", iso],
    enabled: iso !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () =>
      unwrap(await api.GET("/teeth/{text}/chart", { params: { path: { text: iso ?? "" } } })),
  });
}

export function useTeeth() {
  return useQuery({
    queryKey: ["teeth"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/teeth")),
  });
}

/** The schools; with a tooth and a material, only the criteria that hold for these. */
export function useSchools(holding?: { tooth: string; material: Schema["Material"] }) {
  return useQuery({
    queryKey: ["schools", holding],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/schools", { params: { query: holding } })),
  });
}
