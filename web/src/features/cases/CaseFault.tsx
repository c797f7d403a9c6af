import { ApiProblem } from "@/api/client";
import { Notice } from "@/ui/Notice";

/** Stands in place of a page of a case that cannot be read. */
export function CaseFault({ error }: { error: Error }) {
  const problem = error instanceof ApiProblem ? error.problem : undefined;
  return (
    <main className="mx-auto max-w-xl p-10">
      <Notice tone="warn" title={problem?.title ?? "The server does not answer"}>
        {problem?.detail ?? "Check that it runs, then open the page again."}
      </Notice>
    </main>
  );
}
