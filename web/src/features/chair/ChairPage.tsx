import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { inWords, type Schema } from "@/api/client";
import { newKey } from "@/api/connection";
import { CaseFault } from "@/features/cases/CaseFault";
import { useCase } from "@/features/cases/cases";
import { useSitting } from "@/features/tray/sitting";
import { useProof } from "@/steps/sequence";
import { Button } from "@/ui/Button";
import { useRuns, useStartRun } from "./runs";

/** Before the chair: go on with a run, begin one, and what earlier ones took. */
export function ChairPage() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const dental = useCase(id);
  const runs = useRuns(id);
  const start = useStartRun(id);
  const [examination, setExamination] = useState(false);
  const [limit, setLimit] = useState("60");
  const sitting = useSitting(id, true);
  const others = (sitting.data?.visits ?? []).filter((v) => v.case !== id).map((v) => v.tooth);
  const [asked] = useSearchParams();
  const [together, setTogether] = useState(asked.has("sitting"));
  const proof = useProof(dental.data?.document, true); // so that the first step waits for nothing
  const failed = dental.error ?? runs.error;
  if (failed) return <CaseFault error={failed} />;
  if (!dental.data || !runs.data) return <p className="p-10 text-soft">Reading the case…</p>;
  const open = runs.data.find((r) => r.own && !r.finished);
  const earlier = runs.data.filter((r) => r !== open);
  const minutes = Number(limit);
  const limitFault =
    examination && !(Number.isInteger(minutes) && minutes >= 1 && minutes <= 600)
      ? "Whole minutes from 1 to 600"
      : undefined;

  function begin() {
    if (limitFault) return;
    start.mutate(
      {
        key: newKey(),
        body: {
          ...(examination && { examination, limit_minutes: minutes }),
          ...(together && others.length > 0 && { sitting: true }),
        },
      },
      { onSuccess: (run) => navigate(`/cases/${id}/chair/${run.id}`) },
    );
  }

  return (
    <main className="mx-auto grid max-w-3xl gap-6 p-8">
      <div>
        <h1 className="text-xl font-bold">
          At the chair: {dental.data.patient}, {dental.data.tooth.iso}
        </h1>
        <p className="text-soft">
          One step at a time, by keys or a foot switch. Every figure is a planning aid: measure on the tooth.
        </p>
      </div>
      {open && (
        <Button kind="main" onClick={() => navigate(`/cases/${open.case}/chair/${open.id}`)}>
          Go on with the run of {when(open)}
          {open.teeth.length > 0 && `, ${open.teeth.join(" and ")}`}
        </Button>
      )}
      <section className="grid gap-3 rounded border border-line bg-panel p-4">
        {others.length > 0 && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={together} onChange={(e) => setTogether(e.target.checked)} />
            With {others.join(" and ")} in one sitting: each instrument goes round once, all are bonded before
            the first is filled
          </label>
        )}
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={examination} onChange={(e) => setExamination(e.target.checked)} />
          As in an examination: a limit, and no hints
        </label>
        {examination && (
          <label className="flex items-center gap-2">
            Limit, minutes
            <input
              className="w-20 rounded border border-line bg-sheet px-2 py-1"
              inputMode="numeric"
              value={limit}
              aria-invalid={limitFault !== undefined}
              onChange={(e) => setLimit(e.target.value)}
            />
            {limitFault && <span className="text-warn">{limitFault}</span>}
          </label>
        )}
        <div className="flex items-center gap-3">
          <Button kind={open ? undefined : "main"} onClick={begin} disabled={start.isPending}>
            Begin {open ? "anew" : "the first step"}
          </Button>
          {!proof.data?.sequence && !proof.isError && (
            <span role="status" className="text-soft">
              Not proven yet: {Math.round(100 * (proof.data?.share ?? 0))} % cut
              {start.isPending && "; the first step waits for it"}
            </span>
          )}
        </div>
        {start.error && <p className="text-warn">{inWords(start.error)}</p>}
      </section>
      {earlier.length > 0 && (
        <section aria-label="Earlier runs">
          <h2 className="mb-1 font-bold">Earlier</h2>
          <ul className="divide-y divide-line">
            {earlier.map((r) => (
              <li key={r.id} className="flex gap-4 py-1">
                <span className="flex-1">
                  {when(r)}, {r.by}
                  {r.teeth.length > 0 && `, ${r.teeth.join(" and ")}`}
                  {r.examination && ", examination"}
                </span>
                <span>{Math.round(r.minutes)} min</span>
                <span>{r.slips === 1 ? "1 slip" : `${r.slips} slips`}</span>
                <span className="w-24 text-soft">{r.finished ? "finished" : "left open"}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Link className="text-accent underline" to={`/cases/${id}`}>
        Back to the drawing
      </Link>
    </main>
  );
}

function when(run: Schema["ChairRunSummary"]) {
  return new Date(run.started_at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });
}
