import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ApiProblem, api, type CaseDocument, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";
import type { operations } from "@/api/schema";

export type Order = NonNullable<NonNullable<operations["listCases"]["parameters"]["query"]>["order"]>;

/** What the day sheet is asked for. */
export interface Listing {
  archived: boolean;
  words: string;
  order: Order;
  page: number;
}

export const pageSize = 25;
const largestPage = 200;

/** A page of the day sheet or the archive. */
export function useCases({ archived, words, order, page }: Listing) {
  return useQuery<Schema["CasePage"]>({
    queryKey: keys.cases(archived, words, order, page),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/cases", {
          params: { query: { archived, q: words, order, page, size: pageSize } },
          signal,
        }),
      ),
  });
}

/** Every case of the day sheet, whatever their number. */
export function useAllCases() {
  return useQuery({
    queryKey: keys.cases("all"),
    queryFn: async ({ signal }) => {
      const all: Schema["CaseSummary"][] = [];
      for (let page = 1; ; page++) {
        const query = { page, size: largestPage };
        const { cases, total } = unwrap(await api.GET("/cases", { params: { query }, signal }));
        all.push(...cases);
        if (cases.length === 0 || all.length >= total) return all;
      }
    },
  });
}

export function useCase(id: string) {
  return useQuery({
    queryKey: keys.case(id),
    queryFn: async () => unwrap(await api.GET("/cases/{id}", { params: { path: { id } } })),
  });
}

export function useRevision(id: string, number: number | undefined) {
  return useQuery({
    queryKey: keys.case(id, "revision", number),
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
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.cases() }),
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
      queries.invalidateQueries({ queryKey: keys.cases() });
      queries.invalidateQueries({ queryKey: keys.case(id) });
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
      queries.invalidateQueries({ queryKey: keys.case(id) });
      queries.invalidateQueries({ queryKey: keys.cases() });
    },
  });
}

/** What a case speaks for before anything is cut, for a usual age while that is not known; nothing
 * until it can be told. */
export function useProposal(document: CaseDocument | undefined, aged: boolean) {
  return useQuery({
    queryKey: keys.advice(document, aged),
    enabled: document !== undefined,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => {
      if (!document) throw new Error("nothing to ask about");
      return unwrap(
        await api.POST("/advice", {
          body: document,
          params: { query: aged ? {} : { age: "unknown" } },
          signal,
        }),
      );
    },
  });
}

/** What is known of a patient by the code; nothing where no case of theirs is to be seen. */
export function useKnownPatient(code: string) {
  return useQuery({
    queryKey: keys.patient(code),
    enabled: /^[A-Z]{2,4}-[0-9]{1,6}$/.test(code),
    retry: false,
    queryFn: async ({ signal }) => {
      try {
        return unwrap(await api.GET("/patients/{code}", { params: { path: { code } }, signal }));
      } catch (error) {
        if (error instanceof ApiProblem && error.problem.status === 404) return null;
        throw error;
      }
    },
  });
}

/** Reads a typed tooth name while it is typed. */
export function useToothReading(text: string) {
  return useQuery({
    queryKey: keys.tooth(text),
    enabled: text.trim() !== "",
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/teeth/{text}", { params: { path: { text: text.trim() } } })),
  });
}

/** The tooth's own drawing with its places; nothing for a tooth that is not planned. */
export function useToothChart(iso: string | undefined) {
  return useQuery({
    queryKey: keys.chart(iso),
    enabled: iso !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () =>
      unwrap(await api.GET("/teeth/{text}/chart", { params: { path: { text: iso ?? "" } } })),
  });
}

export function useTeeth() {
  return useQuery({
    queryKey: keys.teeth(),
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/teeth")),
  });
}

/** The schools; with a tooth and a material, only the criteria that hold for these. */
export function useSchools(holding?: { tooth: string; material: Schema["Material"] }) {
  return useQuery({
    queryKey: keys.schools(holding),
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.GET("/schools", { params: { query: holding } })),
  });
}
