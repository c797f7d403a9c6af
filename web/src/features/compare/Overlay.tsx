import type { Schema } from "@/api/client";
import { layerPath } from "@/drawing/geometry";
import { layerLook, TissuePatterns } from "@/drawing/tissues";

/** How each school's line is drawn, so that they part without colour too. */
const schoolLines = [
  { stroke: "var(--ink)", dash: undefined, width: 2.2 },
  { stroke: "var(--accent)", dash: "9 4", width: 2.2 },
  { stroke: "var(--warn)", dash: "2 3", width: 2.4 },
  { stroke: "var(--soft)", dash: "9 3 2 3", width: 2.2 },
];

/** A piece of the nth line, for a key. */
export function LineSample({ n }: { n: number }) {
  const line = schoolLines[n];
  return (
    <svg width="44" height="8" aria-hidden="true">
      <line
        x1="1"
        x2="43"
        y1="4"
        y2="4"
        stroke={line?.stroke}
        strokeWidth={line?.width}
        strokeDasharray={line?.dash}
      />
    </svg>
  );
}

const ground = new Set([
  "crown",
  "relief",
  "groove",
  "uncut",
  "neighbour",
  "pulp",
  "lesion",
  "cervical_line",
  "gingiva",
]);

interface Props {
  views: Schema["View"][];
  /** The layer in which the schools differ. */
  outline: string;
}

/** One view under several schools: the tooth once, each school's cut as a line. */
export function Overlay({ views, outline }: Props) {
  const first = views[0];
  if (!first) return null;
  const edge = (side: number, pick: (...all: number[]) => number) =>
    pick(...views.map((v) => v.bounds[side] ?? 0));
  const [minX, minY, maxX, maxY] = [
    edge(0, Math.min),
    edge(1, Math.min),
    edge(2, Math.max),
    edge(3, Math.max),
  ];
  const pixels = 320;
  const px = (maxX - minX) / pixels;
  return (
    <figure className="min-w-0">
      <figcaption className="mb-1 text-xs font-bold">{first.title}</figcaption>
      <svg
        viewBox={`${minX} ${-maxY} ${maxX - minX} ${maxY - minY}`}
        className="max-h-72 w-full border border-line bg-sheet"
        role="img"
        aria-label={`${first.title}, all schools`}
        data-testid={`overlay-${first.id}`}
      >
        <TissuePatterns scale={1 / px} />
        {first.layers
          .filter((l) => ground.has(l.kind))
          .map((l) => {
            const look = layerLook[l.kind];
            return (
              <path
                key={l.kind}
                d={layerPath(l.lines)}
                fill={l.kind === "lesion" || l.kind === "crown" ? (look?.fill ?? "none") : "none"}
                fillRule="evenodd"
                stroke={look?.stroke}
                strokeWidth={(look?.width ?? 1) * px}
              />
            );
          })}
        {views.map((v, n) => {
          const line = schoolLines[n];
          return v.layers
            .filter((l) => l.kind === outline)
            .map((l) => (
              <path
                // biome-ignore lint/suspicious/noArrayIndexKey: the schools stand in a fixed order
                key={n}
                d={layerPath(l.lines)}
                fill="none"
                stroke={line?.stroke}
                strokeWidth={(line?.width ?? 2) * px}
                strokeDasharray={line?.dash
                  ?.split(" ")
                  .map((d) => Number(d) * px)
                  .join(" ")}
              />
            ));
        })}
      </svg>
    </figure>
  );
}
