export type Verdict = "met" | "near" | "missed" | "not_measurable" | "not_applicable";

export const verdictNames: Record<Verdict, string> = {
  met: "met",
  near: "near",
  missed: "missed",
  not_measurable: "nothing to measure",
  not_applicable: "not asked for",
};

const worstFirst: Verdict[] = ["missed", "near", "met", "not_measurable", "not_applicable"];

export function worstVerdict(verdicts: Verdict[]): Verdict {
  return worstFirst.find((v) => verdicts.includes(v)) ?? "not_applicable";
}

/** Filled disc met, half disc near, open ring with a bar missed; small ring nothing to measure. */
export function VerdictShape({ verdict, r = 6 }: { verdict: Verdict; r?: number }) {
  const tone = verdict === "met" ? "var(--accent)" : verdict === "near" ? "var(--ink)" : "var(--warn)";
  const pen = { stroke: tone, strokeWidth: r / 3.5 };
  switch (verdict) {
    case "met":
      return <circle r={r} fill={tone} />;
    case "near":
      return (
        <>
          <circle r={r * 0.88} fill="none" {...pen} />
          <path d={`M0 ${-r * 0.88}A${r * 0.88} ${r * 0.88} 0 0 0 0 ${r * 0.88}Z`} fill={tone} />
        </>
      );
    case "missed":
      return (
        <>
          <circle r={r * 0.88} fill="none" {...pen} />
          <path d={`M${-r * 1.3} 0H${r * 1.3}`} {...pen} />
        </>
      );
    case "not_measurable":
      return <circle r={r * 0.5} fill="none" stroke="var(--soft)" strokeWidth={r / 4} />;
    default:
      return <path d={`M${-r * 0.6} 0H${r * 0.6}`} stroke="var(--soft)" strokeWidth={r / 4} />;
  }
}

export function VerdictMark({ verdict }: { verdict: Verdict }) {
  return (
    <svg
      width="18"
      height="18"
      viewBox="-9 -9 18 18"
      role="img"
      aria-label={verdictNames[verdict]}
      className="shrink-0"
    >
      <VerdictShape verdict={verdict} />
    </svg>
  );
}
