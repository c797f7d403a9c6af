import { useSyncExternalStore } from "react";

/** Whether tags show their names, kept on this machine as the user left it. */
const key = "obturon-tag-names";
const listeners = new Set<() => void>();

export function toggleTagNames() {
  localStorage.setItem(key, localStorage.getItem(key) === "shown" ? "hidden" : "shown");
  for (const listener of listeners) listener();
}

export function useTagNames(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => localStorage.getItem(key) === "shown",
  );
}
