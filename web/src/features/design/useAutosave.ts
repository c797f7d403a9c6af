import { useEffect, useRef } from "react";
import type { CaseDocument } from "@/api/client";
import { useSaveDraft } from "@/features/cases/cases";

const pauseMilliseconds = 700;

/** Keeps the document as draft once editing pauses, and on leaving the page. */
export function useAutosave(id: string, document: CaseDocument, enabled: boolean) {
  const save = useSaveDraft(id);
  const saved = useRef(document);
  const latest = useRef(document);
  latest.current = document;
  const mutate = save.mutate;

  useEffect(() => {
    if (!enabled || document === saved.current) return;
    const timer = setTimeout(() => {
      saved.current = document;
      mutate(document);
    }, pauseMilliseconds);
    return () => clearTimeout(timer);
  }, [document, enabled, mutate]);

  useEffect(() => {
    function onLeave() {
      if (!enabled || latest.current === saved.current) return;
      saved.current = latest.current;
      // keepalive outlives the page
      fetch(`/api/cases/${id}/draft`, {
        method: "PUT",
        keepalive: true,
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify(latest.current),
      }).catch(() => undefined);
    }
    window.addEventListener("pagehide", onLeave);
    return () => {
      window.removeEventListener("pagehide", onLeave);
      onLeave();
    };
  }, [id, enabled]);

  const busy = save.isPending || document !== saved.current;
  return {
    state: save.failureCount > 0 ? ("failed" as const) : busy ? ("saving" as const) : ("saved" as const),
    /** Saves now and resolves when it is kept. */
    flush: async () => {
      if (latest.current === saved.current && !save.isError) return;
      saved.current = latest.current;
      await save.mutateAsync(latest.current);
    },
  };
}
