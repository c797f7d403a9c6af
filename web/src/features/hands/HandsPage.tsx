import { type FormEvent, useState } from "react";
import { Link, useParams } from "react-router";
import { inWords, type Schema } from "@/api/client";
import { formatValue } from "@/drawing/geometry";
import { CaseFault } from "@/features/cases/CaseFault";
import { useCase } from "@/features/cases/cases";
import { Button } from "@/ui/Button";
import { useCancelTolerance, useStartTolerance, useTolerance } from "./hands";

/** What becomes of a case in a hand that errs: the hand as numbers, the run, and what it shows. */
export function HandsPage() {
  const { id = "" } = useParams();
  const dental = useCase(id);
  const tolerance = useTolerance(id);
  const failed = dental.error ?? tolerance.error;
  if (failed) return <CaseFault error={failed} />;
  if (!dental.data || !tolerance.data) return <p className="p-10 text-soft">Reading the case…</p>;
  const { run } = tolerance.data;
  return (
    <main className="h-full overflow-auto">
      <div className="mx-auto grid max-w-6xl items-start gap-8 p-6 lg:grid-cols-[20rem_1fr]">
        <div className="lg:col-span-2">
          <h1 className="text-xl font-bold">
            Your hands: {dental.data.patient}, {dental.data.tooth.iso}
          </h1>
          <p className="text-soft">
            The cavity is cut again and again with errors drawn for these figures, and measured each time. A
            model of a hand: nobody's was measured.
          </p>
        </div>
        <HandForm
          key={run?.id}
          caseId={id}
          asked={tolerance.data}
          may={dental.data.may.includes("change_case")}
        />
        {run ? (
          <Results caseId={id} run={run} />
        ) : (
          <p className="text-soft">Not cut yet. Two hundred cuts take about a minute.</p>
        )}
        <Link className="text-accent underline" to={`/cases/${id}`}>
          Back to the drawing
        </Link>
      </div>
    </main>
  );
}

interface FormProps {
  caseId: string;
  /** The figures of a hand with their bounds, and the newest run. */
  asked: Schema["LastTolerance"];
  may: boolean;
}

function HandForm({ caseId, asked, may }: FormProps) {
  const { figures, usual, run: last } = asked;
  const start = useStartTolerance(caseId);
  const [values, setValues] = useState(() =>
    Object.fromEntries(
      figures.map((f) => [f.id, String((last?.hand ?? usual)[f.id as keyof Schema["Hand"]])]),
    ),
  );
  const [runs, setRuns] = useState(String(last?.runs ?? 200));
  const [checked, setChecked] = useState(false);
  const fault = (text: string | undefined, least: number, most: number, whole = false) => {
    const v = Number(text);
    const fits = text?.trim() !== "" && Number.isFinite(v) && v >= least && v <= most;
    return fits && (!whole || Number.isInteger(v)) ? undefined : `From ${least} to ${most}`;
  };
  const runsFault = fault(runs, asked.least_runs, asked.most_runs, true);

  function submit(event: FormEvent) {
    event.preventDefault();
    setChecked(true);
    if (runsFault || figures.some((f) => fault(values[f.id], f.least, f.most))) return;
    const hand = Object.fromEntries(
      figures.map((f) => [f.id, Number(values[f.id])]),
    ) as unknown as Schema["Hand"];
    start.mutate({ hand, runs: Number(runs) });
  }

  return (
    <form className="grid gap-3 rounded border border-line bg-panel p-4" onSubmit={submit} noValidate>
      {figures.map((f) => (
        <Row
          key={f.id}
          label={f.label}
          unit={f.unit}
          value={values[f.id] ?? ""}
          fault={checked ? fault(values[f.id], f.least, f.most) : undefined}
          onChange={(text) => setValues({ ...values, [f.id]: text })}
        />
      ))}
      <Row label="Cuts" unit="" value={runs} fault={checked ? runsFault : undefined} onChange={setRuns} />
      <Button kind="main" type="submit" disabled={!may || start.isPending || last?.state === "runs"}>
        Cut it
      </Button>
      {start.error && <p className="text-warn">{inWords(start.error)}</p>}
    </form>
  );
}

interface RowProps {
  label: string;
  unit: string;
  value: string;
  fault?: string;
  onChange: (text: string) => void;
}

function Row({ label, unit, value, fault, onChange }: RowProps) {
  return (
    <label className="grid grid-cols-[1fr_4.5rem_3.5rem] items-center gap-2">
      <span>{label}</span>
      <input
        className="rounded border border-line bg-sheet px-2 py-1 text-right font-mono"
        inputMode="decimal"
        value={value}
        aria-invalid={fault !== undefined}
        onChange={(e) => onChange(e.target.value)}
      />
      <span className="text-soft">{unit}</span>
      {fault && <span className="col-span-3 text-warn">{fault}</span>}
    </label>
  );
}

const stateWords: Record<Schema["ToleranceRun"]["state"], string> = {
  runs: "Cutting…",
  finished: "Finished",
  cancelled: "Cancelled",
  failed: "Failed",
};

function Results({ caseId, run }: { caseId: string; run: Schema["ToleranceRun"] }) {
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
