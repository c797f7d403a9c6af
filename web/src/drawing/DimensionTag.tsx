import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import type { Schema } from "@/api/client";
import { type Verdict, VerdictShape, verdictNames } from "@/ui/VerdictMark";
import { formatValue, type Pair, pair } from "./geometry";
import type { LabelBox } from "./labels";

interface Props {
  tag: Schema["Tag"];
  verdict: Verdict;
  /** The figure the tag moves; without one the tag only shows. */
  dimension?: Schema["Dimension"];
  lit: boolean;
  scale: number; // pixels a millimetre
  label: LabelBox;
  /** Where the leader meets the label, in the view. */
  labelAt: Pair;
  onHover: (on: boolean) => void;
  onSelect: () => void;
  /** A new value, or undefined for the proposal. */
  onChange: (value: number | undefined) => void;
}

const dragStep = 0.05; // mm; degrees move in halves

/** A dimension line whose label is its handle: drag it, or use the arrow keys. */
export function DimensionTag(props: Props) {
  const { tag, verdict, dimension, lit, scale, label, onHover, onSelect, onChange } = props;
  const drag = useRef<{ x: number; y: number; value: number } | null>(null);
  const px = 1 / scale;
  const [x1, y1] = pair(tag.from);
  const [x2, y2] = pair(tag.to);
  const [hx, hy] = pair(tag.handle);
  const [lx, ly] = props.labelAt;
  const angle = tag.unit === "deg";
  const tone = dimension ? "var(--accent)" : "var(--soft)";
  const length = Math.hypot(x2 - x1, y2 - y1) || 1;
  const tick: [number, number] = [(-(y2 - y1) / length) * 4 * px, ((x2 - x1) / length) * 4 * px];
  const tickPath = (x: number, y: number) =>
    `M${x - tick[0]} ${-(y - tick[1])}L${x + tick[0]} ${-(y + tick[1])}`;

  function set(value: number) {
    if (!dimension) return;
    const step = angle ? 0.5 : dragStep;
    const rounded = Math.round(value / step) * step;
    onChange(Number(Math.min(Math.max(rounded, dimension.min), dimension.max).toFixed(3)));
  }

  function onKeyDown(event: KeyboardEvent) {
    const step = (event.shiftKey ? 0.5 : 0.1) * (angle ? 10 : 1);
    const grow = event.key === "ArrowUp" || event.key === "ArrowRight";
    const shrink = event.key === "ArrowDown" || event.key === "ArrowLeft";
    if (dimension && (grow || shrink)) set(dimension.value + (grow ? step : -step));
    else if (dimension && (event.key === "Backspace" || event.key === "Delete")) onChange(undefined);
    else if (event.key === "Enter" || event.key === " ") onSelect();
    else return;
    event.preventDefault();
  }

  function onPointerDown(event: PointerEvent<SVGGElement>) {
    onSelect();
    if (!dimension) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, y: event.clientY, value: dimension.value };
  }

  function onPointerMove(event: PointerEvent) {
    if (!drag.current) return;
    const [px, py] = pair(tag.pull);
    const along = ((event.clientX - drag.current.x) * px - (event.clientY - drag.current.y) * py) / scale;
    set(drag.current.value + along * tag.gain);
  }

  const name = dimension
    ? dimension.label
    : `${tag.label}: ${formatValue(tag.value, tag.unit)}, ${verdictNames[verdict]}`;
  const focusable = dimension
    ? {
        tabIndex: 0,
        role: "slider",
        "aria-valuenow": dimension.value,
        "aria-valuemin": dimension.min,
        "aria-valuemax": dimension.max,
        "aria-valuetext": `${formatValue(dimension.value, dimension.unit)}, measured ${formatValue(tag.value, tag.unit)}, ${verdictNames[verdict]}`,
      }
    : {
        tabIndex: 0,
        role: "button",
      };

  return (
    <g>
      <path
        d={`M${x1} ${-y1}L${x2} ${-y2}${tickPath(x1, y1)}${tickPath(x2, y2)}`}
        stroke={tone}
        strokeWidth={(lit ? 3 : 1.8) * px}
        fill="none"
      />
      <path d={`M${hx} ${-hy}L${lx} ${-ly}`} stroke={tone} strokeWidth={0.9 * px} opacity={0.7} />
      {/* biome-ignore lint/a11y/noStaticElementInteractions: a slider when it moves a dimension, a button otherwise */}
      <g
        {...focusable}
        aria-label={name}
        data-dimension={tag.dimension || undefined}
        transform={`translate(${lx} ${-ly}) scale(${px})`}
        onKeyDown={onKeyDown}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={() => {
          drag.current = null;
        }}
        onPointerEnter={() => onHover(true)}
        onPointerLeave={(event) => {
          if (document.activeElement !== event.currentTarget) onHover(false);
        }}
        onFocus={() => onHover(true)}
        onBlur={() => onHover(false)}
        style={{ cursor: dimension ? "grab" : "default", touchAction: "none" }}
      >
        <g transform={`translate(${tag.label_right ? 0 : -label.width} ${-label.height / 2})`}>
          <rect
            width={label.width}
            height={label.height}
            rx={4}
            fill={lit ? "var(--accent-ground)" : "var(--sheet)"}
            stroke={dimension ? "var(--accent)" : "var(--line)"}
            strokeWidth={dimension && dimension.value !== dimension.proposed ? 2 : 1}
          />
          <g transform={"translate(12 11)"}>
            <VerdictShape verdict={verdict} r={5} />
          </g>
          <text x={22} y={15.5} fontSize={13} fill="var(--ink)" className="font-mono">
            {formatValue(tag.value, angle ? "deg" : label.name ? tag.unit : "ratio")}
          </text>
          {label.name && (
            <text x={8} y={31} fontSize={13} fill="var(--ink)">
              {label.name}
            </text>
          )}
        </g>
      </g>
    </g>
  );
}
