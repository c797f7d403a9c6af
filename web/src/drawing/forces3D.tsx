import { useLayoutEffect, useMemo, useRef } from "react";
import { type InstancedMesh, Matrix4, Quaternion, Vector3 } from "three";
import type { Schema } from "@/api/client";

const up = new Vector3(0, 1, 0);

interface ArrowProps {
  from: number[];
  along: number[];
  /** Millimetres, head included. */
  length: number;
  thick: number;
  colour: string;
}

/** An arrow that is seen through the tooth. */
function Arrow({ from, along, length, thick, colour }: ArrowProps) {
  const turn = useMemo(
    () => new Quaternion().setFromUnitVectors(up, new Vector3(...along).normalize()),
    [along],
  );
  const head = 5 * thick;
  const [x = 0, y = 0, z = 0] = from;
  const look = <meshBasicMaterial color={colour} depthTest={false} transparent opacity={0.9} />;
  return (
    <group position={[x, y, z]} quaternion={turn}>
      <mesh position={[0, (length - head) / 2, 0]} renderOrder={2}>
        <cylinderGeometry args={[thick, thick, length - head, 16]} />
        {look}
      </mesh>
      <mesh position={[0, length - head / 2, 0]} renderOrder={2}>
        <coneGeometry args={[2.2 * thick, head, 20]} />
        {look}
      </mesh>
    </group>
  );
}

const tones = { held: "#1b685e", fit: "#8a6d12", free: "#8a4b12" } as const;

/** A pull, and beads on the walls that hold against it: the larger the more. */
export function PullArrow({ pull }: { pull: Schema["Pull"] }) {
  return (
    <>
      <Arrow from={pull.from} along={pull.along} length={5} thick={0.13} colour={tones[pull.state]} />
      {pull.places.length > 0 && <Beads places={pull.places} colour={tones[pull.state]} />}
    </>
  );
}

/** Beads of their own places: positions and by how many millimetres each holds. */
function Beads({ places, colour }: { places: number[][]; colour: string }) {
  const beads = useRef<InstancedMesh>(null);
  useLayoutEffect(() => {
    const most = Math.max(...places.map((p) => p[3] ?? 0));
    const matrix = new Matrix4();
    places.forEach(([x = 0, y = 0, z = 0, mm = 0], n) => {
      const size = 0.35 + (0.65 * mm) / most;
      beads.current?.setMatrixAt(n, matrix.makeScale(size, size, size).setPosition(x, y, z));
    });
    if (beads.current) beads.current.instanceMatrix.needsUpdate = true;
  }, [places]);
  return (
    <instancedMesh
      key={places.length}
      ref={beads}
      args={[undefined, undefined, places.length]}
      frustumCulled={false}
    >
      <sphereGeometry args={[0.09, 8, 6]} />
      <meshLambertMaterial color={colour} />
    </instancedMesh>
  );
}

/** What each cusp bears, pressing on the place where it does. */
export function Loads({ loads }: { loads: Schema["BorneLoad"][] }) {
  const most = Math.max(...loads.map((l) => l.newtons));
  return loads.map((l) => {
    const length = 0.6 + (0.9 * l.newtons) / most;
    const [x = 0, y = 0, z = 0] = l.at;
    const [dx = 0, dy = 0, dz = -1] = l.along;
    return (
      <Arrow
        key={l.at.join()}
        from={[x - length * dx, y - length * dy, z - length * dz]}
        along={l.along}
        length={length}
        thick={0.07}
        colour="#5a6068"
      />
    );
  });
}
