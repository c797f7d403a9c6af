import type { QueryClient } from "@tanstack/react-query";
import { ApiProblem, api, type CaseDocument, type Schema, Undecided, unwrap } from "@/api/client";
import { keys } from "@/api/keys";
import { Outbox } from "@/api/Outbox";
import { forgetUnsaved, keepUnsaved, thisWindow, type Unsaved } from "./unsaved";

/** What has become of the newest change. */
export type DraftState =
  | { kind: "saved" }
  | { kind: "saving" }
  | { kind: "unanswered" }
  | { kind: "refused"; problem: ApiProblem }
  /** Someone else has saved meanwhile; theirs is what the server has. */
  | { kind: "conflict"; theirs: Schema["Case"] };

const pauseMilliseconds = 700; // of editing, before a draft is saved
const tending = 5_000; // between signs that this window still sees to its draft

/**
 * Keeps the draft of one case until the server has it: one save at a time, the newest
 * change last. It outlives the page that shows it, and the browser keeps what is not
 * saved when the window closes.
 */
export class DraftKeeper {
  private saved: CaseDocument;
  private timer?: ReturnType<typeof setTimeout>;
  private readonly outbox = new Outbox(
    () => this.send(),
    () => {
      this.become({ kind: "unanswered" });
      return true;
    },
  );
  private listeners = new Set<() => void>();
  private tend?: ReturnType<typeof setInterval>;
  /** What was sent from here and may have arrived, though its answer has not. */
  private sent = new Set<string>();
  /** The browser could not keep what is not saved. */
  unkept = false;
  state: DraftState = { kind: "saved" };
  /** The version of the draft that the server has, as far as is known here. */
  version: number;
  /** The newest document, saved or not. */
  document: CaseDocument;

  constructor(
    readonly caseId: string,
    private readonly user: string,
    private readonly queries: QueryClient,
    dental: Schema["Case"],
    /** What a window left behind that was closed. */
    private left?: Unsaved,
  ) {
    this.saved = dental.document;
    this.document = dental.document;
    this.version = dental.version;
    if (!left || likeness(left.document) === likeness(dental.document)) return;
    this.document = left.document;
    this.sent.add(likeness(left.document)); // in the last moment of that window
    this.state = left.version === dental.version ? { kind: "saving" } : { kind: "conflict", theirs: dental };
  }

  /** Goes on with what was left behind. */
  open() {
    const { left } = this;
    this.left = undefined;
    if (!left) return;
    if (this.state.kind !== "saved") this.keep();
    if (this.state.kind === "saved" || left.window !== thisWindow) forgetUnsaved(left);
    if (this.state.kind === "saving") this.save();
  }

  get clean() {
    return this.document === this.saved && !this.outbox.busy;
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  private become(state: DraftState) {
    this.state = state;
    for (const tell of this.listeners) tell();
  }

  /** Takes a change; it is saved once editing pauses. */
  change(document: CaseDocument) {
    if (document === this.document) return;
    this.document = document;
    this.keep();
    if (this.state.kind === "conflict") return; // nothing is sent until it is decided
    if (this.state.kind !== "unanswered") this.become({ kind: "saving" });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.save(), pauseMilliseconds);
  }

  /** Takes what the server has, where nothing newer is here. */
  adopt(dental: Schema["Case"]) {
    if (!this.clean || dental.version <= this.version) return false;
    this.version = dental.version;
    this.document = dental.document;
    this.saved = dental.document;
    this.become({ kind: "saved" });
    return true;
  }

  /** Saves now and gives the version then; throws where it cannot be saved. */
  async flush(): Promise<number> {
    clearTimeout(this.timer);
    await this.save();
    if (this.state.kind === "refused") throw this.state.problem;
    if (this.state.kind !== "saved")
      throw new Undecided("The draft has changed elsewhere: choose which to keep.");
    return this.version;
  }

  /** Tries again what was refused. */
  retry() {
    if (this.state.kind === "conflict") return;
    this.outbox.wake();
    this.save();
  }

  /** Decides a conflict: mine is saved over theirs, or theirs is taken. */
  decide(mine: boolean) {
    if (this.state.kind !== "conflict") return;
    const { theirs } = this.state;
    this.version = theirs.version;
    this.saved = theirs.document;
    this.become({ kind: "saving" });
    if (mine) {
      this.save();
      return;
    }
    this.document = theirs.document;
    this.forget();
    this.queries.setQueryData(keys.case(this.caseId), theirs);
    this.become({ kind: "saved" });
  }

  /** The page goes: what is not saved is sent in its last moment; the browser keeps it too. */
  leave() {
    if (this.document === this.saved || this.state.kind === "conflict") return;
    this.keep();
    this.sent.add(likeness(this.document));
    fetch(`/api/cases/${this.caseId}/draft`, {
      method: "PUT",
      keepalive: true,
      headers: { "Content-Type": "application/json", "If-Match": `"${this.version}"` },
      body: JSON.stringify(this.document),
    }).catch(() => undefined);
  }

  private async save(): Promise<void> {
    clearTimeout(this.timer);
    await this.outbox.empty();
    // What changed while the last answer was read.
    if (this.state.kind === "saved" && this.document !== this.saved) await this.save();
  }

  /** Sends the newest document; false once it is what the server has, or the server says no. */
  private async send(): Promise<boolean> {
    if (this.document === this.saved) {
      this.forget();
      this.become({ kind: "saved" });
      return false;
    }
    const sending = this.document;
    if (this.state.kind !== "unanswered") this.become({ kind: "saving" });
    this.sent.add(likeness(sending));
    try {
      const kept = unwrap(
        await api.PUT("/cases/{id}/draft", {
          params: { path: { id: this.caseId }, header: { "If-Match": `"${this.version}"` } },
          body: sending,
        }),
      );
      this.version = kept.version;
      this.saved = sending;
      this.sent.clear();
      this.queries.setQueryData(keys.case(this.caseId), kept);
      this.queries.invalidateQueries({ queryKey: keys.cases() });
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      return !(await this.refused(error));
    }
    return true;
  }

  /** Whether a refusal stands: not where the other draft is one that was sent from here. */
  private async refused(problem: ApiProblem): Promise<boolean> {
    if (problem.problem.type !== "stale_draft") {
      this.become({ kind: "refused", problem });
      return true;
    }
    try {
      const theirs = unwrap(await api.GET("/cases/{id}", { params: { path: { id: this.caseId } } }));
      if (this.sent.has(likeness(theirs.document))) {
        this.version = theirs.version;
        return false;
      }
      this.become({ kind: "conflict", theirs });
    } catch (error) {
      this.become({ kind: "refused", problem: error instanceof ApiProblem ? error : problem });
    }
    return true;
  }

  private keep() {
    this.unkept = !keepUnsaved({
      caseId: this.caseId,
      user: this.user,
      window: thisWindow,
      version: this.version,
      document: this.document,
      at: Date.now(),
    });
    this.tend ??= setInterval(() => this.keep(), tending);
  }

  private forget() {
    clearInterval(this.tend);
    this.tend = undefined;
    this.unkept = false;
    forgetUnsaved({ caseId: this.caseId, user: this.user, window: thisWindow });
  }
}

/** The same text for the same document, however its fields are ordered. */
const likeness = (document: CaseDocument) => JSON.stringify(sorted(document));

/** The same value with the fields of its objects in order, to be compared. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, v]) => v !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, v]) => [k, sorted(v)]),
  );
}
