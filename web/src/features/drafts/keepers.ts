import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useReducer, useSyncExternalStore } from "react";
import { api, type Schema, unwrap } from "@/api/client";
import { DraftKeeper } from "./DraftKeeper";
import { unsavedOf } from "./unsaved";

const keepers = new Map<string, DraftKeeper>();

/** The keeper of a case whose newest change is not on the server yet. */
export function busyKeeper(caseId: string): DraftKeeper | undefined {
  const keeper = keepers.get(caseId);
  return keeper && !(keeper.clean && keeper.state.kind === "saved") ? keeper : undefined;
}

/** The keeper of a case as it was just read, with what this browser has kept of it. */
export function useKeeper(dental: Schema["Case"], user: string): DraftKeeper {
  const queries = useQueryClient();
  let keeper = keepers.get(dental.id);
  if (!keeper) {
    keeper = new DraftKeeper(dental.id, user, queries, dental.document, dental.version);
    keepers.set(dental.id, keeper);
    const left = unsavedOf(user).find((u) => u.caseId === dental.id);
    if (left) keeper.resume(left, dental);
  }
  return keeper;
}

export function useDraftState(keeper: DraftKeeper) {
  return useSyncExternalStore(keeper.subscribe, () => keeper.state);
}

/** Sends what earlier windows could not, sees to drafts when the connection returns or the page goes. */
export function useDraftKeeping(user: string) {
  const queries = useQueryClient();
  const [, tell] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    let live = true;
    async function resumeAll() {
      for (const left of unsavedOf(user)) {
        if (keepers.has(left.caseId)) continue;
        try {
          const dental = unwrap(await api.GET("/cases/{id}", { params: { path: { id: left.caseId } } }));
          if (!live || keepers.has(left.caseId)) continue;
          const keeper = new DraftKeeper(dental.id, user, queries, dental.document, dental.version);
          keepers.set(dental.id, keeper);
          keeper.subscribe(tell);
          keeper.resume(left, dental);
        } catch {
          // It stays in the browser, and is tried again with the next page.
        }
      }
      tell();
    }
    resumeAll();
    const wake = () => {
      for (const k of keepers.values()) if (k.state.kind === "unanswered") k.retry();
    };
    const leave = () => {
      for (const k of keepers.values()) k.leave();
    };
    const ask = (event: BeforeUnloadEvent) => {
      if ([...keepers.values()].some((k) => k.unkept)) event.preventDefault();
    };
    window.addEventListener("online", wake);
    window.addEventListener("focus", wake);
    window.addEventListener("pagehide", leave);
    window.addEventListener("beforeunload", ask);
    return () => {
      live = false;
      window.removeEventListener("online", wake);
      window.removeEventListener("focus", wake);
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("beforeunload", ask);
    };
  }, [user, queries]);
}

/** Cases whose draft could not be saved and needs a decision or a look. */
export function undecided(): string[] {
  return [...keepers.values()]
    .filter((k) => k.state.kind === "conflict" || k.state.kind === "refused")
    .map((k) => k.caseId);
}

const lastMoment = 2_000; // milliseconds that signing out waits for drafts

/** Saves what can be saved in a moment; the rest stays in the browser for its owner. */
export async function saveAll(): Promise<void> {
  const saving = [...keepers.values()].filter((k) => !k.clean).map((k) => k.flush().catch(() => undefined));
  await Promise.race([Promise.all(saving), new Promise((goOn) => setTimeout(goOn, lastMoment))]);
}
