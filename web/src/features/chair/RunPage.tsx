import { useParams } from "react-router";
import type { Schema } from "@/api/client";
import { CaseFault } from "@/features/cases/CaseFault";
import { ChairView } from "./ChairView";
import { useRun } from "./runs";
import { useRunKeeper } from "./useRunKeeper";

/** A run at the chair, as it goes on. */
export function RunPage() {
  const { id = "", run = "" } = useParams();
  const kept = useRun(id, run);
  if (kept.error && !kept.data) return <CaseFault error={kept.error} />;
  // What an earlier look left in memory lacks what happened since.
  if (!kept.data || !kept.isFetchedAfterMount) return <p className="p-10 text-3xl text-soft">One moment…</p>;
  return <Going key={run} caseId={id} run={kept.data} />;
}

function Going({ caseId, run }: { caseId: string; run: Schema["ChairRun"] }) {
  const { keeper, standing } = useRunKeeper(caseId, run);
  return <ChairView caseId={caseId} run={run} keeper={keeper} standing={standing} />;
}
