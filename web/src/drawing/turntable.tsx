import { OrbitControls } from "@react-three/drei";
import { useFrame, useThree } from "@react-three/fiber";
import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import { Box3, type Group, Matrix4, type OrthographicCamera, Vector3 } from "three";
import { useShortcut } from "@/app/useShortcut";
import type { ToothMesh } from "./decodeMesh";
import {
  firstLook,
  type Look,
  type Side,
  type Stance,
  type StandardView,
  standardLook,
  standardViews,
} from "./standardViews";

export interface View extends Look {
  /** Counts what was asked for: the same view twice still turns the tooth back to it. */
  asked: number;
  closer: number;
  name?: StandardView;
}

const closerBy = 1.25;

/** The view that is asked for, and the ways to ask: by key at once, by button through ViewBar. */
export function useTurntable(stance: Stance, from?: Side) {
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
  useShortcut("+", () => zoom(closerBy));
  useShortcut("-", () => zoom(1 / closerBy));
  return { view, turnTo, zoom, reset };
}

/** The standard views as buttons; biting names the occlusal or incisal one. */
export function ViewBar({
  turntable: { view, turnTo, zoom, reset },
  biting,
}: {
  turntable: ReturnType<typeof useTurntable>;
  biting: string;
}) {
  return (
    <span role="toolbar" aria-label="Views of the tooth" className="flex flex-wrap items-center">
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
  );
}

/** What a view is called where it cannot be seen. */
export function viewInWords(view: View): string {
  if (!view.name) return "";
  return view.name === "mirror" ? ", in the mirror" : `, ${view.name} view`;
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
export function Lights() {
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

const filled = 0.94; // of the pane

/** Turns the tooth under the pointer, and comes closer by the wheel. */
export function Orbit({ onMotion }: { onMotion: (inMotion: boolean) => void }) {
  return (
    <OrbitControls
      makeDefault
      enablePan={false}
      enableDamping={false}
      minZoom={8}
      maxZoom={160}
      onStart={() => onMotion(true)}
      onEnd={() => onMotion(false)}
    />
  );
}

interface ViewerProps {
  view: View;
  tooth: ToothMesh;
  /** mm of root that stay in the pane. */
  rootShown: number;
}

/** Turns the camera to what was asked for, so near that the tooth fills the pane. */
export function Viewer({ view, tooth, rootShown }: ViewerProps) {
  const { camera, size, invalidate, controls } = useThree();
  const latest = useRef(tooth);
  latest.current = tooth;
  useEffect(() => {
    const towards = view.towards.clone().normalize();
    const turn = new Matrix4().lookAt(towards, new Vector3(), view.up);
    const seen = extentSeen(latest.current, view.mirror ?? false, rootShown, turn.clone().invert());
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
  }, [view, camera, size, controls, invalidate, rootShown]);
  return null;
}

/** The extent of the crown, with the neck of its root, as a viewer sees it. */
function extentSeen(tooth: ToothMesh, mirror: boolean, rootShown: number, intoView: Matrix4): Box3 {
  const every = 5; // vertices are so many that some do
  const places = tooth.geometry.getAttribute("position");
  const side = mirror ? -tooth.mesially : tooth.mesially;
  const extent = new Box3();
  const at = new Vector3();
  for (let v = 0; v < places.count; v += every) {
    if (places.getZ(v) < -rootShown) continue;
    at.set(side * places.getX(v), places.getY(v), places.getZ(v));
    extent.expandByPoint(at.applyMatrix4(intoView));
  }
  return extent;
}

const turningRatio = 0.6; // canvas pixels a screen pixel while turning on a slow machine
const stillRatio = 2; // the same when it stands still: drawn larger and scaled down, edges are smooth
const settles = 500; // milliseconds without a change until it counts as still

interface SharpnessProps {
  slow: boolean;
  inMotion: boolean;
  /** What is shown: a slow machine draws it finely only once it stays as it is. */
  shown: unknown;
}

export function Sharpness({ slow, inMotion, shown }: SharpnessProps) {
  const setDpr = useThree((s) => s.setDpr);
  // biome-ignore lint/correctness/useExhaustiveDependencies: anything new that is shown starts the wait again
  useEffect(() => {
    const plain = window.devicePixelRatio;
    setDpr(Math.min(slow && inMotion ? turningRatio : plain, 2));
    if (!slow || inMotion || plain >= stillRatio) return;
    const timer = setTimeout(() => setDpr(stillRatio), settles);
    return () => clearTimeout(timer);
  }, [slow, inMotion, shown, setDpr]);
  return null;
}
