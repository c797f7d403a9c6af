import { useThree } from "@react-three/fiber";
import { type KeyboardEvent, type RefObject, useEffect, useRef, useState } from "react";
import { type Intersection, type Object3D, type Plane, Raycaster, Vector2 } from "three";

/** What of the scene a finger stops at. */
export const touchable = { touchable: true };

/** Where a ray first meets what a cut has left, in the tooth frame, mm. */
export function firstTouched(hits: Intersection<Object3D>[], planes: Plane[]): number[] | undefined {
  const hit = hits.find((h) => planes.every((p) => p.distanceToPoint(h.point) >= 0));
  if (!hit) return undefined;
  const { x, y, z } = hit.object.worldToLocal(hit.point.clone());
  return [x, y, z].map((v) => Math.round(1000 * v) / 1000);
}

const stride = 12; // pixels a stroke of a key
const fine = 2; // the same with Shift

const strides: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Feels under a place of the pane, given from -1 to 1 as in clip space. */
export type Feeler = (x: number, y: number) => number[] | undefined;

/** A finger on the pane: arrows move it, Enter touches what lies under it. */
export function useFinger(feel: RefObject<Feeler | null>, onTouch: (point: number[]) => void) {
  const [place, setPlace] = useState<[number, number]>([0, 0]); // pixels from the middle
  const [out, setOut] = useState(false);
  const pane = useRef<HTMLElement>(null);
  function onKeyDown(e: KeyboardEvent) {
    const box = pane.current?.getBoundingClientRect();
    if (!box || e.target !== pane.current) return;
    const way = strides[e.key];
    if (way) {
      const by = e.shiftKey ? fine : stride;
      setOut(true);
      const within = (v: number, half: number) => Math.min(Math.max(v, -half), half);
      setPlace(([x, y]) => [within(x + by * way[0], box.width / 2), within(y + by * way[1], box.height / 2)]);
    } else if (e.key === "Enter") {
      const point = feel.current?.((2 * place[0]) / box.width, (-2 * place[1]) / box.height);
      if (point) onTouch(point);
    } else return;
    e.preventDefault();
  }
  const ofPane = {
    ref: pane,
    tabIndex: 0,
    role: "group",
    "aria-label": "Finger on the tooth: arrow keys move it, with Shift in small steps, Enter touches",
    onKeyDown,
    onFocus: () => setOut(pane.current?.matches(":focus-visible") ?? false),
    onBlur: () => setOut(false),
  } as const;
  return { ofPane, place: out ? place : undefined };
}

/** Where the finger is. */
export function FingerTip({ place: [x, y] }: { place: [number, number] }) {
  return (
    <svg
      aria-hidden
      className="pointer-events-none absolute left-1/2 top-1/2 -ml-3 -mt-3 size-6 text-accent"
      style={{ transform: `translate(${x}px, ${y}px)` }}
      data-testid="finger"
    >
      <circle cx="12" cy="12" r="7" fill="none" stroke="currentColor" strokeWidth="1.5" />
      <path d="M12 1v8M12 15v8M1 12h8M15 12h8" stroke="currentColor" strokeWidth="1.5" />
    </svg>
  );
}

/** Lets the pane around a scene feel what lies under a place of it. */
export function Feeling({ feel, planes }: { feel: RefObject<Feeler | null>; planes: Plane[] }) {
  const { camera, scene } = useThree();
  useEffect(() => {
    const ray = new Raycaster();
    feel.current = (x, y) => {
      ray.setFromCamera(new Vector2(x, y), camera);
      const hits = ray.intersectObjects(scene.children, true);
      return firstTouched(
        hits.filter((h) => h.object.userData.touchable),
        planes,
      );
    };
    return () => {
      feel.current = null;
    };
  }, [feel, camera, scene, planes]);
  return null;
}
