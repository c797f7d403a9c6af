import { strainLook } from "./StrainOverlay";

/** What the lines of a section mean. */
export function TensionLegend({ levels }: { levels: number[] }) {
  return (
    <p className="flex flex-wrap items-center gap-x-3 text-xs text-soft">
      tension, MPa
      {levels.map((mpa) => (
        <span key={mpa} className="flex items-center gap-1">
          <svg width="22" height="8" aria-hidden="true">
            <path
              d="M0 4H22"
              stroke="var(--warn)"
              strokeWidth={strainLook[mpa]?.width}
              strokeDasharray={strainLook[mpa]?.dash}
            />
          </svg>
          {mpa}
        </span>
      ))}
    </p>
  );
}
