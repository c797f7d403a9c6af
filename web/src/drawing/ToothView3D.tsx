import { OrbitControls } from "@react-three/drei";
import { Canvas, useFrame, useThree } from "@react-three/fiber";
import clsx from "clsx";
import { useEffect, useMemo, useRef, useState } from "react";
import { Box3, type Group, Matrix4, type OrthographicCamera, Vector3 } from "three";
import type { Schema } from "@/api/client";
import { currentTheme } from "@/app/theme";
import { useShortcut } from "@/app/useShortcut";
import { decodeMesh, type ToothMesh } from "./decodeMesh";
import { firstLook, type Look, type StandardView, standardLook, standardViews } from "./standardViews";
import { colourByLabel, softwareRendering } from "./toothColours";

interface Props {
  mesh: Schema["MeshData"];
  /** A lighter mesh, shown while turning on machines that need it; the same where no finer one is at hand. */
  turning: Schema["MeshData"];
  /** A place to point out, in the tooth frame. */
  mark?: number[];
  /** The side it is first seen from. */
  from?: Side;
  upper: boolean;
  /** Names the biting side: occlusal or incisal. */
  biting: string;
}

export type Side = "mesial" | "distal" | "facial" | "lingual";

interface View extends Look {
  /** Counts what was asked for: the same view twice still turns the tooth back to it. */
  asked: number;
  closer: number;
  name?: StandardView;
}

const closerBy = 1.25;

/** The cut tooth, turnable; wheel to come closer, standard views by button and by key. */
export function ToothView3D({ mesh, turning, mark, from, upper, biting }: Props) {
  const full = useTooth(mesh);
  const light = useTooth(turning);
  const [inMotion, setInMotion] = useState(false);
  const [slow, setSlow] = useState(softwareRendering);
  const stance = { mirrored: full.mirrored, upper };
  const [view, setView] = useState<View>(() => ({ ...firstLook(stance, from), asked: 0, closer: 1 }));

  const turnTo = (name: StandardView) =>
    setView((v) => ({ ...standardLook(name, stance), name, asked: v.asked + 1, closer: 1 }));
  const zoom = (by: number) => setView((v) => ({ ...v, closer: v.closer * by, asked: v.asked + 1 }));
  const reset = () => setView((v) => ({ ...firstLook(stance, from), asked: v.asked + 1, closer: 1 }));
  useShortcut("1", () => turnTo("occlusal"));
  useShortcut("2", () => turnTo("facial"));
  useShortcut("3", () => turnTo("lingual"));
  useShortcut("4", () => turnTo("mesial"));
  useShortcut("5", () => turnTo("distal"));
  useShortcut("6", () => turnTo("mirror"));
  useShortcut("0", reset);
  useShortcut("=", () => zoom(closerBy));
  useShortcut("-", () => zoom(1 / closerBy));

  return (
    <>
      <figcaption className="flex min-h-6 flex-wrap items-center gap-x-0.5 px-2 pt-1 text-xs">
        <span className="mr-auto font-bold text-ink">Cut tooth</span>
        <span role="toolbar" aria-label="Views of the cut tooth" className="flex flex-wrap items-center">
          {standardViews.map((name, n) => (
            <ViewButton
              key={name}
              pressed={view.name === name}
              title={`Key ${n + 1}${name === "mirror" ? ": as seen at the chair in the mirror" : ""}`}
              onClick={() => turnTo(name)}
            >
              {name === "occlusal" ? biting : name}
            </ViewButton>
          ))}
          <ViewButton label="Further away" title="Key −" onClick={() => zoom(1 / closerBy)}>
            −
          </ViewButton>
          <ViewButton label="Closer" title="Key +" onClick={() => zoom(closerBy)}>
            +
          </ViewButton>
          <ViewButton title="Key 0" onClick={reset}>
            reset
          </ViewButton>
        </span>
      </figcaption>
      <div className="min-h-0 flex-1">
        <Canvas
          frameloop="demand"
          gl={{ antialias: !softwareRendering() }}
          orthographic
          camera={{ near: 0.1, far: 200 }}
          role="img"
          aria-label={`Cut tooth in three dimensions${view.name ? `, ${view.name === "mirror" ? "in the mirror" : `${view.name} view`}` : ""}; drag to turn`}
          data-testid="tooth-3d"
          data-view={view.name}
          data-triangles={inMotion && slow ? turning.triangles : mesh.triangles}
        >
          <Lights />
          <group scale={[view.mirror ? -1 : 1, 1, 1]}>
            <Tooth tooth={inMotion && slow ? light : full} />
            {mark && <Mark at={mark} mirrored={full.mirrored} />}
          </group>
          <Sharpness ratio={sharpness(slow, inMotion)} />
          {inMotion && !slow && <FrameWatch onSlow={() => setSlow(true)} />}
          <OrbitControls
            makeDefault
            enablePan={false}
            enableDamping={false}
            minZoom={8}
            maxZoom={160}
            onStart={() => setInMotion(true)}
            onEnd={() => setInMotion(false)}
          />
          <Viewer view={view} tooth={full} />
        </Canvas>
      </div>
    </>
  );
}

interface ViewButtonProps {
  children: string;
  label?: string;
  title: string;
  pressed?: boolean;
  onClick: () => void;
}

function ViewButton({ children, label, title, pressed, onClick }: ViewButtonProps) {
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={pressed}
      title={title}
      className={clsx(
        "rounded px-1 first-letter:uppercase",
        pressed ? "bg-accent-ground font-bold text-ink" : "text-accent hover:underline",
      )}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

/** Light that comes along with the viewer, as from a lamp over the shoulder. */
function Lights() {
  const rig = useRef<Group>(null);
  useFrame(({ camera }) => rig.current?.quaternion.copy(camera.quaternion));
  return (
    <>
      <hemisphereLight args={["#ffffff", "#a39c8c", 1.5]} />
      <group ref={rig}>
        <directionalLight position={[-14, 18, 16]} intensity={1.5} />
        <directionalLight position={[16, -8, 6]} intensity={0.4} />
      </group>
    </>
  );
}

const rootShown = 2.5; // mm of root that stay in the pane
const filled = 0.94; // of the pane

/** Turns the camera to what was asked for, so near that the tooth fills the pane. */
function Viewer({ view, tooth }: { view: View; tooth: ToothMesh }) {
  const { camera, size, invalidate, controls } = useThree();
  const latest = useRef(tooth);
  latest.current = tooth;
  useEffect(() => {
    const towards = view.towards.clone().normalize();
    const turn = new Matrix4().lookAt(towards, new Vector3(), view.up);
    const seen = extentSeen(latest.current, view.mirror ?? false, turn.clone().invert());
    const extent = seen.getSize(new Vector3());
    const target = seen.getCenter(new Vector3()).applyMatrix4(turn);
    camera.up.copy(view.up);
    camera.position.copy(target).addScaledVector(towards, 60);
    (camera as OrthographicCamera).zoom =
      filled * Math.min(size.width / extent.x, size.height / extent.y) * view.closer;
    camera.lookAt(target);
    camera.updateProjectionMatrix();
    const orbit = controls as unknown as { target: Vector3; update: () => void } | null;
    orbit?.target.copy(target);
    orbit?.update();
    invalidate();
  }, [view, camera, size, controls, invalidate]);
  return null;
}

/** The extent of the crown, with the neck of its root, as a viewer sees it. */
function extentSeen(tooth: ToothMesh, mirror: boolean, intoView: Matrix4): Box3 {
  const every = 5; // vertices are so many that some do
  const places = tooth.geometry.getAttribute("position");
  const side = tooth.mirrored === mirror ? 1 : -1;
  const extent = new Box3();
  const at = new Vector3();
  for (let v = 0; v < places.count; v += every) {
    if (places.getZ(v) < -rootShown) continue;
    at.set(side * places.getX(v), places.getY(v), places.getZ(v));
    extent.expandByPoint(at.applyMatrix4(intoView));
  }
  return extent;
}

function useTooth(mesh: Schema["MeshData"]): ToothMesh {
  const tooth = useMemo(() => decodeMesh(mesh), [mesh]);
  useEffect(() => () => tooth.geometry.dispose(), [tooth]);
  return tooth;
}

const turningRatio = 0.6; // canvas pixels a screen pixel while turning on a slow machine
const stillRatio = 2; // the same when it stands still: drawn larger and scaled down, edges are smooth

function sharpness(slow: boolean, inMotion: boolean): number {
  if (!slow) return window.devicePixelRatio;
  return inMotion ? turningRatio : Math.max(stillRatio, window.devicePixelRatio);
}

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
