const pixelsPerMM = 17;

interface Bur {
  profile: number[];
  length: number;
  neck?: number;
  name: string;
  /** Times its usual size. */
  magnified?: number;
}

/** The head, tip down, drawn from the profile that cuts. */
export function BurProfile({ profile, length, neck = 0, name, magnified = 1 }: Bur) {
  const right: string[] = [];
  const left: string[] = [];
  for (let n = 0; n < profile.length; n += 2) {
    right.push(`${profile[n]} ${-(profile[n + 1] ?? 0)}`);
    left.unshift(`${-(profile[n] ?? 0)} ${-(profile[n + 1] ?? 0)}`);
  }
  const upper = profile.at(-1) ?? length;
  const shank = 0.8;
  const height = length + shank;
  return (
    <svg
      role="img"
      aria-label={name}
      width={1.6 * pixelsPerMM * magnified}
      height={height * pixelsPerMM * magnified}
      viewBox={`-0.8 ${-height} 1.6 ${height}`}
      className="shrink-0"
    >
      <path d={`M${-neck} ${-upper}V${-height}H${neck}V${-upper}`} fill="var(--line)" />
      <path
        d={`M${right.join("L")}L${left.join("L")}Z`}
        fill="var(--cut)"
        stroke="var(--ink)"
        strokeWidth={0.07}
      />
    </svg>
  );
}
