const pixelsPerMM = 17;

/** The head, tip down, drawn from its real profile. */
export function BurProfile({ profile, length, name }: { profile: number[]; length: number; name: string }) {
  const right: string[] = [];
  const left: string[] = [];
  for (let n = 0; n < profile.length; n += 2) {
    right.push(`${profile[n]} ${-(profile[n + 1] ?? 0)}`);
    left.unshift(`${-(profile[n] ?? 0)} ${-(profile[n + 1] ?? 0)}`);
  }
  const neck = Math.min(...profile.filter((_, n) => n % 2 === 0).slice(-1), 0.35) * 0.8;
  const shank = 0.8;
  const height = length + shank;
  return (
    <svg
      role="img"
      aria-label={name}
      width={1.6 * pixelsPerMM}
      height={height * pixelsPerMM}
      viewBox={`-0.8 ${-height} 1.6 ${height}`}
      className="shrink-0"
    >
      <path d={`M${-neck} ${-length}V${-height}H${neck}V${-length}`} fill="var(--line)" />
      <path
        d={`M${right.join("L")}L${left.join("L")}Z`}
        fill="var(--cut)"
        stroke="var(--ink)"
        strokeWidth={0.07}
      />
    </svg>
  );
}
