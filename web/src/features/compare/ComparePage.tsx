import { useState } from "react";
import { Link, useParams } from "react-router";
import { ApiProblem, type Schema } from "@/api/client";
import { formatTarget, formatValue } from "@/drawing/geometry";
import { useCase, useSchools } from "@/features/cases/cases";
import { className } from "@/features/cases/words";
import { Notice } from "@/ui/Notice";
import { type Verdict, VerdictMark, verdictNames } from "@/ui/VerdictMark";
import { differences, type Row, useComparison } from "./compare";
import { LineSample, Overlay } from "./Overlay";

const most = 4;

/** The same case under several schools: drawings overlaid, differences listed. */
export function ComparePage() {
  const { id = "" } = useParams();
  const dental = useCase(id);
  if (dental.isError) {
    return (
      <main className="mx-auto max-w-xl p-10">
        <Notice tone="warn" title="The case could not be read">
          Check that the server runs, and that the case is still there.
        </Notice>
      </main>
    );
  }
  if (!dental.data) return <p className="p-10 text-soft">Reading the case…</p>;
  return <Comparison dental={dental.data} />;
}

function Comparison({ dental }: { dental: Schema["Case"] }) {
  const schools = useSchools();
  const [chosen, setChosen] = useState(dental.tooth.schools);
  const document = dental.document;
  const comparison = useComparison(document, chosen);
  const evaluations = comparison.data ?? [];
  const plans = evaluations.map((e) => e.plan);
  const refused = plans.find((p) => p.refused);
  const nameOf = (school: string) => schools.data?.find((s) => s.id === school)?.name ?? school;
  const toggle = (school: string) =>
    setChosen((now) => (now.includes(school) ? now.filter((s) => s !== school) : [...now, school]));
  const view = (name?: string) => evaluations.flatMap((e) => e.views.filter((v) => v.id === name));
  const shown = evaluations[0]?.views ?? [];
  const first = plans[0];

  return (
    <main className="h-full overflow-auto p-4">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <h1 className="text-lg font-bold">
          <span className="font-mono">{dental.patient}</span> · {dental.tooth.name}: schools side by side
        </h1>
        {first && !refused && (
          <span className="text-soft">
            {className(first.class)} {first.surface_letters}, {first.material}
          </span>
        )}
        <Link className="ml-auto text-accent underline" to={`/cases/${dental.id}`}>
          To the sheet
        </Link>
      </div>
      <fieldset className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
        <legend className="sr-only">Schools to compare</legend>
        {schools.data?.map((s) => (
          <label key={s.id} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4 accent-accent"
              checked={chosen.includes(s.id)}
              disabled={
                (chosen.includes(s.id) && chosen.length <= 2) ||
                (!chosen.includes(s.id) && chosen.length >= most)
              }
              onChange={() => toggle(s.id)}
            />
            {s.name}
          </label>
        ))}
        <span className="text-soft">Your own values are left out here: each school shows its proposal.</span>
      </fieldset>
      {comparison.isError && (
        <Notice tone="warn" title="The comparison failed">
          {comparison.error instanceof ApiProblem
            ? comparison.error.faults.map((f) => `${f.path}: ${f.message}`).join(" ")
            : "The server does not answer. Check that it runs."}
        </Notice>
      )}
      {comparison.isPending && <p className="p-6 text-soft">Planning by each school…</p>}
      {refused && (
        <Notice tone="warn" title="No plan is made">
          {refused.refused}
        </Notice>
      )}
      {evaluations.length > 0 && !refused && (
        <div className="mt-3 grid gap-5 lg:grid-cols-[360px_1fr]">
          <div className="space-y-3">
            <ul className="space-y-1">
              {plans.map((p, n) => (
                <li key={p.school} className="flex items-center gap-2">
                  <LineSample n={n} />
                  {nameOf(p.school)}
                </li>
              ))}
            </ul>
            <Overlay views={view(shown[0]?.id)} outline="cavity" />
            <Overlay views={view(shown.at(-1)?.id)} outline="enamel" />
          </div>
          <div data-settled={!comparison.isFetching} data-testid="differences">
            <Differences plans={plans} nameOf={nameOf} />
          </div>
        </div>
      )}
    </main>
  );
}

interface DifferencesProps {
  plans: Schema["Plan"][];
  nameOf: (id: string) => string;
}

function Differences({ plans, nameOf }: DifferencesProps) {
  const rows = differences(plans);
  const volumes: [string, (p: Schema["Plan"]) => number][] = [
    ["Enamel spent", (p) => p.volumes.enamel],
    ["Dentin spent", (p) => p.volumes.dentin],
    ["of it caries", (p) => p.volumes.lesion],
    ["Old filling taken out", (p) => p.volumes.old_filling ?? 0],
  ];
  return (
    <table className="w-full border-collapse">
      <caption className="mb-1 text-left font-bold">
        Where they differ, measured on each one's cut tooth
      </caption>
      <thead>
        <tr className="border-b border-line text-left align-bottom">
          <th className="py-1 pr-3 font-normal text-soft">Figure</th>
          {plans.map((p) => (
            <th key={p.school} className="w-40 py-1 pr-3">
              {nameOf(p.school)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {volumes.map(([label, read]) => {
          const least = Math.min(...plans.map(read));
          if (plans.every((p) => read(p) === 0)) return null;
          return (
            <tr key={label} className="border-b border-line">
              <th scope="row" className="py-1 pr-3 text-left font-normal">
                {label}
              </th>
              {plans.map((p) => (
                <td key={p.school} className="py-1 pr-3 font-mono">
                  {read(p).toFixed(1)} mm³
                  {read(p) - least >= 0.05 && (
                    <span className="text-soft"> +{(read(p) - least).toFixed(1)}</span>
                  )}
                </td>
              ))}
            </tr>
          );
        })}
        {rows.map((row) => (
          <DifferenceRow key={row.key} row={row} schools={plans.map((p) => p.school)} nameOf={nameOf} />
        ))}
      </tbody>
    </table>
  );
}

function DifferenceRow({
  row,
  schools,
  nameOf,
}: {
  row: Row;
  schools: string[];
  nameOf: (id: string) => string;
}) {
  const [why, setWhy] = useState(false);
  return (
    <>
      <tr className="border-b border-line align-top">
        <th scope="row" className="py-1 pr-3 text-left font-normal">
          {row.label}{" "}
          <button
            type="button"
            className="text-xs text-accent underline"
            aria-expanded={why}
            onClick={() => setWhy(!why)}
          >
            why?
          </button>
        </th>
        {row.checks.map((check, n) => (
          <td key={schools[n]} className="py-1 pr-3">
            {typeof check?.value === "number" ? (
              <>
                <span className="flex items-center gap-1.5">
                  <VerdictMark verdict={check.verdict as Verdict} />
                  <b className="font-mono">{formatValue(check.value, check.unit)}</b>
                </span>
                <span className="block text-xs text-soft">{formatTarget(check.target, check.unit)}</span>
              </>
            ) : (
              <span className="text-xs text-soft">
                {verdictNames[(check?.verdict ?? "not_applicable") as Verdict]}
              </span>
            )}
          </td>
        ))}
      </tr>
      {why && (
        <tr className="border-b border-line bg-panel">
          <td colSpan={schools.length + 1} className="px-2 py-1.5">
            <ul className="space-y-1">
              {row.checks.map(
                (check, n) =>
                  check && (
                    <li key={schools[n]}>
                      <b>{nameOf(schools[n] ?? "")}</b>: {check.why}
                    </li>
                  ),
              )}
            </ul>
          </td>
        </tr>
      )}
    </>
  );
}
