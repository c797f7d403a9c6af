import { useSyncExternalStore } from "react";

/** What keeps requests from being answered at once. */
interface Connection {
  /** The session has ended; requests wait for the sign-in. */
  signedOut: boolean;
  /** So many requests wait for their turn on the server. */
  busy: number;
}

let state: Connection = { signedOut: false, busy: 0 };
const listeners = new Set<() => void>();

function change(next: Partial<Connection>) {
  state = { ...state, ...next };
  for (const tell of listeners) tell();
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

export function useConnection(): Connection {
  return useSyncExternalStore(subscribe, () => state);
}

let signIn: (() => void)[] = [];

/** Lets go on what waited for the sign-in. */
export function signedIn() {
  change({ signedOut: false });
  const waiting = signIn;
  signIn = [];
  for (const goOn of waiting) goOn();
}

/** Asks for the password in place: the session was found to have ended. */
export function sessionEnded() {
  change({ signedOut: true });
}

function untilSignedIn(signal: AbortSignal): Promise<void> {
  sessionEnded();
  return new Promise((goOn, giveUp) => {
    signIn.push(goOn);
    signal.addEventListener("abort", () => giveUp(signal.reason), { once: true });
  });
}

function pause(milliseconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((goOn, giveUp) => {
    const timer = setTimeout(goOn, milliseconds);
    signal.addEventListener(
      "abort",
      () => {
        clearTimeout(timer);
        giveUp(signal.reason);
      },
      { once: true },
    );
  });
}

/** Whether a request is answered by who is signed in: those about the session itself are not. */
function ownsSession(request: Request) {
  return new URL(request.url).pathname === "/api/session";
}

const spread = 0.5; // of the wait, so that those who were refused together do not come back together

/**
 * Fetches an answer, however long it takes: waits where the server asks to, and asks for
 * the password in place where the session has ended. A lost connection is an error.
 */
export async function patientFetch(request: Request): Promise<Response> {
  for (;;) {
    const answer = await fetch(request.clone());
    const wait = Number(answer.headers.get("Retry-After"));
    if (answer.status === 503 && wait > 0) {
      change({ busy: state.busy + 1 });
      try {
        await pause(1000 * wait * (1 - spread + Math.random() * 2 * spread), request.signal);
      } finally {
        change({ busy: state.busy - 1 });
      }
    } else if (answer.status === 401 && !ownsSession(request)) {
      await untilSignedIn(request.signal);
    } else return answer;
  }
}

/** A key that tells a request that is sent again from a new one. */
export function newKey(): string {
  // randomUUID is missing where the page came over plain HTTP from another machine.
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}
