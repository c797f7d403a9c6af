import { ApiProblem, api, inWords, type Schema, unwrap } from "@/api/client";
import { newKey } from "@/api/connection";
import { Outbox } from "@/api/Outbox";
import { EventPlaces } from "./eventPlaces";
import { type Folded, fold } from "./fold";

/** Where a run stands on this screen: what the server has, and what it does not have yet. */
export interface Standing extends Folded {
  /** Worked on the step at hand until the last event, seconds. */
  stepSeconds: number;
  sequels: Schema["ChairSequel"][];
  /** Events that the server has not confirmed. */
  unsent: number;
}

/**
 * Keeps what happens in a run until the server has it: every event at once in this browser, then
 * in an outbox. Where the run stands is what the server says, with what it does not have yet on top.
 */
export class RunKeeper {
  private pending: Schema["ChairEvent"][];
  /** Ids of the events that the server is known to have. */
  private confirmed: Set<string>;
  private state: Schema["ChairState"];
  private readonly places: EventPlaces;
  private readonly outbox = new Outbox(
    () => this.send(),
    () => !this.closed,
  );
  private closed = false;
  private listeners = new Set<() => void>();
  private readonly began: number;
  standing: Standing;

  constructor(
    private readonly caseId: string,
    private readonly run: Schema["ChairRun"],
    /** Hears that the server has taken something in. */
    private readonly kept: () => void,
    /** Hears that the server refuses an event for good. */
    private readonly refused: (event: Schema["ChairEvent"], why: string) => void,
  ) {
    this.began = Date.parse(run.started_at);
    this.state = run.state;
    this.places = new EventPlaces(run.id);
    this.pending = this.places.left(run.events);
    this.confirmed = new Set(run.events.map((e) => e.id));
    this.standing = this.stand();
  }

  /** Begins to send what an earlier window has left. */
  open() {
    this.closed = false;
    this.places.keep(this.pending);
    if (this.pending.length > 0) this.outbox.empty();
  }

  /** Leaves the page: what the server does not answer now stays in the browser. */
  close() {
    this.closed = true;
    this.outbox.wake();
    this.outbox.empty();
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  /** Takes what the server has, as another window's events. */
  adopt(run: Schema["ChairRun"]) {
    const known = new Set(run.events.map((e) => e.id));
    if (![...this.confirmed].every((id) => known.has(id))) return; // read before the last answer
    this.confirmed = known;
    this.state = run.state;
    this.pending = this.pending.filter((e) => !known.has(e.id));
    this.tell();
  }

  /** Seconds since the run began. */
  now() {
    return Math.max((Date.now() - this.began) / 1000, this.standing.at_seconds);
  }

  /** Notes that something happens now at the step at hand, or to the clock of another. */
  note(kind: Schema["ChairEventKind"], mm?: number, step = this.standing.step) {
    if (this.standing.finished) return;
    this.pending.push({
      id: newKey(),
      kind,
      step,
      at_seconds: Math.round(this.now() * 100) / 100,
      ...(mm === undefined ? {} : { mm }),
    });
    this.places.keep(this.pending);
    this.tell();
    this.outbox.empty();
  }

  /** Sends all that is pending; one that the server has differently is given up, and told. */
  private async send(): Promise<boolean> {
    const sent = [...this.pending];
    if (sent.length === 0) return false;
    try {
      this.state = unwrap(
        await api.POST("/cases/{id}/runs/{run}/events", {
          params: { path: { id: this.caseId, run: this.run.id } },
          body: sent,
        }),
      );
      for (const e of sent) this.confirmed.add(e.id);
      this.drop(sent);
    } catch (error) {
      const at = refusedEvent(error);
      const event = at === undefined ? undefined : sent[at];
      if (!event) throw error;
      this.drop([event]);
      this.refused(event, inWords(error));
    }
    this.kept();
    return this.pending.length > 0;
  }

  private drop(events: Schema["ChairEvent"][]) {
    const behind = new Set(events.map((e) => e.id));
    this.pending = this.pending.filter((e) => !behind.has(e.id));
    this.places.keep(this.pending);
    this.tell();
  }

  private tell() {
    this.standing = this.stand();
    for (const listener of this.listeners) listener();
  }

  private stand(): Standing {
    const folded = fold(this.run.sequence.steps, this.state, this.pending);
    return {
      ...folded,
      stepSeconds: folded.steps[folded.step]?.seconds ?? 0,
      sequels: this.state.sequels,
      unsent: this.pending.length,
    };
  }
}

/** Which of the events sent the server has kept with other content. */
function refusedEvent(error: unknown): number | undefined {
  if (!(error instanceof ApiProblem) || error.problem.status !== 409) return undefined;
  const place = error.faults.map((f) => /^\$\[(\d+)\]\.id$/.exec(f.path)?.[1]).find(Boolean);
  return place === undefined ? undefined : Number(place);
}
