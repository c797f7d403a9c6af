import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ApiProblem, api, type Schema, unwrap } from "@/api/client";

const sessionKey = ["session"];

/** Who is signed in; null when nobody is. */
export function useSession() {
  return useQuery({
    queryKey: sessionKey,
    queryFn: async () => {
      try {
        return unwrap(await api.GET("/session"));
      } catch (error) {
        if (error instanceof ApiProblem && error.problem.status === 401) return null;
        throw error;
      }
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schema["SignIn"]) => unwrap(await api.POST("/session", { body })),
    onSuccess: (user) => queries.setQueryData(sessionKey, user),
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async () => unwrap(await api.DELETE("/session")),
    onSuccess: () => {
      queries.clear();
      queries.setQueryData(sessionKey, null);
    },
  });
}

export function useDemoSignIns() {
  return useQuery({
    queryKey: ["demo-sign-ins"],
    queryFn: async () => unwrap(await api.GET("/demo-sign-ins")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}
