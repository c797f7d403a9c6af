import { OrbitControls } from "@react-three/drei";
import { Canvas, useFrame, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Schema } from "@/api/client";
import { currentTheme } from "@/app/theme";
import { decodeMesh, type ToothMesh } from "./decodeMesh";
import { colourByLabel, softwareRendering } from "./toothColours";

interface Props {
  mesh: Schema["MeshData"];
  /** A lighter mesh, shown while turning on machines that need it; the same where no finer one is at hand. */
  turning: Schema["MeshData"];
  /** A place to point out, in the tooth frame. */
  mark?: number[];
  /** The side it is first seen from. */
  from?: Side;
}

export type Side = "mesial" | "distal" | "facial" | "lingual";

/** From above and facial, and from the side that is asked for. */
function eye(mirrored: boolean, from: Props["from"]): [number, number, number] {
  if (!from) return [9, 17, 24];
  const mesially = mirrored ? -1 : 1;
  if (from === "facial") return [6, 30, 6];
  if (from === "lingual") return [6, -30, 8];
  return [20 * (from === "mesial" ? mesially : -mesially), 10, 20];
}

/** The cut tooth, turnable; wheel to come closer. */
export function ToothView3D({ mesh, turning, mark, from }: Props) {
  const full = useTooth(mesh);
  const light = useTooth(turning);
  const [inMotion, setInMotion] = useState(false);
  const [slow, setSlow] = useState(softwareRendering);
  return (
    <Canvas
      frameloop="demand"
      gl={{ antialias: !softwareRendering() }}
      orthographic
      camera={{ position: eye(full.mirrored, from), up: [0, 0, 1], zoom: 24, near: 0.1, far: 200 }}
      role="img"
      aria-label="Cut tooth in three dimensions; drag to turn"
      data-testid="tooth-3d"
      data-triangles={inMotion && slow ? turning.triangles : mesh.triangles}
    >
      <hemisphereLight args={["#ffffff", "#a39c8c", 1.5]} />
      <directionalLight position={[-14, 12, 26]} intensity={1.6} />
      <directionalLight position={[18, -14, 8]} intensity={0.5} />
      <Tooth tooth={inMotion && slow ? light : full} />
      {mark && <Mark at={mark} mirrored={full.mirrored} />}
      <Sharpness ratio={inMotion && slow ? turningRatio : window.devicePixelRatio} />
      {inMotion && !slow && <FrameWatch onSlow={() => setSlow(true)} />}
      <OrbitControls
        makeDefault
        enablePan={false}
        enableDamping={false}
        target={[0, 0, 3.2]}
        minZoom={12}
        maxZoom={120}
        onStart={() => setInMotion(true)}
        onEnd={() => setInMotion(false)}
      />
    </Canvas>
  );
}

function useTooth(mesh: Schema["MeshData"]): ToothMesh {
  const tooth = useMemo(() => decodeMesh(mesh), [mesh]);
  useEffect(() => () => tooth.geometry.dispose(), [tooth]);
  return tooth;
}

const turningRatio = 0.6; // canvas pixels a screen pixel while turning on a slow machine

function Sharpness({ ratio }: { ratio: number }) {
  const setDpr = useThree((s) => s.setDpr);
  useEffect(() => setDpr(Math.min(ratio, 2)), [ratio, setDpr]);
  return null;
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
    <mesh geometry={tooth.geometry} scale={[tooth.mirrored ? -1 : 1, 1, 1]}>
      <meshPhongMaterial vertexColors shininess={45} specular="#5a6068" />
    </mesh>
  );
}

function Mark({ at, mirrored }: { at: number[]; mirrored: boolean }) {
  const [x = 0, y = 0, z = 0] = at;
  return (
    <mesh position={[mirrored ? -x : x, y, z]} renderOrder={1}>
      <sphereGeometry args={[0.16, 16, 12]} />
      <meshBasicMaterial color="#1b685e" depthTest={false} transparent opacity={0.85} />
    </mesh>
  );
}
