import { Link, useParams } from "react-router";
import { toast } from "sonner";
import { inWords, type Schema } from "@/api/client";
import { useEdited } from "@/app/useEdited";
import { useLeaving } from "@/app/useLeaving";
import { useSchools } from "@/features/cases/cases";
import { Button } from "@/ui/Button";
import { KeepBar } from "@/ui/KeepBar";
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
  return <Rules kept={rules.data} />;
}

function Rules({ kept }: { kept: Schema["HouseRules"] }) {
  const edited = useEdited(kept, (d) => d.document.criteria);
  const { value: criteria, changed } = edited;
  const original = edited.from.document;
  const schools = useSchools();
  const save = useSaveHouseRules(kept.id);
  const base = schools.data?.find((s) => s.id === kept.base);
  const labels = new Map(base?.criteria.map((c) => [c.id, c.label]));
  const archiving = useArchivingRules(kept.id);
  useLeaving(changed, "The changed rules are not kept. Leave all the same?");
  const set = (n: number, c: Criterion) => edited.set(criteria.map((own, k) => (k === n ? c : own)));

  return (
    <main className="h-full overflow-auto p-6">
      <KeepBar
        title={original.name}
        about={`after ${base?.name ?? kept.base}, version ${kept.version} by ${kept.by}${kept.archived ? ", archived" : ""}`}
        what={`as version ${kept.version + 1}`}
        edited={edited}
        ready={true}
        saving={save.isPending}
        error={save.error}
        onKeep={() =>
          save.mutate(
            { ...original, criteria },
            {
              onSuccess: (v) => {
                edited.discard();
                toast(`Kept as version ${v.version}. Plans fixed before keep theirs.`);
              },
            },
          )
        }
      >
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
      </KeepBar>
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
