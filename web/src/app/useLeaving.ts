import { useEffect } from "react";
import { useBlocker } from "react-router";

/** Asks before a page is left whose changes would be lost. */
export function useLeaving(unsaved: boolean, question: string) {
  const blocker = useBlocker(unsaved);
  useEffect(() => {
    if (blocker.state !== "blocked") return;
    if (window.confirm(question)) blocker.proceed();
    else blocker.reset();
  }, [blocker, question]);
  useEffect(() => {
    if (!unsaved) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [unsaved]);
}
