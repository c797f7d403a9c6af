import type { Schema } from "@/api/client";
import { formatValue } from "@/drawing/geometry";

interface Props {
  solution?: Schema["Solution"];
  solving: boolean;
}

/** What fitting the proposal to the tooth moved, and which checks are better for it. */
export function SolutionNote({ solution, solving }: Props) {
  if (solving)
    return (
      <p className="mt-4 text-soft" role="status">
        Fitting the proposal to its gauges…
      </p>
    );
  if (!solution?.moved.length) return null;
  const met = solution.gained.filter((g) => g.after === "met");
  const nearer = solution.gained.filter((g) => g.after !== "met");
  return (
    <details className="mt-4 text-soft" data-testid="solution">
      <summary className="cursor-pointer">
        Proposal fitted to its gauges: {count(solution.moved.length, "figure")} moved
        {solution.gained.length > 0 && <>, {count(solution.gained.length, "check")} better</>}
      </summary>
      <ul className="mt-1 space-y-0.5 pl-4">
        {solution.moved.map((m) => (
          <li key={m.id}>
            {m.label} <span className="font-mono">{formatValue(m.from, m.unit)}</span> to{" "}
            <span className="font-mono text-ink">{formatValue(m.to, m.unit)}</span>
          </li>
        ))}
      </ul>
      {met.length > 0 && <p className="mt-1 pl-4">Now met: {met.map((g) => g.label).join("; ")}.</p>}
      {nearer.length > 0 && (
        <p className="mt-1 pl-4">No longer missed: {nearer.map((g) => g.label).join("; ")}.</p>
      )}
    </details>
  );
}

const count = (n: number, what: string) => `${n} ${what}${n === 1 ? "" : "s"}`;
