import { useRef } from "react";
import type { Schema } from "@/api/client";
import { layerPath } from "@/drawing/geometry";
import { byKey, pointedIn, wrapped } from "./handles";
import type { Forces } from "./useForces";

/** Lines of equal tension: the more, the heavier the line. */
export const strainLook: Record<number, { width: number; dash?: string }> = {
  2: { width: 1, dash: "2 3" },
  5: { width: 1 },
  10: { width: 1.8 },
  20: { width: 3 },
};

/** The lines of tension of a section; px is the millimetres of a pixel. */
export function StrainLines({ levels, px }: { levels: Schema["StrainLevel"][]; px: number }) {
  return levels.map((level) => {
    const look = strainLook[level.mpa];
    return (
      <path
        key={level.mpa}
        d={layerPath(level.lines)}
        fill="none"
        stroke="var(--warn)"
        strokeWidth={(look?.width ?? 1) * px}
        strokeDasharray={look?.dash
          ?.split(" ")
          .map((n) => Number(n) * px)
          .join(" ")}
      />
    );
  });
}

const nudge = 0.1; // mm by key
const turn = 5; // degrees by key

interface Props {
  forces: Forces;
  /** The view's right is lingual. */
  turned: boolean;
  /** Millimetres of a pixel. */
  px: number;
}

/**
 * The tension in a section, over its drawing. The load's arrows are dragged along the incline,
 * their tails turned.
 */
export function StrainOverlay({ forces, turned, px }: Props) {
  const group = useRef<SVGGElement>(null);
  const upright = useRef(0); // radians: where the arrow that is being turned points unslanted
  const { load, setLoad, strain, deflection } = forces;
  const down = load.down ?? deflection.data?.down ?? 0;
  const slant = load.slant ?? deflection.data?.slant ?? 0;
  const place = load.place ?? deflection.data?.place;
  const slides = place !== "antagonist";
  const bounds = forces.hold.data?.bounds;
  if (!strain.data || !bounds) return null;
  const { down_mm: farthest, slant_degrees: steepest } = bounds;
  const toDown = (value: number) =>
    setLoad({ ...load, down: Math.min(farthest, Math.max(0, Math.round(value * 10) / 10)) });
  const toSlant = (degrees: number) =>
    setLoad({ ...load, slant: Math.min(steepest, Math.max(-steepest, Math.round(degrees))) });

  const pointed = (event: React.PointerEvent) => pointedIn(group.current, event);

  return (
    <g ref={group} transform={turned ? "scale(-1 1)" : undefined} data-testid="strain">
      <StrainLines levels={strain.data.levels} px={px} />
      {strain.data.loads.map((l) => {
        const [x = 0, y = 0] = l.at;
        const [dx = 0, dy = -1] = l.along;
        const tip = l.tip[0] ?? 0;
        const outwards = tip > 0 ? 1 : -1;
        const side = tip > 0 ? "facial" : "lingual";
        const length = 44 * px;
        const head = 10 * px;
        const tail = [x - length * dx, y - length * dy] as const;
        const neck = [x - head * dx, y - head * dy] as const;
        const across = [-dy * head * 0.5, dx * head * 0.5] as const;
        return (
          <g key={side}>
            <g
              role="slider"
              tabIndex={slides ? 0 : -1}
              aria-label={`Load on the ${side} incline, millimetres from the tip`}
              aria-valuenow={down}
              aria-valuemin={0}
              aria-valuemax={farthest}
              aria-disabled={!slides}
              className={slides ? "cursor-ew-resize" : undefined}
              onPointerDown={(e) => slides && e.currentTarget.setPointerCapture(e.pointerId)}
              onPointerMove={(e) => {
                const at = slides && pointed(e);
                // On the side that looks to the middle of the tooth.
                if (at) toDown(outwards * (tip - at.x));
              }}
              onKeyDown={(e) => slides && byKey(e, nudge, (by) => toDown(down + by))}
            >
              <line
                x1={tail[0]}
                y1={-tail[1]}
                x2={x}
                y2={-y}
                stroke="transparent"
                strokeWidth={22 * px}
                pointerEvents="stroke"
              />
              <line
                x1={tail[0]}
                y1={-tail[1]}
                x2={neck[0]}
                y2={-neck[1]}
                stroke="var(--accent)"
                strokeWidth={3 * px}
              />
              <path
                d={`M${x} ${-y}L${neck[0] + across[0]} ${-(neck[1] + across[1])}L${neck[0] - across[0]} ${-(neck[1] - across[1])}Z`}
                fill="var(--accent)"
              />
            </g>
            <circle
              role="slider"
              tabIndex={0}
              aria-label={`Slant of the load on the ${side} side, degrees outwards`}
              aria-valuenow={slant}
              aria-valuemin={-steepest}
              aria-valuemax={steepest}
              cx={tail[0]}
              cy={-tail[1]}
              r={6 * px}
              fill="var(--sheet)"
              stroke="var(--accent)"
              strokeWidth={2 * px}
              className="cursor-grab"
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId);
                upright.current = Math.atan2(dy, dx) - (outwards * slant * Math.PI) / 180;
              }}
              onPointerMove={(e) => {
                const at = pointed(e);
                if (!at) return;
                const now = Math.atan2(y - at.y, x - at.x);
                toSlant(outwards * wrapped(((now - upright.current) * 180) / Math.PI));
              }}
              onKeyDown={(e) => byKey(e, turn, (by) => toSlant(slant + by))}
            />
          </g>
        );
      })}
    </g>
  );
}
