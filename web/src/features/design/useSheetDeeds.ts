import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { ApiProblem, type CaseDocument, inWords, type Schema } from "@/api/client";
import { newKey } from "@/api/connection";
import { exportedFiles } from "@/api/exportedFiles";
import { keys } from "@/api/keys";
import { useOfferActions } from "@/app/actions";
import { toggleTagNames } from "@/drawing/tagNames";
import { useFixRevision } from "@/features/cases/cases";
import type { DraftKeeper } from "@/features/drafts/DraftKeeper";
import { openFile } from "./files";

interface Sheet {
  dental: Schema["Case"];
  /** Keeps the draft; left out where it cannot be changed. */
  keeper?: DraftKeeper;
  revision?: Schema["Revision"];
  document: CaseDocument;
  history: { undo: () => void; redo: () => void };
}

/** What is done with a sheet as a whole: fixed as a revision, exported; offered as actions too. */
export function useSheetDeeds({ dental, keeper, revision, document, history }: Sheet) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const fix = useFixRevision(dental.id);
  const [fixing, setFixing] = useState(false);
  const fixingNow = useRef(false); // a second click comes before the screen has changed
  async function fixRevision() {
    if (!keeper || fixingNow.current) return;
    fixingNow.current = true;
    setFixing(true);
    try {
      const version = await keeper.flush();
      const fixed = await fix.mutateAsync({ key: newKey(), version });
      toast(`Fixed as revision ${fixed.number}`);
    } catch (error) {
      toast.error(inWords(error));
      if (error instanceof ApiProblem && error.problem.type === "stale_draft")
        queries.invalidateQueries({ queryKey: keys.case(dental.id) });
    } finally {
      fixingNow.current = false;
      setFixing(false);
    }
  }

  async function open(file: string) {
    if (keeper?.state.kind === "unanswered") toast("The file is made as soon as the server answers");
    try {
      const version = keeper && (await keeper.flush());
      await openFile(dental.id, file, { revision: revision?.number, draft: version });
    } catch (error) {
      toast.error(`Nothing was exported. ${inWords(error)}`);
    }
  }

  // biome-ignore lint/correctness/useExhaustiveDependencies: the actions read the latest state when run
  const actions = useMemo(
    () => [
      ...(keeper ? [{ name: "Fix as revision", run: fixRevision }] : []),
      {
        name: "Study this tooth",
        run: () => navigate(`/study/${document.tooth}?age=${document.patient.age_years}`),
      },
      { name: "Names on the tags", run: toggleTagNames },
      { name: "Compare schools", run: () => navigate(`/cases/${dental.id}/compare`) },
      ...(keeper
        ? [
            { name: "Undo", run: history.undo },
            { name: "Redo", run: history.redo },
          ]
        : []),
      ...exportedFiles.map(([file, name]) => ({ name: `Export: ${name}`, run: () => open(file) })),
    ],
    [document, keeper],
  );
  useOfferActions(actions);

  const state: "waits" | "runs" | undefined = fixing ? (fix.failureCount > 0 ? "waits" : "runs") : undefined;
  return { fixRevision, open, fixing: state };
}
