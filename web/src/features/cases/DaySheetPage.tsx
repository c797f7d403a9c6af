import { Link } from "react-router";
import { toast } from "sonner";
import type { Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { type Verdict, VerdictMark } from "@/ui/VerdictMark";
import { useArchiveCase, useCases } from "./cases";
import { className } from "./words";

/** The day's cases, newest change first. */
export function DaySheetPage() {
  const cases = useCases();
  return (
    <main className="mx-auto h-full max-w-5xl overflow-auto p-6">
      <div className="mb-4 flex items-center">
        <h1 className="text-xl font-bold">Day sheet</h1>
        <Link to="/cases/new" className="ml-auto rounded bg-accent px-3 py-1.5 text-paper">
          New case
        </Link>
      </div>
      {cases.isPending && <p className="text-soft">Reading the cases…</p>}
      {cases.isError && (
        <Notice tone="warn" title="The cases could not be read">
          <Button className="mt-2" onClick={() => cases.refetch()}>
            Try again
          </Button>
        </Notice>
      )}
      {cases.data?.length === 0 && (
        <Notice title="No case yet">
          Start one: three answers, which tooth, what is wrong and how deep, give a complete plan.
        </Notice>
      )}
      {cases.data && cases.data.length > 0 && (
        <table className="w-full border-collapse">
          <thead className="text-left text-soft">
            <tr className="border-b border-line">
              {["Patient", "Tooth", "Plan", "State", "Changed"].map((h) => (
                <th key={h} scope="col" className="px-2 py-2 font-normal">
                  {h}
                </th>
              ))}
              <th scope="col">
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {cases.data.map((c) => (
              <CaseRow key={c.id} summary={c} />
            ))}
          </tbody>
        </table>
      )}
    </main>
  );
}

function CaseRow({ summary: c }: { summary: Schema["CaseSummary"] }) {
  const archive = useArchiveCase();
  const planned = c.verdict === "met" || c.verdict === "near" || c.verdict === "missed";
  return (
    <tr className="border-b border-line hover:bg-panel">
      <td className="px-2 py-2 font-mono">{c.patient}</td>
      <td className="px-2 py-2">
        <Link to={`/cases/${c.id}`} className="text-accent underline-offset-2 hover:underline">
          <span className="mr-2 font-mono">{c.tooth}</span>
          {c.tooth_name}
        </Link>
      </td>
      <td className="px-2 py-2">
        {[c.class && className(c.class), c.material, c.school].filter(Boolean).join(", ") || "to be proposed"}
      </td>
      <td className="px-2 py-2">
        <span className="flex items-center gap-2">
          {planned ? <VerdictMark verdict={c.verdict as Verdict} /> : null}
          {c.revisions > 0 ? `revision ${c.revisions}` : "draft"}
        </span>
      </td>
      <td className="px-2 py-2 text-soft">
        {new Date(c.updated_at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
      </td>
      <td className="px-2 py-2 text-right">
        <Button
          onClick={() =>
            archive.mutate(c.id, {
              onSuccess: () => toast(`${c.patient}, tooth ${c.tooth}, is archived`),
              onError: (e) => toast.error(e.message),
            })
          }
        >
          Archive
        </Button>
      </td>
    </tr>
  );
}
