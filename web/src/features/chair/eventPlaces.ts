import { browserKeeps } from "@/api/browserKeeps";
import type { Schema } from "@/api/client";
import { newKey } from "@/api/connection";

type Event = Schema["ChairEvent"];

const prefix = "obturon.run.";

/**
 * What this browser keeps of a run until the server has it. Every window writes to a place
 * of its own; what a window that is gone has left behind is taken along.
 */
export class EventPlaces {
  private readonly own: string;

  constructor(
    private readonly run: string,
    window: string = newKey(),
  ) {
    this.own = `${prefix}${run}.${window}`;
  }

  /** All that is kept and not among what the server has; places with nothing else are cleared. */
  left(known: Event[]): Event[] {
    const ids = new Set(known.map((e) => e.id));
    const left = new Map<string, Event>();
    for (const place of this.places()) {
      const events = this.read(place).filter((e) => !ids.has(e.id));
      for (const e of events) left.set(e.id, e);
      if (events.length === 0) this.write(place, []);
    }
    const all = [...left.values(), ...this.withoutIds(known)];
    return all.sort((a, b) => a.at_seconds - b.at_seconds);
  }

  /** What versions before ids had kept of the run, in one place for all windows. */
  private withoutIds(known: Event[]): Event[] {
    const place = prefix + this.run;
    const same = (a: Event, b: Event) =>
      a.kind === b.kind && a.step === b.step && a.at_seconds === b.at_seconds;
    const events = this.read(place).filter((e) => !known.some((k) => same(k, e)));
    return events.map(({ kind, step, at_seconds, mm }) => ({ id: newKey(), kind, step, at_seconds, mm }));
  }

  /** Keeps what this window still has to send: what was left too, so that its older place is done with. */
  keep(events: Event[]) {
    this.write(this.own, events);
    this.write(prefix + this.run, []);
  }

  private places(): string[] {
    return browserKeeps.names(`${prefix}${this.run}.`);
  }

  private read(place: string): Event[] {
    const kept = browserKeeps.read(place);
    return Array.isArray(kept) ? kept : [];
  }

  /** Where the browser keeps nothing, the page itself still has it. */
  private write(place: string, events: Event[]) {
    browserKeeps.write(place, events.length === 0 ? undefined : events);
  }
}
