import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { keys } from "./keys";

/** What has changed in the practice, in this window or another. */
interface Change {
  what: string;
  id?: string;
  case?: string;
  version?: number;
}

const together = 200; // milliseconds in which changes are gathered before anything is asked for anew

/** What is to be asked for anew after a change. */
function touched({ what, id, case: caseId }: Change): unknown[][] {
  switch (what) {
    case "proof":
      return [keys.proof()];
    case "tolerance":
      return [keys.tolerance(caseId)];
    case "fine_deflection":
      return [keys.fineRun(caseId)];
    case "case":
    case "archived":
    case "revision":
      return [keys.case(caseId), keys.cases(), keys.sitting(caseId ?? "")];
    case "patient":
      return [keys.case(), keys.cases()];
    case "summary":
      return [keys.cases()];
    case "run":
      return [keys.run(id ?? ""), keys.runs()];
    case "kit":
      return [keys.kit()];
    case "products":
      return [keys.products(), keys.filling()];
    case "constants":
      return [keys.constants(), keys.strength(), keys.fineRun()];
    case "schools":
      return [keys.schools(), keys.houseRules(), keys.evaluation()];
    default:
      return [];
  }
}

/** What others may have changed since it was asked for, when a window begins to listen. */
const kept: unknown[][] = [
  keys.case(),
  keys.cases(),
  keys.kit(),
  keys.products(),
  keys.constants(),
  keys.schools(),
  keys.houseRules(),
  keys.runs(),
  ["run"],
  keys.tolerance(),
  keys.fineRun(),
  keys.proof(),
];

/** Versions of the practice's own documents, by kind. */
type Versions = Record<string, number>;

/** What has to be computed anew since other versions of them count. */
function outdated(before: Versions | undefined, now: Versions): unknown[][] {
  if (!before) return [];
  return Object.keys(now)
    .filter((kind) => before[kind] !== now[kind])
    .flatMap((kind) => touched({ what: kind.startsWith("house-") ? "schools" : kind }));
}

/** Asks anew for what has changed, a little later and all at once. */
class Anew {
  private waiting = new Map<string, unknown[]>();
  private timer?: ReturnType<typeof setTimeout>;

  constructor(private readonly queries: QueryClient) {}

  ask(all: unknown[][]) {
    for (const key of all) this.waiting.set(JSON.stringify(key), key);
    this.timer ??= setTimeout(() => this.go(), together);
  }

  stop() {
    clearTimeout(this.timer);
    this.timer = undefined;
  }

  private go() {
    this.timer = undefined;
    const all = [...this.waiting.values()];
    this.waiting.clear();
    for (const queryKey of all) {
      // A proof is waited for by the request itself, which need not begin again.
      const cancelRefetch = queryKey[0] !== keys.proof()[0];
      this.queries.invalidateQueries({ queryKey }, { cancelRefetch });
    }
  }
}

/** Hears what changes in the practice for as long as the window is looked at, and asks for it anew. */
export function useChanges() {
  const queries = useQueryClient();
  useEffect(() => {
    const anew = new Anew(queries);
    let stream: EventSource | undefined;
    let retry: ReturnType<typeof setTimeout> | undefined;
    let versions: Versions | undefined;
    /** Opens a stream; gapless where the last one still runs until this one is there. */
    const listen = (last?: EventSource) => {
      const own = new EventSource("/api/changes");
      stream = own;
      let gapless = last !== undefined;
      own.onopen = () => {
        last?.close();
        if (!gapless) anew.ask(kept);
        gapless = false; // what it opens by itself comes after a break
      };
      own.addEventListener("versions", (e) => {
        const now: Versions = JSON.parse(e.data);
        anew.ask(outdated(versions, now));
        versions = now;
      });
      own.onmessage = (e) => {
        const change: Change = JSON.parse(e.data);
        if (!ownDraft(queries, change)) anew.ask(touched(change));
      };
      own.addEventListener("renew", () => listen(own));
      own.onerror = () => {
        // A stream that breaks is opened again by the browser; one that is refused is not.
        if (own === stream && own.readyState === EventSource.CLOSED)
          retry = setTimeout(look, refusedMilliseconds);
      };
    };
    const look = () => {
      clearTimeout(retry);
      stream?.close();
      stream = undefined;
      // A browser allows few connections to a server: windows that nobody sees hold none.
      if (document.visibilityState === "visible") listen();
    };
    look();
    document.addEventListener("visibilitychange", look);
    return () => {
      document.removeEventListener("visibilitychange", look);
      clearTimeout(retry);
      stream?.close();
      anew.stop();
    };
  }, [queries]);
}

const refusedMilliseconds = 5_000; // until a stream is tried again that was refused, as without a sign-in

/** Whether a change is the draft that this window has already, as after saving it. */
function ownDraft(queries: QueryClient, change: Change): boolean {
  if (change.what !== "case" || !change.version) return false;
  const known = queries.getQueryData<{ version: number }>(keys.case(change.case));
  return known !== undefined && known.version >= change.version;
}
