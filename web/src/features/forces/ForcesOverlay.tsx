import type { Schema } from "@/api/client";
import { PullHandle } from "./PullHandle";
import { StrainOverlay } from "./StrainOverlay";
import type { Forces, Tilt } from "./useForces";

interface Props {
  forces: Forces;
  view: Schema["View"];
  /** The load is drawn in it. */
  loaded: boolean;
  /** Millimetres of a pixel. */
  px: number;
}

/** Which tilt of a pull of one's own a view shows, if any. */
export function shownTilt(view: Schema["View"]): keyof Tilt | undefined {
  if (view.id === "buccolingual") return "facial";
  return view.id === "mesiodistal" ? "mesial" : undefined;
}

/** Over a section: its tension with the load, and a pull of one's own. */
export function ForcesOverlay({ forces, view, loaded, px }: Props) {
  const hold = forces.hold.data;
  const upright = hold?.fillings[0]?.pulls[0];
  const of = shownTilt(view);
  return (
    <>
      {loaded && forces.strain.data && (
        <StrainOverlay forces={forces} turned={(view.u[1] ?? 1) < 0} px={px} />
      )}
      {forces.tilt && upright && of && (
        <PullHandle
          view={view}
          upright={upright}
          tilt={forces.tilt}
          most={hold.bounds.tilt_degrees}
          of={of}
          onTilt={forces.pullYourself}
          px={px}
        />
      )}
    </>
  );
}
