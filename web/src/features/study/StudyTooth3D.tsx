import { Line } from "@react-three/drei";
import { Canvas, type ThreeEvent, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import { DoubleSide, FrontSide, Matrix4, Plane, Vector3 } from "three";
import type { Schema } from "@/api/client";
import { currentTheme } from "@/app/theme";
import { decodeMesh, type ToothMesh } from "@/drawing/decodeMesh";
import { colourByLabel, softwareRendering } from "@/drawing/toothColours";
import { Lights, Orbit, Sharpness, useTurntable, ViewBar, Viewer, viewInWords } from "@/drawing/turntable";
import { CutFace } from "./CutFace";
import { type Feeler, Feeling, FingerTip, firstTouched, touchable, useFinger } from "./finger";
import { PlaceLabels, Spot, short, spotsInSight } from "./PlaceLabels";
import type { Axis, Studied } from "./study";
import { OpposingPlane, SpaceCurve } from "./studyCurves";

export interface Shown {
  enamel: boolean;
  dentin: boolean;
  pulp: boolean;
  /** Enamel and dentin let the pulp show through. */
  glass: boolean;
  names: boolean;
  gingiva: boolean;
  neighbours: boolean;
  antagonist: boolean;
  /** The part in front of the section is taken away. */
  cut: boolean;
}

interface Props {
  studied: Studied;
  neighbours?: Schema["StudyNeighbour"][];
  shown: Shown;
  cut?: { axis: Axis; at: number };
  /** What the section looks like, where the tooth is cut open. */
  section?: Schema["View"];
  /** Name of the landmark pointed out. */
  lit?: string;
  touch?: Schema["Touch"];
  /** Places that are pointed out without a name. */
  marks: number[][];
  onTouch: (point: number[]) => void;
}

/** The sound tooth in layers; drag to turn, wheel to come closer, click to feel. */
export function StudyTooth3D({
  studied,
  neighbours,
  shown,
  cut,
  section,
  lit,
  touch,
  marks,
  onTouch,
}: Props) {
  const [inMotion, setInMotion] = useState(false);
  const outer = useMeshOf(studied.outer);
  const turning = useMeshOf(studied.turning);
  const dentin = useMeshOf(studied.dentin);
  const pulp = useMeshOf(studied.pulp);
  const slow = inMotion && softwareRendering();
  const theme = useTheme();
  const turntable = useTurntable({ mesially: outer.mesially, upper: studied.tooth.letters.startsWith("U") });
  const { view } = turntable;
  const spots = useMemo(
    () => spotsInSight(studied.landmarks, shown, lit).filter((s) => !cut || isLeft(s.landmark.at, cut)),
    [studied.landmarks, shown, lit, cut],
  );
  const labels = useRef<HTMLDivElement>(null);
  const feel = useRef<Feeler | null>(null);
  const finger = useFinger(feel, onTouch);
  const facing = view.mirror ? -outer.mesially : outer.mesially;
  const planes = useMemo(() => (cut ? [cutPlane(cut.axis, cut.at, facing)] : []), [cut, facing]);
  return (
    <div className="flex h-full flex-col">
      <div className="flex justify-end px-2 pt-1 text-xs">
        <ViewBar turntable={turntable} biting={studied.tooth.anterior ? "incisal" : "occlusal"} />
      </div>
      <section {...finger.ofPane} className="relative min-h-0 flex-1 -outline-offset-2">
        <Canvas
          frameloop="demand"
          gl={{ antialias: !softwareRendering(), localClippingEnabled: true }}
          orthographic
          camera={{ near: 0.1, far: 200 }}
          aria-label={`Tooth in three dimensions${viewInWords(view)}; drag to turn, click to feel`}
          role="img"
          data-testid="study-3d"
          data-view={view.name}
        >
          <Lights />
          <Sharpness
            slow={softwareRendering()}
            inMotion={inMotion}
            shown={`${view.asked} ${outer.geometry.id} ${JSON.stringify(shown)} ${cut?.at}`}
          />
          <group scale={[facing, 1, 1]}>
            {shown.enamel && (
              <Tissue
                mesh={slow ? turning : outer}
                theme={theme}
                opacity={shown.glass ? 0.28 : 1}
                planes={planes}
                onTouch={onTouch}
              />
            )}
            {shown.dentin && (
              <Tissue
                mesh={dentin}
                theme={theme}
                opacity={shown.glass ? 0.35 : 1}
                planes={planes}
                onTouch={shown.enamel ? undefined : onTouch}
              />
            )}
            {shown.pulp && <Tissue mesh={pulp} theme={theme} opacity={1} planes={planes} />}
            {cut && section && <CutFace section={section} shown={shown} theme={theme} />}
            {neighbours?.map((n) => (
              <Beside key={n.iso} neighbour={n} theme={theme} />
            ))}
            {(cut ? [] : studied.lines).map((l) => (
              <SpaceCurve key={l.name + l.points[0]} line={l} shown={shown} />
            ))}
            {spots.map(({ landmark, lit: on }) => (
              <Spot key={landmark.name} at={landmark.at} lit={on} />
            ))}
            {marks.map((at) => (
              <Spot key={at.join()} at={at} lit />
            ))}
            {shown.antagonist && <OpposingPlane plane={studied.antagonist} />}
            {touch && <Feel touch={touch} />}
          </group>
          <Feeling feel={feel} planes={planes} />
          <Orbit onMotion={setInMotion} />
          <Viewer view={view} tooth={outer} rootShown={6} />
          <PlaceLabels layer={labels} spots={spots} side={facing} />
          <Redraw on={[studied, neighbours, shown, cut, section, lit, touch, marks, slow]} />
        </Canvas>
        <div ref={labels} aria-hidden className="pointer-events-none absolute inset-0 overflow-hidden">
          {spots.map(({ landmark, lit: on }) => (
            <span
              key={landmark.name}
              className={`absolute left-0 top-0 whitespace-nowrap rounded bg-sheet/85 px-1 text-xs ${on ? "font-bold text-accent" : "text-ink"}`}
            >
              {on ? landmark.name : short(landmark)}
            </span>
          ))}
        </div>
        {finger.place && <FingerTip place={finger.place} />}
      </section>
    </div>
  );
}

function useMeshOf(data: Schema["MeshData"]): ToothMesh {
  const mesh = useMemo(() => decodeMesh(data), [data]);
  useEffect(() => () => mesh.geometry.dispose(), [mesh]);
  return mesh;
}

function useTheme() {
  const [theme, setTheme] = useState(currentTheme());
  useEffect(() => {
    const follow = () => setTheme(currentTheme());
    window.addEventListener("themechange", follow);
    return () => window.removeEventListener("themechange", follow);
  }, []);
  return theme;
}

/** Keeps what lies behind the section, as seen from the facial, mesial or biting side. */
function cutPlane(axis: Axis, at: number, side: number): Plane {
  switch (axis) {
    case "mesiodistal":
      return new Plane(new Vector3(0, -1, 0), at);
    case "buccolingual":
      return new Plane(new Vector3(-side, 0, 0), at);
    default:
      return new Plane(new Vector3(0, 0, -1), at);
  }
}

/** Whether a point of the tooth frame lies in the part that the cut leaves. */
function isLeft(point: number[], { axis, at }: { axis: Axis; at: number }): boolean {
  const along = { buccolingual: 0, mesiodistal: 1, level: 2 }[axis];
  return (point[along] ?? 0) <= at;
}

function Tissue({
  mesh,
  theme,
  opacity,
  planes,
  onTouch,
}: {
  mesh: ToothMesh;
  theme: "light" | "dark";
  opacity: number;
  planes: Plane[];
  onTouch?: (point: number[]) => void;
}) {
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => {
    colourByLabel(mesh, theme);
    invalidate();
  }, [mesh, theme, invalidate]);
  const pressed = useRef([0, 0]);
  const whenTouched = onTouch && {
    userData: touchable,
    onPointerDown: (e: ThreeEvent<PointerEvent>) => {
      pressed.current = [e.clientX, e.clientY];
    },
    onClick: (e: ThreeEvent<MouseEvent>) => {
      const still = 4; // pixels; more is a turn of the tooth
      const [x = 0, y = 0] = pressed.current;
      const point = firstTouched(e.intersections, planes);
      if (!point || Math.hypot(e.clientX - x, e.clientY - y) > still) return;
      e.stopPropagation();
      onTouch(point);
    },
  };
  return (
    <group>
      <mesh geometry={mesh.geometry} renderOrder={opacity < 1 ? 2 : 0} {...whenTouched}>
        <meshPhongMaterial
          key={`${opacity < 1} ${planes.length}`}
          vertexColors
          shininess={45}
          specular="#5a6068"
          transparent={opacity < 1}
          depthWrite={opacity === 1}
          opacity={opacity}
          clippingPlanes={planes}
          side={FrontSide}
        />
      </mesh>
    </group>
  );
}

/** An adjacent tooth, as a mere shape. */
function Beside({ neighbour, theme }: { neighbour: Schema["StudyNeighbour"]; theme: "light" | "dark" }) {
  const mesh = useMeshOf(neighbour.mesh);
  const place = useMemo(() => {
    const [x = 0, y = 0, z = 0] = neighbour.offset;
    const m = new Matrix4().makeTranslation(x, y, z).multiply(new Matrix4().makeRotationZ(neighbour.yaw));
    return neighbour.mirrored ? m.multiply(new Matrix4().makeScale(-1, 1, 1)) : m;
  }, [neighbour]);
  return (
    <mesh
      geometry={mesh.geometry}
      matrixAutoUpdate={false}
      matrix={place}
      renderOrder={3}
      raycast={() => undefined}
    >
      <meshPhongMaterial
        color={theme === "light" ? "#cfcbc0" : "#8d9398"}
        transparent
        opacity={0.4}
        depthWrite={false}
      />
    </mesh>
  );
}

/** The touched point, and the shortest way from it to the pulp. */
function Feel({ touch }: { touch: Schema["Touch"] }) {
  const from = touch.at as [number, number, number];
  const to = touch.pulp_at as [number, number, number];
  return (
    <group>
      <Line
        points={[from, to]}
        color="#1b685e"
        lineWidth={2}
        side={DoubleSide}
        depthTest={false}
        renderOrder={8}
        raycast={() => undefined}
      />
      <mesh position={from} renderOrder={9} raycast={() => undefined}>
        <sphereGeometry args={[0.15, 16, 12]} />
        <meshBasicMaterial color="#1b685e" depthTest={false} transparent opacity={0.9} />
      </mesh>
    </group>
  );
}

/** Draws again when what is shown has changed. */
function Redraw({ on }: { on: unknown[] }) {
  const invalidate = useThree((s) => s.invalidate);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the list is what is watched
  useEffect(() => invalidate(), on);
  return null;
}
