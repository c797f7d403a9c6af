import { useParams } from "react-router";
import { ApiProblem } from "@/api/client";
import { useCase, useRevision } from "@/features/cases/cases";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { DesignSheet } from "./DesignSheet";

/** A case's working drawing: its draft, or a revision as it was fixed. */
export function DesignPage() {
  const { id = "", number } = useParams();
  const revisionNumber = number === undefined ? undefined : Number(number);
  const dental = useCase(id);
  const revision = useRevision(id, revisionNumber);
  const failed = dental.error ?? revision.error;

  if (failed) {
    const problem = failed instanceof ApiProblem ? failed.problem : undefined;
    return (
      <main className="mx-auto max-w-xl p-10">
        <Notice tone="warn" title={problem?.title ?? "The server does not answer"}>
          {problem?.detail ?? "Check that it runs, then try again."}
        </Notice>
        <Button className="mt-4" onClick={() => (dental.error ? dental.refetch() : revision.refetch())}>
          Try again
        </Button>
      </main>
    );
  }
  if (!dental.data || (revisionNumber !== undefined && !revision.data)) {
    return <p className="p-10 text-soft">Reading the case…</p>;
  }
  const document = revision.data?.document ?? dental.data.document;
  return (
    <DesignSheet
      key={`${id} ${revisionNumber ?? "draft"}`}
      dental={dental.data}
      initial={document}
      revision={revision.data}
    />
  );
}
