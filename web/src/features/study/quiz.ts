import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";
import type { Study } from "./study";

/** The age alone: a quiz is about the average tooth, so that its answers compare. */
const asked = (study: Study, question: number) => ({
  path: { tooth: study.tooth },
  query: { age: study.age, question },
});

export function useQuestion(study: Study, question: number) {
  return useQuery({
    queryKey: keys.quiz(study.tooth, study.age, question),
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/study/{tooth}/quiz", { params: asked(study, question), signal })),
  });
}

export function useAnswering(study: Study, question: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schema["QuizAnswer"]) =>
      unwrap(await api.POST("/study/{tooth}/quiz", { params: asked(study, question), body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.quiz("results") }),
  });
}

/** What was answered so far: the user's own, and that of those whose cases the user may read. */
export function useQuizResults() {
  return useQuery({
    queryKey: keys.quiz("results"),
    queryFn: async () => unwrap(await api.GET("/quiz/results")),
  });
}

/** The number of a question that has hardly been asked before. */
export function anyQuestion(): number {
  return (crypto.getRandomValues(new Uint32Array(1))[0] ?? 0) >>> 1;
}
