import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ApiProblem, api, type CaseDocument, type Schema, unwrap } from "@/api/client";

export function useCases() {
  return useQuery({ queryKey: ["cases"], queryFn: async () => unwrap(await api.GET("/cases")) });
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

export function useCreateCase() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schema["NewCase"]) => unwrap(await api.POST("/cases", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["cases"] }),
  });
}

export function useArchiveCase() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (id: string) => unwrap(await api.DELETE("/cases/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["cases"] }),
  });
}

const saveRetries = 20;
const saveRetryMilliseconds = 2_000;

export function useSaveDraft(id: string) {
  const queries = useQueryClient();
  return useMutation({
    // A lost connection is tried again; a refusal is an answer.
    retry: (count, error) => !(error instanceof ApiProblem) && count < saveRetries,
    retryDelay: saveRetryMilliseconds,
    networkMode: "always",
    mutationFn: async (document: CaseDocument) =>
      unwrap(
        await api.PUT("/cases/{id}/draft", {
          params: { path: { id } },
          body: document,
        }),
      ),
    onSuccess: (kept) => {
      queries.setQueryData(["case", id], kept);
      queries.invalidateQueries({ queryKey: ["cases"] });
    },
  });
}

export function useFixRevision(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async () => unwrap(await api.POST("/cases/{id}/revisions", { params: { path: { id } } })),
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
