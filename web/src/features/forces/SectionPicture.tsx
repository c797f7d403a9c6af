import type { Schema } from "@/api/client";
import { layerPath } from "@/drawing/geometry";
import { layerLook } from "@/drawing/tissues";
import { StrainLines } from "./StrainOverlay";

/** Millimetres that a picture shows: wide enough for any molar. */
const wide = 13;
const over = 9.6; // the cervical line, the load's arrow included
const under = 3;
const pixels = 250; // that it is wide

/** A section under load, small: what stands, the lines of tension and the load. */
export function SectionPicture({
  strain,
  turned,
  label,
}: {
  strain: Schema["Strain"];
  /** Lingual is at the right. */
  turned: boolean;
  label: string;
}) {
  const px = wide / pixels;
  return (
    <svg
      viewBox={`${-wide / 2} ${-over} ${wide} ${over + under}`}
      className="w-full"
      role="img"
      aria-label={label}
    >
      <g transform={turned ? "scale(-1 1)" : undefined}>
        {(["enamel", "dentin", "pulp"] as const).map((tissue) => {
          const look = layerLook[tissue];
          return (
            <path
              key={tissue}
              d={layerPath(strain[tissue])}
              fill={tissue === "enamel" ? "var(--enamel)" : look?.fill}
              fillRule="evenodd"
              stroke={look?.stroke}
              strokeWidth={(look?.width ?? 1) * px}
            />
          );
        })}
        <path
          d={layerPath(strain.filling)}
          fill="var(--panel)"
          stroke="var(--soft)"
          strokeWidth={1.2 * px}
          strokeDasharray={`${6 * px} ${2 * px} ${px} ${2 * px}`}
        />
        <StrainLines levels={strain.levels} px={px} />
        {strain.loads.map((load) => {
          const [x = 0, y = 0] = load.at;
          const [dx = 0, dy = -1] = load.along;
          const [long, head, half] = [1.7, 0.5, 0.22]; // mm
          return (
            <path
              key={x}
              d={`M${x - long * dx} ${-(y - long * dy)}L${x} ${-y}M${x - head * dx - half * dy} ${-(y - head * dy + half * dx)}L${x} ${-y}L${x - head * dx + half * dy} ${-(y - head * dy - half * dx)}`}
              fill="none"
              stroke="var(--accent)"
              strokeWidth={2.2 * px}
            />
          );
        })}
      </g>
    </svg>
  );
}
