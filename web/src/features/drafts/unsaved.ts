import { browserKeeps } from "@/api/browserKeeps";
import type { CaseDocument } from "@/api/client";
import { newKey } from "@/api/connection";

/** A draft that the server does not have yet, kept in this browser. */
export interface Unsaved {
  caseId: string;
  /** Who changed it: another's sign-in must not send it. */
  user: string;
  /** The window that changed it. */
  window: string;
  /** The version of the draft that it was made from. */
  version: number;
  document: CaseDocument;
  /** When it was last seen to, in milliseconds. */
  at: number;
}

const prefix = "obturon.unsaved.";
const windowKey = "obturon.window";

/** Names this window for as long as it is open, over reloads. */
export const thisWindow = (() => {
  try {
    const known = sessionStorage.getItem(windowKey) ?? newKey();
    sessionStorage.setItem(windowKey, known);
    return known;
  } catch {
    return newKey();
  }
})();

const keyOf = (u: Pick<Unsaved, "user" | "caseId" | "window">) =>
  `${prefix}${u.user}.${u.caseId}.${u.window}`;

/** Keeps a draft; false where the browser keeps nothing. */
export function keepUnsaved(u: Unsaved): boolean {
  return browserKeeps.write(keyOf(u), u);
}

export function forgetUnsaved(u: Pick<Unsaved, "user" | "caseId" | "window">) {
  browserKeeps.write(keyOf(u), undefined);
}

const abandoned = 20_000; // milliseconds after which another window no longer sees to its draft

/** The drafts of a user that nobody else sees to: this window's, and those of windows that are gone. */
export function unsavedOf(user: string): Unsaved[] {
  return browserKeeps
    .names(`${prefix}${user}.`)
    .map((name) => whole(browserKeeps.read(name)))
    .filter((u) => u?.user === user && (u.window === thisWindow || Date.now() - u.at > abandoned))
    .filter((u) => u !== undefined)
    .sort((a, b) => b.at - a.at);
}

function whole(kept: unknown): Unsaved | undefined {
  const u = (kept ?? {}) as Partial<Unsaved>;
  const is = u.caseId && u.user && u.window && u.document && typeof u.version === "number";
  return is ? ({ at: 0, ...u } as Unsaved) : undefined;
}
