import { useRef } from "react";
import type { Schema } from "@/api/client";
import { layerPath } from "./geometry";

/** Lines of equal tension: the more, the heavier the line. */
export const strainLook: Record<number, { width: number; dash?: string }> = {
  2: { width: 1, dash: "2 3" },
  5: { width: 1 },
  10: { width: 1.8 },
  20: { width: 3 },
};

const farthest = 2; // mm from the tips that a load may lie
const nudge = 0.1; // mm by key

interface Props {
  strain: Schema["Strain"];
  /** The view's right is lingual. */
  turned: boolean;
  /** How far down the inclines the load lies, mm. */
  down: number;
  /** Left out where the load stays. */
  onDown?: (down: number) => void;
  /** Millimetres of a pixel. */
  px: number;
}

/** The tension in a section, over its drawing, with the load as arrows to be dragged. */
export function StrainOverlay({ strain, turned, down, onDown, px }: Props) {
  const group = useRef<SVGGElement>(null);
  const to = (value: number) => onDown?.(Math.min(farthest, Math.max(0, Math.round(value * 10) / 10)));

  function drag(event: React.PointerEvent, tip: number) {
    const matrix = group.current?.getScreenCTM();
    if (!matrix || event.buttons === 0) return;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    // On the side that looks to the middle of the tooth.
    to(tip > 0 ? tip - at.x : at.x - tip);
  }

  return (
    <g ref={group} transform={turned ? "scale(-1 1)" : undefined} data-testid="strain">
      {strain.levels.map((level) => {
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
      })}
      {strain.loads.map((load) => {
        const [x = 0, y = 0] = load.at;
        const [dx = 0, dy = -1] = load.along;
        const tip = load.tip[0] ?? 0;
        const length = 44 * px;
        const head = 10 * px;
        const tail = [x - length * dx, y - length * dy] as const;
        const neck = [x - head * dx, y - head * dy] as const;
        const side = [-dy * head * 0.5, dx * head * 0.5] as const;
        return (
          <g
            key={tip > 0 ? "facial" : "lingual"}
            role="slider"
            tabIndex={onDown ? 0 : -1}
            aria-label={`Load on the ${tip > 0 ? "facial" : "lingual"} incline, millimetres from the tip`}
            aria-valuenow={down}
            aria-valuemin={0}
            aria-valuemax={farthest}
            className={onDown ? "cursor-ew-resize" : undefined}
            onPointerDown={(e) => onDown && e.currentTarget.setPointerCapture(e.pointerId)}
            onPointerMove={(e) => onDown && drag(e, tip)}
            onKeyDown={(e) => {
              const steps = { ArrowRight: nudge, ArrowUp: nudge, ArrowLeft: -nudge, ArrowDown: -nudge }[
                e.key
              ];
              if (steps === undefined) return;
              e.preventDefault();
              to(down + steps);
            }}
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
              d={`M${x} ${-y}L${neck[0] + side[0]} ${-(neck[1] + side[1])}L${neck[0] - side[0]} ${-(neck[1] - side[1])}Z`}
              fill="var(--accent)"
            />
          </g>
        );
      })}
    </g>
  );
}
