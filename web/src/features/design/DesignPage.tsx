import { useParams } from "react-router";
import { ApiProblem, type Schema } from "@/api/client";
import { useCase, useRevision } from "@/features/cases/cases";
import { busyKeeper, useKeeper } from "@/features/drafts/keepers";
import { useUser } from "@/features/session/session";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { DesignSheet } from "./DesignSheet";

/** A case's working drawing: its draft, or a revision as it was fixed. */
export function DesignPage() {
  const { id = "", number } = useParams();
  const revisionNumber = number === undefined ? undefined : Number(number);
  const dental = useCase(id);
  const revision = useRevision(id, revisionNumber);
  const failed = (dental.data ? undefined : dental.error) ?? revision.error;

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
  // What an earlier look at the case left in memory may be older than the draft, unless
  // this page itself has the newest change.
  const current = dental.isFetchedAfterMount || dental.isError || busyKeeper(id);
  if (!dental.data || !current || (revisionNumber !== undefined && !revision.data)) {
    return <p className="p-10 text-soft">Reading the case…</p>;
  }
  if (revision.data) {
    return <DesignSheet key={`${id} ${revisionNumber}`} dental={dental.data} revision={revision.data} />;
  }
  return <Draft key={id} dental={dental.data} />;
}

function Draft({ dental }: { dental: Schema["Case"] }) {
  const keeper = useKeeper(dental, useUser().sign_in);
  return <DesignSheet dental={dental} keeper={keeper} />;
}
