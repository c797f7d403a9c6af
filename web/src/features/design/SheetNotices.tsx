import { Link } from "react-router";
import { ApiProblem, type Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";

/** Why no plan is made, and the way on where the dentist may decide otherwise. */
export function RefusedPlan({ plan, onRestore }: { plan: Schema["Plan"]; onRestore?: () => void }) {
  return (
    <section className="mx-auto max-w-xl p-10">
      <Notice tone="warn" title="No plan is made">
        {plan.refused}
      </Notice>
      {plan.advice.treatment !== "restore" && onRestore && (
        <Button className="mt-4 mr-4" onClick={onRestore}>
          Restore all the same
        </Button>
      )}
      <Link className="mt-4 inline-block text-accent underline" to="/cases">
        To the day sheet
      </Link>
    </section>
  );
}

/** What kept a plan from being worked out; the last drawing stays under it. */
export function EvaluationFault({ error, retry }: { error: Error; retry: () => void }) {
  const problem = error instanceof ApiProblem ? error : undefined;
  return (
    <div className="p-3">
      <Notice tone="warn" title={problem?.problem.title ?? "The server does not answer"}>
        {problem ? (
          problem.faults.map((f) => (
            <p key={f.path + f.message}>
              {f.path}: {f.message}
            </p>
          ))
        ) : (
          <p>The drawing shows the last answer. Your changes are kept on this page.</p>
        )}
        <Button className="mt-2" onClick={retry}>
          Try again
        </Button>
      </Notice>
    </div>
  );
}
