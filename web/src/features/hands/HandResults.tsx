import type { Schema } from "@/api/client";
import { formatValue } from "@/drawing/geometry";
import { Button } from "@/ui/Button";
import { useCancelTolerance } from "./hands";

const stateWords: Record<Schema["ToleranceRun"]["state"], string> = {
  runs: "Cutting…",
  finished: "Finished",
  cancelled: "Cancelled",
  failed: "Failed",
};

export function Results({ caseId, run }: { caseId: string; run: Schema["ToleranceRun"] }) {
  const cancel = useCancelTolerance(caseId);
  return (
    <section aria-label="Tolerance run" className="min-w-0">
      <div className="flex items-center gap-4">
        <b role="status">{stateWords[run.state]}</b>
        <progress
          aria-label="Cuts done"
          className="h-3 flex-1 appearance-none [&::-webkit-progress-bar]:bg-line [&::-webkit-progress-value]:bg-accent"
          max={run.of}
          value={run.done}
        />
        <span className="font-mono">
          {run.done} of {run.of}
        </span>
        {run.state === "runs" && (
          <Button onClick={() => cancel.mutate(run.id)} disabled={cancel.isPending}>
            Cancel
          </Button>
        )}
      </div>
      {run.failed && <p className="mt-2 text-warn">{run.failed}</p>}
      {!run.current && <p className="mt-2 text-warn">The draft has changed since: cut it again.</p>}
      {run.cavities.map((c) => (
        <CavityChances key={c.name} cavity={c} several={run.cavities.length > 1} />
      ))}
    </section>
  );
}

function CavityChances({ cavity, several }: { cavity: Schema["CavityTolerance"]; several: boolean }) {
  const byChance = [...cavity.chances].sort((a, b) => a.met - b.met);
  return (
    <div className="mt-4">
      {several && <h2 className="font-bold">{cavity.name || "occlusal"}</h2>}
      {cavity.weakest.length > 0 && <p>Fails first: {cavity.weakest.join("; ")}.</p>}
      {cavity.gains.length > 0 && (
        <ul aria-label="What lowers the risk" className="my-2 ml-5 list-disc">
          {cavity.gains.map((g) => (
            <li key={g.aim}>
              {g.aim} Risk {g.before.toFixed(1)} to {g.risk.toFixed(1)}, {inTooth(g.tooth_mm3)}.
            </li>
          ))}
        </ul>
      )}
      <table className="w-full">
        <thead className="text-left text-xs text-soft">
          <tr>
            <th className="py-1 font-normal">Criterion</th>
            <th className="text-right font-normal">Met in 100</th>
            <td className="w-40" />
            <th className="text-right font-normal">Missed</th>
            <th className="text-right font-normal">Measured</th>
          </tr>
        </thead>
        <tbody>
          {byChance.map((c) => (
            <tr key={`${c.id} ${c.side}`} className="border-t border-line">
              <td className="py-1 pr-2">{c.label}</td>
              <td className="text-right font-mono whitespace-nowrap">
                <b>{percent(c.met)}</b>{" "}
                <span className="text-soft">
                  {percent(c.low)}–{percent(c.high)}
                </span>
              </td>
              <td className="px-3" aria-hidden="true">
                <Bar chance={c} />
              </td>
              <td className="text-right font-mono">{percent(c.missed)}</td>
              <td className="text-right font-mono whitespace-nowrap">
                {formatValue(c.mean, c.unit)} ± {formatValue(c.deviates, c.unit)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What an aim costs. */
function inTooth(mm3: number) {
  const amount = Math.abs(mm3).toFixed(1);
  if (amount === "0.0") return "at no tooth";
  return `${mm3 > 0 ? "costs" : "spares"} ${amount} mm³ of tooth`;
}

const percent = (share: number) => Math.round(share * 100);

/** The share and, lighter, between what it lies. */
function Bar({ chance }: { chance: Schema["Chance"] }) {
  return (
    <svg width="100%" height="10" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
      <rect width={100} height={10} fill="var(--line)" />
      <rect width={100 * chance.met} height={10} fill="var(--accent)" />
      <rect
        x={100 * chance.low}
        width={100 * (chance.high - chance.low)}
        y={4}
        height={2}
        fill="var(--ink)"
      />
    </svg>
  );
}
