import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { toast } from "sonner";
import { ApiProblem, inWords, type Schema } from "@/api/client";
import { useLeaving } from "@/app/useLeaving";
import { useSchools } from "@/features/cases/cases";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { CriterionRow } from "./CriterionRow";
import { OpenCases } from "./OpenCases";
import { type Criterion, useArchivingRules, useHouseRules, useSaveHouseRules } from "./schools";

/** House rules, figure by figure; saving keeps a new version. */
export function HouseRulesPage() {
  const { id = "" } = useParams();
  const rules = useHouseRules(id);
  if (rules.isError) {
    return (
      <main className="mx-auto max-w-xl p-10">
        <Notice tone="warn" title="There are no such house rules">
          <Link className="text-accent underline" to="/schools">
            To the schools
          </Link>
        </Notice>
      </main>
    );
  }
  if (!rules.data) return <p className="p-10 text-soft">Reading the rules…</p>;
  return <Rules key={rules.data.version} kept={rules.data} />;
}

function Rules({ kept }: { kept: Schema["HouseRules"] }) {
  const original = kept.document;
  const [criteria, setCriteria] = useState(original.criteria);
  const top = useRef<HTMLHeadingElement>(null);
  const schools = useSchools();
  const save = useSaveHouseRules(kept.id);
  const base = schools.data?.find((s) => s.id === kept.base);
  const labels = new Map(base?.criteria.map((c) => [c.id, c.label]));
  const changed = criteria !== original.criteria;
  const archiving = useArchivingRules(kept.id);
  useLeaving(changed, "The changed rules are not kept. Leave all the same?");
  const problem = save.error instanceof ApiProblem ? save.error : undefined;
  const set = (n: number, c: Criterion) => setCriteria(criteria.map((own, k) => (k === n ? c : own)));

  return (
    <main className="h-full overflow-auto p-6">
      <div className="sticky -top-6 z-10 -mt-6 flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line bg-paper py-3">
        <h1 ref={top} tabIndex={-1} className="text-xl font-bold outline-none">
          {original.name}
        </h1>
        <span className="text-soft">
          after {base?.name ?? kept.base}, version {kept.version} by {kept.by}
          {kept.archived && ", archived"}
        </span>
        <div className="ml-auto flex gap-2">
          <Button
            disabled={archiving.isPending}
            onClick={() =>
              archiving.mutate(!kept.archived, {
                onSuccess: () =>
                  toast(
                    kept.archived
                      ? `${original.name} is offered again`
                      : `${original.name} is archived: plans made under it keep it`,
                  ),
                onError: (e) => toast.error(inWords(e)),
              })
            }
          >
            {kept.archived ? "Bring back" : "Archive"}
          </Button>
          <Button
            disabled={!changed}
            onClick={() => {
              top.current?.focus(); // the button goes out of use
              setCriteria(original.criteria);
            }}
          >
            Leave as it was
          </Button>
          <Button
            kind="main"
            disabled={!changed || save.isPending}
            onClick={() =>
              save.mutate(
                { ...original, criteria },
                { onSuccess: (v) => toast(`Kept as version ${v.version}. Plans fixed before keep theirs.`) },
              )
            }
          >
            Keep as version {kept.version + 1}
          </Button>
        </div>
        {save.isError && (
          <div className="basis-full">
            <Notice tone="warn" title={problem?.problem.title ?? "The server does not answer"}>
              {problem?.problem.detail}
              {problem?.faults.map((f) => (
                <p key={f.message}>{f.message}</p>
              ))}
              {!problem && "Your changes are still here. Check that it runs, then keep them again."}
            </Notice>
          </div>
        )}
      </div>
      <table className="mt-3 w-full border-collapse">
        <thead className="text-left text-soft">
          <tr className="border-b border-line">
            {["Figure", "Holds for", "Asked", "Target", "Limits", "Aim", "If missed"].map((h) => (
              <th key={h} scope="col" className="py-1.5 pr-3 font-normal">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {criteria.map((c, n) => (
            <CriterionRow
              // biome-ignore lint/suspicious/noArrayIndexKey: criteria keep their order, and ids repeat
              key={n}
              criterion={c}
              original={original.criteria[n]}
              label={labels.get(c.id) || c.id}
              onChange={(own) => set(n, own)}
            />
          ))}
        </tbody>
      </table>
      <OpenCases school={kept.id} unsaved={changed} />
    </main>
  );
}
