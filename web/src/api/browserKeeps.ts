/**
 * What this browser keeps over reloads, as JSON under names of the program's own. A browser may
 * refuse to keep anything: then reading finds nothing, and writing says so.
 */
export const browserKeeps = {
  names(prefix: string): string[] {
    try {
      return Object.keys(localStorage).filter((name) => name.startsWith(prefix));
    } catch {
      return [];
    }
  },

  read(name: string): unknown {
    try {
      return JSON.parse(localStorage.getItem(name) ?? "null");
    } catch {
      return null;
    }
  },

  /** Keeps a value, or forgets it where it is undefined; false where the browser keeps nothing. */
  write(name: string, value: unknown): boolean {
    try {
      if (value === undefined) localStorage.removeItem(name);
      else localStorage.setItem(name, JSON.stringify(value));
      return true;
    } catch {
      return false;
    }
  },
};
