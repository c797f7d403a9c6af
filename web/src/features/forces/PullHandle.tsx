import { useRef } from "react";
import type { Schema } from "@/api/client";
import { project } from "@/drawing/geometry";
import { byKey, pointedIn, wrapped } from "./handles";
import type { Tilt } from "./useForces";

const turn = 5; // degrees by key
const long = 3.4; // mm of the arrow

interface Props {
  view: Schema["View"];
  /** The pull along the bur, from which the tilt counts. */
  upright: Schema["Pull"];
  tilt: Tilt;
  /** The most that it may be tilted, degrees. */
  most: number;
  /** Which of the two shows in this view. */
  of: keyof Tilt;
  onTilt: (tilt: Tilt) => void;
  /** Millimetres of a pixel. */
  px: number;
}

/** A pull of one's own, as an arrow whose head is turned. */
export function PullHandle({ view, upright, tilt, most, of, onTilt, px }: Props) {
  const group = useRef<SVGGElement>(null);
  const [x, y] = project(view, upright.from);
  const [ux, uy] = project(
    view,
    upright.from.map((v, k) => v + (upright.along[k] ?? 0)),
  );
  const base = Math.atan2(uy - y, ux - x);
  // On screen, towards mesial or facial is to the right, or to the left.
  const axis = view.u[of === "mesial" ? 0 : 1] ?? 1;
  const side = axis < 0 ? 1 : -1; // anticlockwise leads left
  const at = base + (side * tilt[of] * Math.PI) / 180;
  const [dx, dy] = [Math.cos(at), Math.sin(at)];
  const [hx, hy] = [x + long * dx, y + long * dy];
  const to = (degrees: number) =>
    onTilt({ ...tilt, [of]: Math.min(most, Math.max(-most, Math.round(degrees))) });
  return (
    <g ref={group}>
      <path
        d={`M${x} ${-y}L${hx} ${-hy}`}
        stroke="var(--ink)"
        strokeWidth={2 * px}
        strokeDasharray={`${6 * px} ${3 * px}`}
      />
      <circle
        role="slider"
        tabIndex={0}
        aria-label={`Your own pull, degrees towards ${of}`}
        aria-valuenow={tilt[of]}
        aria-valuemin={-most}
        aria-valuemax={most}
        cx={hx}
        cy={-hy}
        r={6 * px}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth={2 * px}
        className="cursor-grab"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => {
          const p = pointedIn(group.current, e);
          if (p) to(side * wrapped(((Math.atan2(p.y - y, p.x - x) - base) * 180) / Math.PI));
        }}
        onKeyDown={(e) => byKey(e, turn, (by) => to(tilt[of] + by))}
      />
    </g>
  );
}
