import { DropdownMenu } from "radix-ui";
import { type KeyboardEvent, useEffect, useRef } from "react";
import { Link, useNavigate } from "react-router";
import { toast } from "sonner";
import { inWords, type Schema } from "@/api/client";
import { useMay } from "@/features/session/session";
import { MenuItem, MenuPanel } from "@/ui/Menu";
import { type Verdict, VerdictMark, verdictNames } from "@/ui/VerdictMark";
import { useArchiving } from "./cases";
import { Emblem } from "./Emblem";
import { className } from "./words";

type Entry = Schema["CaseSummary"];

interface Props {
  cases: Entry[];
  archived: boolean;
  /** Whether a patient's cases stand together, under the code. */
  grouped: boolean;
}

export function CaseTable({ cases, archived, grouped }: Props) {
  const archiving = useArchiving();
  const table = useRef<HTMLTableElement>(null);

  const leaving = useRef<{ id: string; row: number }>(undefined);

  function move(c: Entry, archive: boolean) {
    const named = `${c.patient}, tooth ${c.tooth},`;
    archiving.mutate(
      { id: c.id, archive },
      {
        onSuccess: () => {
          toast(archive ? `${named} is archived` : `${named} is back on the day sheet`, {
            action: { label: "Undo", onClick: () => move(c, !archive) },
          });
        },
        onError: (e) => toast.error(inWords(e)),
      },
    );
  }

  const links = () => [...(table.current?.querySelectorAll<HTMLElement>("[data-case]") ?? [])];

  // A row has gone: the next one, or the table, is where the work goes on.
  useEffect(() => {
    const gone = leaving.current;
    if (!gone || cases.some((c) => c.id === gone.id)) return;
    leaving.current = undefined;
    const all = table.current?.querySelectorAll<HTMLElement>("[data-case]") ?? [];
    (all[gone.row] ?? all[gone.row - 1] ?? table.current)?.focus();
  }, [cases]);

  function onKey(e: KeyboardEvent) {
    const all = links();
    const at = all.indexOf(e.target as HTMLElement);
    if (at < 0) return;
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: all.length - 1 }[e.key];
    if (to === undefined) return;
    e.preventDefault();
    all[to]?.focus();
  }

  return (
    <div className="overflow-x-auto">
      <table ref={table} tabIndex={-1} className="w-full border-collapse outline-none" onKeyDown={onKey}>
        <thead className="text-left text-soft">
          <tr className="border-b border-line">
            {["Patient", "Tooth", "Plan", "Verdict", "State", archived ? "Archived" : "Changed", "By"].map(
              (h) => (
                <th key={h} scope="col" className="px-2 py-1.5 font-normal">
                  {h}
                </th>
              ),
            )}
            <th scope="col">
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        {groupsOf(cases, grouped).map(({ key, entries }) => (
          <tbody key={key}>
            {entries.map((c, n) => (
              <CaseRow
                key={c.id}
                entry={c}
                rows={n === 0 ? entries.length : 0}
                onMove={() => {
                  leaving.current = { id: c.id, row: cases.indexOf(c) };
                  move(c, !archived);
                }}
              />
            ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}

interface Group {
  /** Stays the same whichever of its cases comes first: what is open in a row would close. */
  key: string;
  entries: Entry[];
}

/** Neighbouring entries of one patient together. */
function groupsOf(cases: Entry[], grouped: boolean): Group[] {
  if (!grouped) return cases.map((c) => ({ key: c.id, entries: [c] }));
  const groups: Group[] = [];
  const times = new Map<string, number>();
  for (const c of cases) {
    const last = groups.at(-1);
    if (last?.entries[0]?.patient === c.patient) {
      last.entries.push(c);
      continue;
    }
    const nth = (times.get(c.patient) ?? 0) + 1;
    times.set(c.patient, nth);
    groups.push({ key: `${c.patient} ${nth}`, entries: [c] });
  }
  return groups;
}

interface RowProps {
  entry: Entry;
  /** Rows that the patient's code stands for; 0 in those after the first. */
  rows: number;
  onMove: () => void;
}

function CaseRow({ entry: c, rows, onMove }: RowProps) {
  const plan = [c.class && `${className(c.class)} ${c.surfaces}`, c.material, c.school].filter(Boolean);
  return (
    <tr className="border-b border-line hover:bg-panel">
      {rows > 0 && (
        <th
          scope="rowgroup"
          rowSpan={rows}
          className="px-2 py-2.5 text-left align-top font-mono whitespace-nowrap"
        >
          {c.patient}
        </th>
      )}
      <td className="px-2 py-1">
        <Link
          data-case={c.id}
          to={`/cases/${c.id}`}
          className="flex items-center gap-3 text-accent underline-offset-2 hover:underline"
        >
          <Emblem emblem={c.emblem} />
          <span>
            <span className="sr-only">{c.patient}, </span>
            <span className="mr-2 font-mono">{c.tooth}</span>
            {c.tooth_name}
          </span>
        </Link>
      </td>
      <td className="px-2 py-1">{plan.join(", ") || "to be proposed"}</td>
      <td className="max-w-64 px-2 py-1">
        <VerdictOf entry={c} />
      </td>
      <td className="px-2 py-1 text-soft xl:whitespace-nowrap">
        {c.revisions > 0 ? `revision ${c.revisions}` : "draft"}
      </td>
      <td className="px-2 py-1 text-soft xl:whitespace-nowrap">{shortTime(c.archived_at ?? c.updated_at)}</td>
      <td className="px-2 py-1 text-soft xl:whitespace-nowrap">{c.by}</td>
      <td className="px-2 py-1 text-right">
        <RowMenu entry={c} onMove={onMove} />
      </td>
    </tr>
  );
}

/** The time of a change, with the year only where it is another one. */
function shortTime(at: string): string {
  const then = new Date(at);
  const year = then.getFullYear() === new Date().getFullYear() ? undefined : "numeric";
  const day = then.toLocaleDateString("en-GB", { day: "numeric", month: "short", year });
  return `${day}, ${then.toLocaleTimeString("en-GB", { timeStyle: "short" })}`;
}

/** The worst verdict of the plan that the draft leads to. */
function VerdictOf({ entry: c }: { entry: Entry }) {
  if (!c.planned) return <span className="text-soft">being planned…</span>;
  if (c.verdict === "refused") {
    return (
      <span title={c.refused}>
        refused
        <span className="line-clamp-1 text-soft text-xs">{c.refused}</span>
      </span>
    );
  }
  const verdict = c.verdict as Verdict;
  return (
    <span className="flex items-center gap-2">
      <VerdictMark verdict={verdict} />
      <span aria-hidden>{verdictNames[verdict]}</span>
    </span>
  );
}

function RowMenu({ entry: c, onMove }: { entry: Entry; onMove: () => void }) {
  const go = useNavigate();
  const mayStart = useMay("start_case");
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={`Actions for ${c.patient} ${c.tooth}`}
        className="rounded px-2.5 py-1.5 hover:bg-accent-ground data-[state=open]:bg-accent-ground"
      >
        <span aria-hidden>⋯</span>
      </DropdownMenu.Trigger>
      <MenuPanel>
        <MenuItem onSelect={() => go(`/cases/${c.id}`)}>Open</MenuItem>
        {mayStart && (
          <MenuItem onSelect={() => go(`/cases/new?patient=${c.patient}`)}>New case of {c.patient}</MenuItem>
        )}
        {c.planned && c.verdict !== "refused" && (
          <MenuItem onSelect={() => window.open(`/api/cases/${c.id}/files/card.pdf`, "_blank")}>
            Chairside card
          </MenuItem>
        )}
        {c.may.includes("archive_case") && (
          <MenuItem onSelect={onMove}>{c.archived_at ? "Bring back" : "Archive"}</MenuItem>
        )}
      </MenuPanel>
    </DropdownMenu.Root>
  );
}
