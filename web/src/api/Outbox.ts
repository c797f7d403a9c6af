const firstRetry = 1_000; // milliseconds
const lastRetry = 8_000;

/**
 * Sends what the server is to have, one request at a time and in order, again and again until it
 * is answered.
 */
export class Outbox {
  private running?: Promise<void>;
  private wakeUp?: () => void;

  constructor(
    /** Sends once; false when nothing is left to send. It throws where no answer comes. */
    private readonly send: () => Promise<boolean>,
    /** Hears that no answer came; false ends it until it is called again. */
    private readonly unanswered: () => boolean,
  ) {}

  get busy() {
    return this.running !== undefined;
  }

  /** Sends until nothing is left. */
  empty(): Promise<void> {
    this.running ??= this.sendAll().finally(() => {
      this.running = undefined;
    });
    return this.running;
  }

  /** Tries again at once what waits for its next try. */
  wake() {
    this.wakeUp?.();
  }

  private async sendAll() {
    let wait = firstRetry;
    for (;;) {
      try {
        if (!(await this.send())) return;
        wait = firstRetry;
      } catch {
        if (!this.unanswered()) return;
        await this.sleep(wait);
        wait = Math.min(2 * wait, lastRetry);
      }
    }
  }

  private sleep(milliseconds: number) {
    return new Promise<void>((goOn) => {
      const timer = setTimeout(goOn, milliseconds);
      this.wakeUp = () => {
        clearTimeout(timer);
        goOn();
      };
    });
  }
}
