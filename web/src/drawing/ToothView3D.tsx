import { Canvas, useFrame, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Schema } from "@/api/client";
import { currentTheme } from "@/app/theme";
import { decodeMesh, type ToothMesh } from "./decodeMesh";
import { Loads, PullArrow } from "./forces3D";
import type { Side } from "./standardViews";
import { colourByLabel, softwareRendering } from "./toothColours";
import { Lights, Orbit, Sharpness, useTurntable, ViewBar, Viewer, viewInWords } from "./turntable";

interface Props {
  title: string;
  mesh: Schema["MeshData"];
  /** A lighter mesh, shown while turning on machines that need it; the same where no finer one is at hand. */
  turning: Schema["MeshData"];
  /** A place to point out, in the tooth frame. */
  mark?: number[];
  /** A pull on the filling, with the walls that hold against it. */
  pull?: Schema["Pull"];
  /** Loads on the cusps. */
  loads?: Schema["BorneLoad"][];
  /** The side it is first seen from. */
  from?: Side;
  upper: boolean;
  /** Names the biting side: occlusal or incisal. */
  biting: string;
}

/** The cut tooth, turnable; wheel to come closer, standard views by button and by key. */
export function ToothView3D({ title, mesh, turning, mark, pull, loads, from, upper, biting }: Props) {
  const full = useTooth(mesh);
  const light = useTooth(turning);
  const [inMotion, setInMotion] = useState(false);
  const [slow, setSlow] = useState(softwareRendering);
  const turntable = useTurntable({ mesially: full.mesially, upper }, from);
  const { view } = turntable;

  return (
    <>
      <figcaption className="flex min-h-6 flex-wrap items-center gap-x-0.5 px-2 pt-1 text-xs">
        <span className="mr-auto font-bold text-ink">{title}</span>
        <ViewBar turntable={turntable} biting={biting} />
      </figcaption>
      <div className="min-h-0 flex-1">
        <Canvas
          frameloop="demand"
          gl={{ antialias: !softwareRendering() }}
          orthographic
          camera={{ near: 0.1, far: 200 }}
          role="img"
          aria-label={`${title} in three dimensions${viewInWords(view)}; drag to turn`}
          data-testid="tooth-3d"
          data-view={view.name}
          data-triangles={inMotion && slow ? turning.triangles : mesh.triangles}
        >
          <Lights />
          <group scale={[view.mirror ? -full.mesially : full.mesially, 1, 1]}>
            <Tooth tooth={inMotion && slow ? light : full} />
            {mark && <Mark at={mark} />}
            {pull && <PullArrow pull={pull} />}
            {loads && <Loads loads={loads} />}
          </group>
          <Sharpness slow={slow} inMotion={inMotion} shown={`${view.asked} ${full.geometry.id}`} />
          {inMotion && !slow && <FrameWatch onSlow={() => setSlow(true)} />}
          <Orbit onMotion={setInMotion} />
          <Viewer view={view} tooth={full} rootShown={2.5} />
        </Canvas>
      </div>
    </>
  );
}

function useTooth(mesh: Schema["MeshData"]): ToothMesh {
  const tooth = useMemo(() => decodeMesh(mesh), [mesh]);
  useEffect(() => () => tooth.geometry.dispose(), [tooth]);
  return tooth;
}

const slowFrame = 1 / 30; // seconds
const framesToJudge = 3;

/** Reports once when frames in motion take longer than a thirtieth of a second. */
function FrameWatch({ onSlow }: { onSlow: () => void }) {
  const slowFrames = useRef(0);
  useFrame((_, seconds) => {
    slowFrames.current = seconds > slowFrame ? slowFrames.current + 1 : 0;
    if (slowFrames.current === framesToJudge) onSlow();
  });
  return null;
}

function Tooth({ tooth }: { tooth: ToothMesh }) {
  const [theme, setTheme] = useState(currentTheme());
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => {
    const follow = () => setTheme(currentTheme());
    window.addEventListener("themechange", follow);
    return () => window.removeEventListener("themechange", follow);
  }, []);
  useEffect(() => {
    colourByLabel(tooth, theme);
    invalidate();
  }, [tooth, theme, invalidate]);
  return (
    <mesh geometry={tooth.geometry}>
      <meshPhongMaterial vertexColors shininess={45} specular="#5a6068" />
    </mesh>
  );
}

function Mark({ at }: { at: number[] }) {
  const [x = 0, y = 0, z = 0] = at;
  return (
    <mesh position={[x, y, z]} renderOrder={1}>
      <sphereGeometry args={[0.16, 16, 12]} />
      <meshBasicMaterial color="#1b685e" depthTest={false} transparent opacity={0.85} />
    </mesh>
  );
}
