import clsx from "clsx";
import { type KeyboardEvent, useMemo } from "react";
import type { Schema } from "@/api/client";
import { polyline, polylinePath } from "./geometry";

export type Dentition = "permanent" | "primary";

interface Props {
  teeth: Schema["ArchTooth"][];
  dentition: Dentition;
  /** ISO number of the chosen tooth. */
  selected?: string;
  onSelect: (iso: string) => void;
}

const labelClear = 3.1; // mm between a tooth's outline and the middle of its number
const archGap = 7; // mm between the two arches
const margin = 9; // mm around

/** Both arches from the teeth's own outlines, as one looks at them: the patient's right on the left. */
export function ArchChart({ teeth, dentition, selected, onSelect }: Props) {
  const rows = useMemo(() => layOut(teeth, dentition), [teeth, dentition]);
  const order = rows.flatMap((r) => r.teeth.map((t) => t.iso));
  const current = selected !== undefined && order.includes(selected) ? selected : order[0];

  function step(event: KeyboardEvent, iso: string) {
    const row = rows.find((r) => r.teeth.some((t) => t.iso === iso));
    const other = rows.find((r) => r !== row);
    if (!row || !other) return;
    const at = row.teeth.findIndex((t) => t.iso === iso);
    const next = {
      ArrowLeft: row.teeth[at - 1],
      ArrowRight: row.teeth[at + 1],
      ArrowUp: other.teeth[at],
      ArrowDown: other.teeth[at],
    }[event.key];
    if (event.key === "Enter" || event.key === " ") onSelect(iso);
    else if (next) {
      onSelect(next.iso);
      document.getElementById(`arch-${next.iso}`)?.focus();
    } else return;
    event.preventDefault();
  }

  const box = bounds(rows);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing of buttons; a fieldset cannot be SVG
    <svg
      viewBox={`${box.x} ${box.y} ${box.width} ${box.height}`}
      className="mx-auto w-full max-w-80"
      role="group"
      aria-label={`${dentition} teeth`}
    >
      <g fontSize={3} fill="var(--soft)">
        <text x={box.x + 1} y={box.y + box.height / 2 + 1}>
          right
        </text>
        <text x={box.x + box.width - 1} y={box.y + box.height / 2 + 1} textAnchor="end">
          left
        </text>
      </g>
      {rows.map((row) =>
        row.teeth.map((t) => (
          // biome-ignore lint/a11y/useSemanticElements: a button element cannot be drawn in SVG
          <g
            key={t.iso}
            id={`arch-${t.iso}`}
            role="button"
            aria-label={`${t.name} (${t.iso})`}
            aria-pressed={t.iso === selected}
            tabIndex={t.iso === current ? 0 : -1}
            className="group cursor-pointer outline-none"
            onClick={() => onSelect(t.iso)}
            onKeyDown={(e) => step(e, t.iso)}
          >
            <path
              d={t.outline}
              className={clsx(
                "group-hover:fill-accent-ground group-focus-visible:stroke-accent",
                t.iso === selected ? "fill-accent-ground stroke-accent" : "fill-sheet stroke-soft",
              )}
              strokeWidth={t.iso === selected ? 0.7 : 0.35}
            />
            <path d={t.grooves} fill="none" className="stroke-soft" strokeWidth={0.22} opacity={0.7} />
            <text
              x={t.label[0]}
              y={t.label[1] + 1.1}
              fontSize={3.2}
              textAnchor="middle"
              className={clsx("font-mono", t.iso === selected ? "fill-accent font-bold" : "fill-ink")}
            >
              {t.iso}
            </text>
          </g>
        )),
      )}
    </svg>
  );
}

interface Drawn {
  iso: string;
  name: string;
  outline: string;
  grooves: string;
  middle: [number, number];
  label: [number, number];
}

/** Places the lower arch under the upper one, its front teeth at the bottom. */
function layOut(teeth: Schema["ArchTooth"][], dentition: Dentition): { teeth: Drawn[] }[] {
  const wanted = teeth.filter((t) => Number(t.iso[0]) > 4 === (dentition === "primary"));
  const upper = wanted.filter((t) => "1256".includes(t.iso[0] ?? ""));
  const lower = wanted.filter((t) => !upper.includes(t));
  const depth = (row: Schema["ArchTooth"][]) =>
    Math.max(
      0,
      ...row.flatMap((t) =>
        polyline(t.outline)
          .points.filter((_, k) => k % 2 === 1)
          .map((y) => -y),
      ),
    );
  const shift = depth(upper) + depth(lower) + archGap;
  return [
    { teeth: upper.map((t) => draw(t, 1, 0)).sort(byX) },
    { teeth: lower.map((t) => draw(t, -1, shift)).sort(byX) },
  ];
}

const byX = (a: Drawn, b: Drawn) => a.middle[0] - b.middle[0];

function draw(t: Schema["ArchTooth"], up: 1 | -1, shift: number): Drawn {
  const place = (line: Schema["Line"]) => ({
    closed: line.closed,
    points: polyline(line).points.map((v, k) => (k % 2 === 0 ? v : up * v - shift)),
  });
  const outline = place(t.outline);
  const middle = centre(outline.points);
  // Numbers stand outside the arch, square to its course.
  const heart = up > 0 ? -19 : -shift + 19;
  const ahead = (middle[1] - heart) * up;
  const [dx, dy] = [middle[0], up * ahead * (ahead > 0 ? 1.25 : 0.3)];
  const size = Math.hypot(dx, dy);
  const out = [dx / size, dy / size] as const;
  const reach = labelClear + furthest(outline.points, middle, out);
  return {
    iso: t.iso,
    name: t.name,
    outline: polylinePath([outline]),
    grooves: polylinePath(t.grooves.map(place)),
    middle: [middle[0], -middle[1]],
    label: [middle[0] + out[0] * reach, -(middle[1] + out[1] * reach)],
  };
}

/** How far an outline reaches from its middle in a direction. */
function furthest(points: number[], from: [number, number], out: readonly [number, number]): number {
  let most = 0;
  for (let k = 0; k < points.length; k += 2) {
    most = Math.max(most, ((points[k] ?? 0) - from[0]) * out[0] + ((points[k + 1] ?? 0) - from[1]) * out[1]);
  }
  return most;
}

function centre(points: number[]): [number, number] {
  let x = 0;
  let y = 0;
  for (let k = 0; k < points.length; k += 2) {
    x += points[k] ?? 0;
    y += points[k + 1] ?? 0;
  }
  const count = Math.max(points.length / 2, 1);
  return [x / count, y / count];
}

function bounds(rows: { teeth: Drawn[] }[]) {
  const all = rows.flatMap((r) => r.teeth.map((t) => t.label));
  const xs = all.map((p) => p[0]);
  const ys = all.map((p) => p[1]);
  const half = Math.max(0, ...xs.map(Math.abs)) + margin / 2;
  const top = Math.min(0, ...ys) - margin / 2;
  return { x: -half, y: top, width: 2 * half, height: Math.max(0, ...ys) + margin / 2 - top };
}
