import { useState } from "react";

/**
 * What somebody changes of a document of the practice, which may be kept elsewhere meanwhile: the
 * changes stay until they are kept or discarded.
 */
export function useEdited<D extends { version: number }, V>(kept: D, of: (document: D) => V) {
  const [own, setOwn] = useState<{ from: D; value: V }>();
  return {
    value: own ? own.value : of(kept),
    /** What the changes were made from: its version is named when they are kept. */
    from: own?.from ?? kept,
    changed: own !== undefined,
    /** Somebody else has kept a version since. */
    overtaken: own !== undefined && own.from.version !== kept.version,
    set: (value: V) => setOwn({ from: own?.from ?? kept, value }),
    discard: () => setOwn(undefined),
    /** Has the changes take the place of what was kept elsewhere. */
    insist: () => setOwn(own && { from: kept, value: own.value }),
  };
}
