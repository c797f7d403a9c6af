import { type FormEvent, useState } from "react";
import { inWords, type Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { useStartTolerance } from "./hands";

interface FormProps {
  caseId: string;
  /** The figures of a hand with their bounds, and the newest run. */
  asked: Schema["LastTolerance"];
  may: boolean;
}

export function HandForm({ caseId, asked, may }: FormProps) {
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
