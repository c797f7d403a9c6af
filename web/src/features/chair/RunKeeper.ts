import { ApiProblem, api, inWords, type Schema, unwrap } from "@/api/client";
import { newKey } from "@/api/connection";
import { EventPlaces } from "./eventPlaces";

const retryMilliseconds = 2_000;

/** Where a run stands on this screen: what the server has, and what it does not have yet. */
export interface Standing {
  step: number;
  paused: boolean;
  finished: boolean;
  /** Worked until the last event, and that event's time since the start, in seconds. */
  seconds: number;
  at: number;
  /** Worked on the step at hand until then. */
  stepSeconds: number;
  progress: Schema["ChairProgress"][];
  sequels: Schema["ChairSequel"][];
  /** Clocks that run, in the order in which they were started. */
  clocks: Schema["RunningClock"][];
  /** Events that the server has not confirmed. */
  unsent: number;
}

/**
 * Keeps what happens in a run until the server has it: every event at once in this
 * browser, then sent, and sent again until it is answered. A reload goes on where it was.
 */
export class RunKeeper {
  private pending: Schema["ChairEvent"][];
  private state: Schema["ChairState"];
  private readonly places: EventPlaces;
  private sending = false;
  private closed = false;
  private timer?: ReturnType<typeof setTimeout>;
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
    this.places.keep(this.pending);
    this.standing = this.fold();
    if (this.pending.length > 0) this.send();
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    this.closed = false;
    return () => {
      this.listeners.delete(listener);
    };
  };

  /** Seconds since the run began. */
  now() {
    return Math.max((Date.now() - this.began) / 1000, this.standing.at);
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
    this.send();
  }

  /** Leaves the page: what the server does not answer now stays in the browser. */
  close() {
    this.closed = true;
    this.send();
  }

  private async send() {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.timer);
    try {
      while (this.pending.length > 0) {
        const sent = [...this.pending];
        const answer = await this.post(sent);
        if (answer) this.state = answer;
        const behind = new Set(answer ? sent : []);
        this.pending = this.pending.filter((e) => !behind.has(e));
        this.places.keep(this.pending);
        this.tell();
        this.kept();
      }
    } catch {
      if (!this.closed) this.timer = setTimeout(() => this.send(), retryMilliseconds);
    } finally {
      this.sending = false;
    }
  }

  private tell() {
    this.standing = this.fold();
    for (const listener of this.listeners) listener();
  }

  /** Sends events; one that the server has differently is given up, and told. */
  private async post(events: Schema["ChairEvent"][]): Promise<Schema["ChairState"] | undefined> {
    try {
      return unwrap(
        await api.POST("/cases/{id}/runs/{run}/events", {
          params: { path: { id: this.caseId, run: this.run.id } },
          body: events,
        }),
      );
    } catch (error) {
      const at = refusedEvent(error);
      const event = at === undefined ? undefined : events[at];
      if (!event) throw error;
      this.pending = this.pending.filter((e) => e.id !== event.id);
      this.refused(event, inWords(error));
      return undefined;
    }
  }

  /** The server's state with what it does not have yet on top. */
  private fold(): Standing {
    const progress = this.state.steps.map((p) => ({ ...p }));
    const s = {
      step: this.state.step,
      paused: this.state.paused,
      finished: this.state.finished,
      seconds: this.state.seconds,
      at: this.state.at_seconds,
    };
    let clocks = [...this.state.clocks];
    const start = (step: number, from_seconds: number) => {
      clocks = [...clocks.filter((c) => c.step !== step), { step, from_seconds }];
    };
    for (const e of this.pending) {
      const spent = Math.max(e.at_seconds - s.at, 0);
      const at = progress[s.step];
      if (!s.paused) {
        s.seconds += spent;
        if (at) at.seconds += spent;
      }
      s.at = Math.max(s.at, e.at_seconds);
      if (e.kind === "paused") s.paused = true;
      else if (e.kind === "resumed") s.paused = false;
      else if (e.kind === "finished") s.finished = true;
      else if (e.kind === "clock_started") start(e.step, e.at_seconds);
      else if (e.kind === "clock_stopped") clocks = clocks.filter((c) => c.step !== e.step);
      else if ((e.kind === "done" || e.kind === "skipped") && at) {
        if (e.kind === "skipped") clocks = clocks.filter((c) => c.step !== s.step);
        else {
          const { steps } = this.run.sequence;
          const least = steps[s.step]?.clock?.least_seconds ?? 0;
          clocks = clocks.filter((c) => c.step !== s.step || e.at_seconds - c.from_seconds < least);
          steps.forEach((step, n) => {
            if (step.clock?.after === s.step + 1) start(n, e.at_seconds);
          });
        }
        at.done = e.kind === "done";
        at.skipped = e.kind === "skipped";
        s.step++;
      } else if (e.kind === "back" && s.step > 0) s.step--;
    }
    return {
      ...s,
      stepSeconds: progress[s.step]?.seconds ?? 0,
      progress,
      sequels: this.state.sequels,
      clocks: s.finished ? [] : clocks,
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
