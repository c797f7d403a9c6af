import { useEffect, useSyncExternalStore } from "react";

/** An action of the page at hand, offered in the command palette. */
export interface PageAction {
  name: string;
  run: () => void;
}

let actions: PageAction[] = [];
const listeners = new Set<() => void>();

function publish(next: PageAction[]) {
  actions = next;
  for (const l of listeners) l();
}

/** Offers actions while the calling component is shown. */
export function useOfferActions(offered: PageAction[]) {
  useEffect(() => {
    publish(offered);
    return () => publish([]);
  }, [offered]);
}

export function usePageActions() {
  return useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => actions,
  );
}
