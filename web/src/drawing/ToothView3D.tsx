import { OrbitControls } from "@react-three/drei";
import { Canvas, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useState } from "react";
import { BufferAttribute, Color } from "three";
import type { Schema } from "@/api/client";
import { currentTheme } from "@/app/theme";
import { decodeMesh, type ToothMesh } from "./decodeMesh";

/** Colours by label: porcelain, root, cut enamel, dentin, floor, lesion. */
const tones = {
  light: ["#eceff0", "#dcc79a", "#c3d0da", "#e2c886", "#e9d59c", "#6b4a2b"],
  dark: ["#cfd6da", "#b59f70", "#9db0be", "#c2a866", "#cdb878", "#8f6a45"],
};

/** The cut tooth, turnable; pinch or wheel to come closer. */
export function ToothView3D({ mesh, mark }: { mesh: Schema["MeshData"]; mark?: number[] }) {
  const tooth = useMemo(() => decodeMesh(mesh), [mesh]);
  useEffect(() => () => tooth.geometry.dispose(), [tooth]);
  return (
    <Canvas
      frameloop="demand"
      orthographic
      camera={{ position: [9, 17, 24], up: [0, 0, 1], zoom: 24, near: 0.1, far: 200 }}
      dpr={[1, 2]}
      role="img"
      aria-label="Cut tooth in three dimensions; drag to turn"
      data-testid="tooth-3d"
    >
      <hemisphereLight args={["#ffffff", "#8a8577", 1.1]} />
      <directionalLight position={[-14, 12, 26]} intensity={1.7} />
      <directionalLight position={[18, -14, 8]} intensity={0.5} />
      <Tooth tooth={tooth} />
      {mark && <Mark at={mark} mirrored={tooth.mirrored} />}
      <OrbitControls makeDefault enablePan={false} target={[0, 0, 3.2]} minZoom={12} maxZoom={120} />
    </Canvas>
  );
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
    const palette = tones[theme].map((hex) => new Color(hex));
    const colours = new Float32Array(3 * tooth.labels.length);
    tooth.labels.forEach((label, v) => {
      palette[label]?.toArray(colours, 3 * v);
    });
    tooth.geometry.setAttribute("color", new BufferAttribute(colours, 3));
    invalidate();
  }, [tooth, theme, invalidate]);
  return (
    <mesh geometry={tooth.geometry} scale={[tooth.mirrored ? -1 : 1, 1, 1]}>
      <meshStandardMaterial vertexColors roughness={0.42} metalness={0} />
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
