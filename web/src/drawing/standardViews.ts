import { Vector3 } from "three";

export type Side = "mesial" | "distal" | "facial" | "lingual";

/** A way to look at the tooth: towards the viewer, what is up, and whether a mirror turns it. */
export interface Look {
  towards: Vector3;
  up: Vector3;
  mirror?: boolean;
}

/** How the tooth stands in the mouth, for views as a dentist knows them. */
export interface Stance {
  /** +1 where mesial lies towards +x in the space that is drawn, -1 where towards -x. */
  mesially: number;
  upper: boolean;
}

export const standardViews = ["occlusal", "facial", "lingual", "mesial", "distal", "mirror"] as const;

export type StandardView = (typeof standardViews)[number];

/** From above, facial and mesial, or from the side that is asked for: what is seen first. */
export function firstLook({ mesially }: Stance, from?: Side): Look {
  const towards = {
    facial: new Vector3(6 * mesially, 30, 6),
    lingual: new Vector3(6 * mesially, -30, 8),
    mesial: new Vector3(20 * mesially, 10, 20),
    distal: new Vector3(-20 * mesially, 10, 20),
    none: new Vector3(9 * mesially, 17, 20),
  }[from ?? "none"];
  return { towards, up: new Vector3(0, 0, 1) };
}

/**
 * A standard view. From above, the cheek is up on upper teeth and the tongue on
 * lower ones, as in the plan; the mirror shows the same turned over.
 */
export function standardLook(view: StandardView, { mesially, upper }: Stance): Look {
  const upright = new Vector3(0, 0, 1);
  switch (view) {
    case "facial":
      return { towards: new Vector3(0, 1, 0), up: upright };
    case "lingual":
      return { towards: new Vector3(0, -1, 0), up: upright };
    case "mesial":
      return { towards: new Vector3(mesially, 0, 0), up: upright };
    case "distal":
      return { towards: new Vector3(-mesially, 0, 0), up: upright };
    default:
      return {
        towards: new Vector3(0, 0, 1),
        up: new Vector3(0, upper ? 1 : -1, 0),
        mirror: view === "mirror",
      };
  }
}
