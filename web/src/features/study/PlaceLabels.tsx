import { useFrame } from "@react-three/fiber";
import { type RefObject, useMemo } from "react";
import { Vector3 } from "three";
import type { Schema } from "@/api/client";
import type { Shown } from "./StudyTooth3D";

const namedKinds = ["cusp", "pit"];

export interface SpotInSight {
  landmark: Schema["Landmark"];
  lit: boolean;
}

/** The landmarks that are marked: those of the tissues shown, and the one pointed out, which comes first. */
export function spotsInSight(landmarks: Schema["Landmark"][], shown: Shown, lit?: string): SpotInSight[] {
  const inSight = ({ kind }: Schema["Landmark"]) =>
    kind === "horn"
      ? shown.pulp && (shown.glass || (!shown.enamel && !shown.dentin))
      : shown.enamel && namedKinds.includes(kind);
  return landmarks
    .filter((l) => l.name === lit || (shown.names && inSight(l)))
    .map((landmark) => ({ landmark, lit: landmark.name === lit }))
    .sort((a, b) => Number(b.lit) - Number(a.lit));
}

/** Cusps and horns go by their letters, so that the names do not cover the tooth. */
export function short({ name, kind }: Schema["Landmark"]): string {
  if (kind === "horn") return name.replace(" pulp horn", " horn");
  if (kind !== "cusp" || name === "cusp tip") return name;
  const letters = name.replace(" cusp", "").match(/mesio|disto|mesial|distal|buccal|lingual/g) ?? [];
  return letters.map((part) => part[0]?.toUpperCase()).join("");
}

export function Spot({ at, lit }: { at: number[]; lit: boolean }) {
  const [x = 0, y = 0, z = 0] = at;
  return (
    <mesh position={[x, y, z]} renderOrder={9} raycast={() => undefined}>
      <sphereGeometry args={[lit ? 0.16 : 0.09, 12, 8]} />
      <meshBasicMaterial color={lit ? "#1b685e" : "#1f2a33"} depthTest={false} transparent opacity={0.9} />
    </mesh>
  );
}

const labelLift = 8; // pixels over its spot

/** Puts each name over its spot as the tooth turns; one that would cover a nearer name is left out. */
export function PlaceLabels({
  layer,
  spots,
  side,
}: {
  layer: RefObject<HTMLDivElement | null>;
  spots: SpotInSight[];
  side: number;
}) {
  const at = useMemo(() => new Vector3(), []);
  useFrame(({ camera, size }) => {
    const elements = layer.current?.children;
    if (!elements) return;
    const placed: DOMRect[] = [];
    const projected = spots.map(({ landmark, lit }, n) => {
      const [x = 0, y = 0, z = 0] = landmark.at;
      at.set(side * x, y, z).project(camera);
      return {
        element: elements[n] as HTMLElement | undefined,
        x: ((at.x + 1) / 2) * size.width,
        y: ((1 - at.y) / 2) * size.height,
        depth: lit ? Number.NEGATIVE_INFINITY : at.z,
      };
    });
    for (const { element, x, y } of projected.sort((a, b) => a.depth - b.depth)) {
      if (!element) continue;
      const width = element.offsetWidth;
      const height = element.offsetHeight;
      const box = new DOMRect(x - width / 2, y - labelLift - height, width, height);
      const covered = placed.some(
        (p) => box.left < p.right && p.left < box.right && box.top < p.bottom && p.top < box.bottom,
      );
      element.style.transform = `translate(${box.left}px, ${box.top}px)`;
      element.style.visibility = covered ? "hidden" : "visible";
      if (!covered) placed.push(box);
    }
  });
  return null;
}
