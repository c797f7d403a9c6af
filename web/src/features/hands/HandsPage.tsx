import { Link, useParams } from "react-router";
import { CaseFault } from "@/features/cases/CaseFault";
import { useCase } from "@/features/cases/cases";
import { HandForm } from "./HandForm";
import { Results } from "./HandResults";
import { useTolerance } from "./hands";

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
