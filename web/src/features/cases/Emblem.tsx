import type { Schema } from "@/api/client";
import { layerPath } from "@/drawing/geometry";

const edge = 0.4; // mm about the outline, so that its line is whole

/** A tooth with its cavity, in the size of a thumbnail. */
export function Emblem({ emblem }: { emblem: Schema["Emblem"] | undefined }) {
  if (!emblem) return <span className="block h-10 w-12 shrink-0" />;
  const { x, y, width, height } = emblem;
  const line = { stroke: "var(--ink)", vectorEffect: "non-scaling-stroke" as const };
  return (
    <svg
      aria-hidden
      className="block h-10 w-12 shrink-0"
      viewBox={`${x - edge} ${-y - height - edge} ${width + 2 * edge} ${height + 2 * edge}`}
    >
      <path d={layerPath(emblem.crown)} fill="var(--enamel)" {...line} />
      <path d={layerPath(emblem.root)} fill="var(--root)" {...line} />
      <path d={layerPath(emblem.cavity)} fill="var(--accent)" {...line} fillRule="evenodd" />
    </svg>
  );
}
