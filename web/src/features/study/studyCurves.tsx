import { Line } from "@react-three/drei";
import { useMemo } from "react";
import { DoubleSide, Matrix4, Vector3 } from "three";
import type { Schema } from "@/api/client";
import type { Shown } from "./StudyTooth3D";

export function triples(points: number[], closed: boolean): [number, number, number][] {
  const out: [number, number, number][] = [];
  for (let k = 0; k + 2 < points.length; k += 3) {
    out.push([points[k] ?? 0, points[k + 1] ?? 0, points[k + 2] ?? 0]);
  }
  const first = out[0];
  if (closed && first) out.push(first);
  return out;
}

const curveLook: Record<string, string> = { cervical: "#8a7440", gingiva: "#b0625f" };

export function SpaceCurve({ line, shown }: { line: Schema["SpaceLine"]; shown: Shown }) {
  const points = useMemo(() => triples(line.points, line.closed), [line]);
  const colour = curveLook[line.kind];
  if (!colour || !shown.enamel || (line.kind === "gingiva" && !shown.gingiva) || points.length < 2)
    return null;
  return (
    <Line
      points={points}
      color={colour}
      lineWidth={line.kind === "gingiva" ? 2.5 : 1.2}
      side={DoubleSide} // its quads do not turn with a tooth that is turned over
      raycast={() => undefined}
    />
  );
}

export function OpposingPlane({ plane }: { plane: Schema["SpacePlane"] }) {
  const [x = 0, y = 0, z = 0] = plane.origin;
  const tilt = useMemo(() => {
    const [nx = 0, ny = 0, nz = 1] = plane.normal;
    return new Matrix4().lookAt(new Vector3(nx, ny, nz), new Vector3(), new Vector3(1, 0, 0));
  }, [plane]);
  return (
    <group position={[x, y, z]}>
      <mesh matrixAutoUpdate={false} matrix={tilt} renderOrder={4} raycast={() => undefined}>
        <planeGeometry args={[13, 13]} />
        <meshBasicMaterial color="#7a8a94" transparent opacity={0.25} side={2} depthWrite={false} />
      </mesh>
    </group>
  );
}
