import { useEffect, useMemo } from "react";
import { Matrix4, Path, Shape, ShapeGeometry, Vector2, Vector3 } from "three";
import type { Schema } from "@/api/client";
import { type Polyline, polyline } from "@/drawing/geometry";
import type { Shown } from "./StudyTooth3D";

type Tissue = "enamel" | "dentin" | "pulp";

const tones = {
  light: { enamel: "#dfe6ea", dentin: "#ecdcae", pulp: "#cf9a95" },
  dark: { enamel: "#aab6be", dentin: "#a8935c", pulp: "#a86a66" },
};

const over = 0.004; // mm that each tissue's face lies before the one around it

/** The cut face, filled from the section's own curves. */
export function CutFace({
  section,
  shown,
  theme,
}: {
  section: Schema["View"];
  shown: Shown;
  theme: "light" | "dark";
}) {
  const tissues = (["enamel", "dentin", "pulp"] as const).filter((t) => shown[t]);
  return (
    <>
      {tissues.map((tissue, n) => (
        <Face
          key={tissue}
          section={section}
          tissue={tissue}
          tone={tones[theme][tissue]}
          lift={(n + 1) * over}
        />
      ))}
    </>
  );
}

function Face({
  section,
  tissue,
  tone,
  lift,
}: {
  section: Schema["View"];
  tissue: Tissue;
  tone: string;
  lift: number;
}) {
  const geometry = useMemo(() => {
    const lines = section.layers.filter((l) => l.kind === tissue).flatMap((l) => l.lines.map(polyline));
    return new ShapeGeometry(shapesOf(lines));
  }, [section, tissue]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  const place = useMemo(() => standing(section, lift), [section, lift]);
  return (
    <mesh geometry={geometry} matrixAutoUpdate={false} matrix={place} raycast={() => undefined}>
      <meshBasicMaterial color={tone} side={2} toneMapped={false} />
    </mesh>
  );
}

const points = (line: Polyline) =>
  line.points.flatMap((x, n) => (n % 2 === 0 ? [new Vector2(x, line.points[n + 1] ?? 0)] : []));

function area(at: Vector2[]): number {
  return at.reduce((sum, p, n) => {
    const q = at[(n + 1) % at.length] ?? p;
    return sum + (p.x * q.y - q.x * p.y) / 2;
  }, 0);
}

/** Areas run counter-clockwise, holes in them clockwise. */
function shapesOf(lines: Polyline[]): Shape[] {
  const rings = lines.filter((l) => l.closed).map(points);
  const shapes = rings.filter((r) => area(r) > 0).map((r) => new Shape(r));
  for (const hole of rings.filter((r) => area(r) < 0)) {
    const first = hole[0];
    const around = shapes.find((s) => first && inside(first, s.getPoints()));
    around?.holes.push(new Path(hole));
  }
  return shapes;
}

function inside(p: Vector2, ring: Vector2[]): boolean {
  let within = false;
  ring.forEach((a, n) => {
    const b = ring[(n + 1) % ring.length] ?? a;
    if (a.y > p.y !== b.y > p.y && p.x < a.x + ((p.y - a.y) / (b.y - a.y)) * (b.x - a.x)) within = !within;
  });
  return within;
}

/** Stands the section's plane in the tooth, a little towards the part that is taken away. */
function standing(section: Schema["View"], lift: number): Matrix4 {
  const vector = ([x = 0, y = 0, z = 0]: number[]) => new Vector3(x, y, z);
  const u = vector(section.u);
  const v = vector(section.v);
  const normal = new Vector3().crossVectors(u, v);
  // The part towards larger coordinates is taken away.
  if (normal.x + normal.y + normal.z < 0) normal.negate();
  return new Matrix4()
    .makeBasis(u, v, normal)
    .setPosition(vector(section.origin).addScaledVector(normal, lift));
}
