import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { ApiProblem, api, type Schema, unwrap } from "@/api/client";
import { keys } from "@/api/keys";

/** Who is signed in; null when nobody is. */
export function useSession() {
  return useQuery({
    queryKey: keys.session(),
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

/** Who is signed in, on pages that are shown to nobody else. */
export function useUser(): Schema["User"] {
  const session = useSession();
  const last = useRef<Schema["User"]>(undefined);
  if (session.data) last.current = session.data;
  if (!last.current) throw new Error("this page is shown to nobody who is not signed in");
  return last.current; // also while the password is asked for again
}

/** Whether the user may do something, whatever the case. */
export function useMay(permission: Schema["Permission"]): boolean {
  return useUser().may.includes(permission);
}

export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schema["SignIn"]) => unwrap(await api.POST("/session", { body })),
    onSuccess: (user) => queries.setQueryData(keys.session(), user),
  });
}

/** Ends the session. The page is loaded anew, so that nothing of the last person goes on. */
export function useSignOut() {
  return useMutation({
    mutationFn: async () => {
      const { saveAll } = await import("@/features/drafts/keepers");
      await saveAll();
      unwrap(await api.DELETE("/session"));
    },
    onSuccess: () => window.location.assign("/sign-in"),
  });
}

export function useDemoSignIns() {
  return useQuery({
    queryKey: keys.demoSignIns(),
    queryFn: async () => unwrap(await api.GET("/demo-sign-ins")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}
