import { type ReactNode, useLayoutEffect, useMemo, useRef, useState } from "react";
import { checkKey, type Schema } from "@/api/client";
import { type Verdict, VerdictShape } from "@/ui/VerdictMark";
import { DimensionTag } from "./DimensionTag";
import { layerPath, project } from "./geometry";
import { placeLabels, placeView } from "./labels";
import { TagNote } from "./TagNote";
import { layerLook, TissuePatterns } from "./tissues";

interface Props {
  view: Schema["View"];
  checks: Schema["Check"][];
  dimensions: Schema["Dimension"][];
  hovered?: string;
  /** A place to be ringed, whatever is hovered. */
  place?: number[];
  /** Tags show what they measure, not only how much. */
  named?: boolean;
  readOnly?: boolean;
  onHover: (check: string | undefined) => void;
  onSelect: (check: string) => void;
  onChange: (dimension: string, value: number | undefined) => void;
  /** Words at the drawing's rim, in pixels. */
  lettering?: number;
  /** Stands in the caption instead of the title. */
  caption?: ReactNode;
  /** Stands at the end of the caption, before the grid's size. */
  aside?: ReactNode;
  /** Drawn over the view, in its millimetres; px is what a pixel comes to. */
  overlay?: (px: number) => ReactNode;
}

/** One dimensioned view on its millimetre grid. */
export function ViewDrawing({
  view,
  checks,
  dimensions,
  hovered,
  place,
  named = false,
  readOnly,
  lettering = 13,
  onHover,
  onSelect,
  onChange,
  caption,
  aside,
  overlay,
}: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 400, height: 300 });
  const [inHand, setInHand] = useState<number>();
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const placed = useMemo(() => placeView(view, size, named), [view, size, named]);
  const labels = useMemo(() => placeLabels(view, placed, size.height, named), [view, placed, size, named]);
  const { scale, left, top } = placed;
  const paths = useMemo(
    () => view.layers.map((l) => ({ kind: l.kind, d: layerPath(l.lines) })),
    [view.layers],
  );
  const width = size.width / scale;
  const height = size.height / scale;
  const marked = checks.find((c) => checkKey(c) === hovered);
  const shownPlace = place ?? marked?.where?.point;
  const spot = shownPlace && project(view, shownPlace);
  const px = 1 / scale;
  const shownTag = inHand === undefined ? undefined : view.tags[inHand];

  return (
    <figure className="flex min-h-0 min-w-0 flex-col">
      <figcaption className="flex h-6 items-center justify-between gap-3 px-2 pt-1 text-xs text-soft">
        {caption ?? <span className="font-bold text-ink">{view.title}</span>}
        <span className="flex shrink-0 items-center gap-3">
          {aside}
          <span>1 mm grid</span>
        </span>
      </figcaption>
      <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden">
        {/* biome-ignore lint/a11y/useSemanticElements: a drawing holds its handles as a group; a fieldset cannot be SVG */}
        <svg
          width={size.width}
          height={size.height}
          viewBox={`${left} ${top} ${width} ${height}`}
          role="group"
          aria-label={view.title}
          data-testid={`view-${view.id}`}
        >
          <TissuePatterns scale={scale} />
          <Grid left={left} top={top} width={width} height={height} px={px} />
          {paths.map(({ kind, d }) => {
            const look = layerLook[kind];
            return (
              <path
                key={kind}
                d={d}
                fill={look?.fill ?? "none"}
                fillRule="evenodd"
                stroke={look?.stroke}
                strokeWidth={(look?.width ?? 1) * px}
                strokeDasharray={look?.dash
                  ?.split(" ")
                  .map((n) => Number(n) * px)
                  .join(" ")}
                strokeLinejoin="round"
              />
            );
          })}
          <g
            fontSize={lettering * px}
            fill="var(--soft)"
            stroke="var(--sheet)"
            strokeWidth={4 * px}
            strokeLinejoin="round"
            paintOrder="stroke"
          >
            <text x={left + 6 * px} y={top + height - 26 * px}>
              {view.left}
            </text>
            <text x={left + width - 6 * px} y={top + height - 26 * px} textAnchor="end">
              {view.right}
            </text>
            <text x={left + 6 * px} y={top + (lettering + 1) * px}>
              {view.up}
            </text>
          </g>
          {(view.marks ?? []).map(({ at: [x = 0, y = 0], text }) => (
            <g key={text} transform={`translate(${x} ${-y}) scale(${px})`} className="font-mono">
              <circle r={9} fill="var(--sheet)" stroke="var(--ink)" />
              <text y={4.5} textAnchor="middle" fontSize={12} fill="var(--ink)">
                {text}
              </text>
            </g>
          ))}
          {overlay?.(px)}
          <ScaleBar x={left + 8 * px} y={top + height - 10 * px} px={px} />
          {spot && (
            <circle
              cx={spot[0]}
              cy={-spot[1]}
              r={11 * px}
              fill="none"
              stroke="var(--accent)"
              strokeWidth={2.5 * px}
            />
          )}
          {view.tags.map((tag, n) => {
            const key = checkKey({ id: tag.check, side: tag.side });
            const check = checks.find((c) => checkKey(c) === key);
            return (
              <DimensionTag
                // biome-ignore lint/suspicious/noArrayIndexKey: the gauges report in one order; a tag in the hand must not be remade
                key={`${key} ${tag.dimension} ${n}`}
                tag={tag}
                verdict={(tag.verdict ?? check?.verdict ?? "not_applicable") as Verdict}
                dimension={readOnly ? undefined : dimensions.find((d) => d.id === tag.dimension)}
                lit={hovered === key}
                scale={scale}
                label={labels[n] ?? { x: 0, y: 0, width: 0, height: 0 }}
                labelAt={[left + (labels[n]?.x ?? 0) / scale, -(top + (labels[n]?.y ?? 0) / scale)]}
                onHover={(on) => {
                  onHover(on ? key : undefined);
                  setInHand(on ? n : undefined);
                }}
                onSelect={() => onSelect(key)}
                onChange={(value) => onChange(tag.dimension, value)}
              />
            );
          })}
          {checks
            .filter(
              (c) =>
                c.verdict === "missed" &&
                c.where &&
                belongs(view, c) &&
                !view.tags.some((t) => t.check === c.id && t.side === c.side),
            )
            .map((c) => {
              const [x, y] = project(view, c.where?.point ?? []);
              return (
                // biome-ignore lint/a11y/noStaticElementInteractions: the same check is a button in the panel
                <g
                  key={checkKey(c)}
                  transform={`translate(${x} ${-y}) scale(${px})`}
                  onPointerEnter={() => onHover(checkKey(c))}
                  onPointerLeave={() => onHover(undefined)}
                  onClick={() => onSelect(checkKey(c))}
                >
                  <title>{c.label}</title>
                  <circle r={9} fill="var(--sheet)" opacity={0.85} />
                  <VerdictShape verdict="missed" />
                </g>
              );
            })}
        </svg>
        {inHand !== undefined && shownTag && labels[inHand] && (
          <TagNote
            tag={shownTag}
            check={checks.find((c) => checkKey(c) === checkKey({ id: shownTag.check, side: shownTag.side }))}
            dimension={readOnly ? undefined : dimensions.find((d) => d.id === shownTag.dimension)}
            label={labels[inHand]}
            pane={size}
          />
        )}
      </div>
    </figure>
  );
}

const nearby = 1.2; // mm from a section within which a place belongs to it

/** Whether a check's place is to be seen in a view, rather than behind it. */
function belongs(view: Schema["View"], check: Schema["Check"]): boolean {
  if (view.id === "plan") return true;
  if (view.id.startsWith("proximal_")) return !check.side || view.id.endsWith(check.side);
  const [ux = 0, uy = 0, uz = 0] = view.u;
  const [vx = 0, vy = 0, vz = 0] = view.v;
  const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const off = normal.reduce(
    (sum, n, k) => sum + n * ((check.where?.point[k] ?? 0) - (view.origin[k] ?? 0)),
    0,
  );
  return Math.abs(off) < nearby;
}

function Grid({
  left,
  top,
  width,
  height,
  px,
}: {
  left: number;
  top: number;
  width: number;
  height: number;
  px: number;
}) {
  const lines: string[] = [];
  for (let x = Math.ceil(left); x < left + width; x++) lines.push(`M${x} ${top}v${height}`);
  for (let y = Math.ceil(top); y < top + height; y++) lines.push(`M${left} ${y}h${width}`);
  return <path d={lines.join("")} stroke="var(--grid)" strokeWidth={px} />;
}

function ScaleBar({ x, y, px }: { x: number; y: number; px: number }) {
  const mm = 2;
  return (
    <g stroke="var(--ink)" strokeWidth={1.5 * px}>
      <path d={`M${x} ${y - 3 * px}v${6 * px}M${x} ${y}h${mm}M${x + mm} ${y - 3 * px}v${6 * px}`} />
      <text
        x={x + mm + 6 * px}
        y={y + 4 * px}
        fontSize={13 * px}
        fill="var(--ink)"
        stroke="var(--sheet)"
        strokeWidth={4 * px}
        paintOrder="stroke"
        className="font-mono"
      >
        {mm} mm
      </text>
    </g>
  );
}
