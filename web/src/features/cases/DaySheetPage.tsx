import { useRef, useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { inWords, type Schema } from "@/api/client";
import { useUndecided } from "@/features/drafts/keepers";
import { useMay } from "@/features/session/session";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { type Verdict, VerdictMark } from "@/ui/VerdictMark";
import { useArchiving, useCases } from "./cases";
import { className } from "./words";

/** The day's cases, newest change first; or those in the archive. */
export function DaySheetPage() {
  const [archived, setArchived] = useState(false);
  const cases = useCases(archived);
  const mayStart = useMay("start_case");
  const waiting = useUndecided();
  return (
    <main className="mx-auto h-full max-w-5xl overflow-auto p-6">
      <div className="mb-4 flex flex-wrap items-center gap-4">
        <h1 className="text-xl font-bold">Day sheet</h1>
        <label className="flex items-center gap-1.5 text-soft">
          <input
            type="checkbox"
            className="size-4 accent-accent"
            checked={archived}
            onChange={(e) => setArchived(e.target.checked)}
          />
          Archive
        </label>
        {mayStart && (
          <Link to="/cases/new" className="ml-auto rounded bg-accent px-3 py-1.5 text-paper">
            New case
          </Link>
        )}
      </div>
      {waiting.length > 0 && (
        <div className="mb-4">
          <Notice tone="warn" title="Some changes are not saved">
            They are kept in this browser and need you:{" "}
            {waiting.map((id, n) => (
              <Link key={id} className="mr-3 text-accent underline" to={`/cases/${id}`}>
                open {waiting.length > 1 ? n + 1 : "the case"}
              </Link>
            ))}
          </Notice>
        </div>
      )}
      {cases.isPending && <p className="text-soft">Reading the cases…</p>}
      {cases.isError && (
        <Notice tone="warn" title="The cases could not be read">
          {inWords(cases.error)}
          <Button className="mt-2 block" onClick={() => cases.refetch()}>
            Try again
          </Button>
        </Notice>
      )}
      {cases.data?.length === 0 && (
        <Notice title={archived ? "The archive is empty" : "No case yet"}>
          {archived
            ? "Cases that you archive come here, with their revisions, and can be brought back."
            : mayStart
              ? "Start one: three answers, which tooth, what is wrong and how deep, give a complete plan."
              : "Cases that others start appear here."}
        </Notice>
      )}
      {cases.data && cases.data.length > 0 && (
        <CaseTable cases={cases.data} archived={archived} key={String(archived)} />
      )}
      {cases.hasNextPage && (
        <Button className="mt-4" disabled={cases.isFetchingNextPage} onClick={() => cases.fetchNextPage()}>
          {cases.isFetchingNextPage ? "Reading more…" : "Show more"}
        </Button>
      )}
    </main>
  );
}

function CaseTable({ cases, archived }: { cases: Schema["CaseSummary"][]; archived: boolean }) {
  const archiving = useArchiving();
  const table = useRef<HTMLTableElement>(null);

  function move(c: Schema["CaseSummary"], archive: boolean, after: () => void) {
    const named = `${c.patient}, tooth ${c.tooth},`;
    archiving.mutate(
      { id: c.id, archive },
      {
        onSuccess: () => {
          after();
          toast(archive ? `${named} is archived` : `${named} is back on the day sheet`, {
            action: { label: "Undo", onClick: () => move(c, !archive, () => undefined) },
          });
        },
        onError: (e) => toast.error(inWords(e)),
      },
    );
  }

  /** The row goes: the next one's button, or the table, is where the work goes on. */
  function focusAfter(row: number) {
    const buttons = table.current?.querySelectorAll<HTMLElement>("[data-row-action]") ?? [];
    const next = buttons[row + 1] ?? buttons[row - 1] ?? table.current;
    next?.focus();
  }

  return (
    <div className="overflow-x-auto">
      <table ref={table} tabIndex={-1} className="w-full border-collapse outline-none">
        <thead className="text-left text-soft">
          <tr className="border-b border-line">
            {["Patient", "Tooth", "Plan", "State", archived ? "Archived" : "Changed", "By"].map((h) => (
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
          {cases.map((c, n) => (
            <CaseRow key={c.id} summary={c} onMove={() => move(c, !archived, () => focusAfter(n))} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function CaseRow({ summary: c, onMove }: { summary: Schema["CaseSummary"]; onMove: () => void }) {
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
        {new Date(c.archived_at ?? c.updated_at).toLocaleString("en-GB", {
          dateStyle: "medium",
          timeStyle: "short",
        })}
      </td>
      <td className="px-2 py-2 text-soft">{c.by}</td>
      <td className="px-2 py-2 text-right">
        {c.may.includes("archive_case") && (
          <Button
            data-row-action
            onClick={onMove}
            aria-label={`${c.archived_at ? "Bring back" : "Archive"} ${c.patient} ${c.tooth}`}
          >
            {c.archived_at ? "Bring back" : "Archive"}
          </Button>
        )}
      </td>
    </tr>
  );
}
