import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { api, type Schema, unwrap } from "@/api/client";
import { DraftKeeper } from "./DraftKeeper";
import { unsavedOf } from "./unsaved";

const keepers = new Map<string, DraftKeeper>();
const watchers = new Set<() => void>();

function register(keeper: DraftKeeper) {
  keepers.set(keeper.caseId, keeper);
  keeper.subscribe(() => {
    for (const tell of watchers) tell();
  });
  return keeper;
}

function watch(tell: () => void) {
  watchers.add(tell);
  return () => {
    watchers.delete(tell);
  };
}

/** The keeper of a case whose newest change is not on the server yet. */
export function busyKeeper(caseId: string): DraftKeeper | undefined {
  const keeper = keepers.get(caseId);
  return keeper && !(keeper.clean && keeper.state.kind === "saved") ? keeper : undefined;
}

/** The keeper of a case as it was just read, with what this browser has kept of it. */
export function useKeeper(dental: Schema["Case"], user: string): DraftKeeper {
  const queries = useQueryClient();
  const [keeper] = useState(() => keepers.get(dental.id) ?? keeperOf(dental, user, queries));
  useEffect(() => {
    if (!keepers.has(dental.id)) register(keeper).open();
  }, [keeper, dental.id]);
  return keeper;
}

function keeperOf(dental: Schema["Case"], user: string, queries: QueryClient) {
  const left = unsavedOf(user).find((u) => u.caseId === dental.id);
  return new DraftKeeper(dental.id, user, queries, dental, left);
}

export function useDraftState(keeper: DraftKeeper) {
  return useSyncExternalStore(keeper.subscribe, () => keeper.state);
}

/** Sends what earlier windows could not, sees to drafts when the connection returns or the page goes. */
export function useDraftKeeping(user: string) {
  const queries = useQueryClient();
  useEffect(() => {
    let live = true;
    async function resumeAll() {
      for (const left of unsavedOf(user)) {
        if (keepers.has(left.caseId)) continue;
        try {
          const dental = unwrap(await api.GET("/cases/{id}", { params: { path: { id: left.caseId } } }));
          if (!live || keepers.has(left.caseId)) continue;
          register(new DraftKeeper(dental.id, user, queries, dental, left)).open();
        } catch {
          // It stays in the browser, and is tried again with the next page.
        }
      }
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

const undecided = () =>
  [...keepers.values()]
    .filter((k) => k.state.kind === "conflict" || k.state.kind === "refused")
    .map((k) => k.caseId)
    .join(" ");

/** Cases whose draft could not be saved and needs a decision or a look. */
export function useUndecided(): string[] {
  return useSyncExternalStore(watch, undecided).split(" ").filter(Boolean);
}

const lastMoment = 2_000; // milliseconds that signing out waits for drafts

/** Saves what can be saved in a moment; the rest stays in the browser for its owner. */
export async function saveAll(): Promise<void> {
  const saving = [...keepers.values()].filter((k) => !k.clean).map((k) => k.flush().catch(() => undefined));
  await Promise.race([Promise.all(saving), new Promise((goOn) => setTimeout(goOn, lastMoment))]);
}
