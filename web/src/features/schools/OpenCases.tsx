import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Schema } from "@/api/client";
import { useAllCases } from "@/features/cases/cases";
import { Button } from "@/ui/Button";
import { type Verdict, VerdictMark } from "@/ui/VerdictMark";
import { judgeUnder } from "./schools";

interface Judged {
  summary: Schema["CaseSummary"];
  answer?: Schema["Rejudgement"];
}

/** Which of the open cases change their verdict under these rules. */
export function OpenCases({ school, unsaved }: { school: string; unsaved: boolean }) {
  const cases = useAllCases();
  const [judged, setJudged] = useState<Judged[]>([]);
  const [running, setRunning] = useState(false);
  const stop = useRef<AbortController>(undefined);
  useEffect(() => () => stop.current?.abort(), []);
  const open = cases.data ?? [];

  async function run() {
    const control = new AbortController();
    stop.current = control;
    setRunning(true);
    setJudged([]);
    for (const summary of open) {
      if (control.signal.aborted) break;
      const answer = await judgeUnder(summary.id, school, control.signal).catch(() => undefined);
      if (!control.signal.aborted) setJudged((now) => [...now, { summary, answer }]);
    }
    setRunning(false);
  }

  const changed = judged.filter((j) => j.answer && j.answer.changes.length > 0);
  return (
    <section className="mt-6" aria-label="Open cases under these rules">
      <h2 className="font-bold">Open cases under these rules</h2>
      <p className="mt-1 flex flex-wrap items-center gap-3">
        {running ? (
          <>
            <progress className="accent-accent" max={open.length} value={judged.length} />
            <span>
              {judged.length} of {open.length}
            </span>
            <Button onClick={() => stop.current?.abort()}>Stop</Button>
          </>
        ) : (
          <Button onClick={run} disabled={open.length === 0 || unsaved}>
            Judge the open cases
          </Button>
        )}
        {unsaved && (
          <span className="text-soft">Keep the rules first: cases are judged by what is kept.</span>
        )}
        {!running && judged.length > 0 && (
          <span role="status">
            {changed.length} of {judged.length} would be judged differently, their design left as it is.
          </span>
        )}
      </p>
      <ul className="mt-2 divide-y divide-line">
        {changed.map(({ summary, answer }) => (
          <li key={summary.id} className="py-2">
            <Link className="text-accent underline" to={`/cases/${summary.id}`}>
              <span className="font-mono">{summary.patient}</span> {summary.tooth_name}
            </Link>
            <ul className="mt-1 flex flex-wrap gap-x-6 gap-y-1">
              {answer?.changes.map((c) => (
                <li key={c.label} className="flex items-center gap-1.5">
                  {c.label}: <VerdictMark verdict={c.before as Verdict} /> to{" "}
                  <VerdictMark verdict={c.after as Verdict} />
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}
