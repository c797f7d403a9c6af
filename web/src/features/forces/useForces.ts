import { useState } from "react";
import type { CaseDocument, Schema } from "@/api/client";
import { type Load, useDeflection, useHold, usePull, useStrain } from "./forces";

/** How far a pull of one's own leads off the bur, degrees. */
export interface Tilt {
  mesial: number;
  facial: number;
}

/** Names a pull of one's own on a filling. */
export const ownKey = (filling: number) => `own.${filling}`;

/** Names a pull of a plan. */
export const pullKey = (filling: number, pull: number) => `${filling}.${pull}`;

/**
 * What is asked of the forces on a document, and what is answered. It is asked while the
 * view is open and the plan has settled; at is where the section under load lies.
 */
export function useForces(document: CaseDocument, settled: boolean, at: number | undefined) {
  const [load, setLoad] = useState<Load>({});
  const [state, setState] = useState<Schema["SectionState"]>("cut");
  const [pull, setPull] = useState(pullKey(0, 0));
  const [tilt, setTilt] = useState<Tilt>();
  const hold = useHold(document, settled);
  const own = usePull(document, tilt, settled);
  const deflection = useDeflection(document, load, settled);
  const strain = useStrain(document, load, state, at, settled);
  const shownPull =
    hold.data?.fillings.flatMap((f, n) => f.pulls.filter((_, k) => pullKey(n, k) === pull))[0] ??
    own.data?.find((_, n) => ownKey(n) === pull);
  const pullYourself = (to: Tilt | undefined) => {
    if (to && !pull.startsWith("own")) setPull(ownKey(0));
    if (!to && pull.startsWith("own")) setPull(pullKey(0, 0));
    setTilt(to);
  };
  const asked = Object.values(load).some((v) => v !== undefined);
  return {
    at,
    load,
    setLoad,
    asked,
    state,
    setState,
    pull,
    setPull,
    shownPull,
    tilt,
    pullYourself,
    own,
    hold,
    deflection,
    strain,
  };
}

export type Forces = ReturnType<typeof useForces>;
