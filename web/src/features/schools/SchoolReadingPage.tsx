import clsx from "clsx";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useSchools } from "@/features/cases/cases";
import { Notice } from "@/ui/Notice";
import { AskedList, reasons } from "./AskedList";
import { holdsWords, readingRows } from "./reading";

/** A school to read: its figures with their reasons, and how another differs. */
export function SchoolReadingPage() {
  const { id } = useParams();
  const [search, setSearch] = useSearchParams();
  const schools = useSchools();
  const school = schools.data?.find((s) => s.id === id);
  const beside = schools.data?.find((s) => s.id === search.get("beside"));
  // The address follows what is typed; it may come later than the next letter.
  const [words, setWords] = useState(search.get("words") ?? "");
  const [onlyDiffering, setOnlyDiffering] = useState(search.get("differ") === "1");
  const set = (key: string, value: string) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  if (schools.isPending) return <p className="p-10 text-soft">One moment…</p>;
  if (!school)
    return (
      <main className="mx-auto max-w-5xl p-6">
        <Notice tone="warn" title="There is no such school">
          <Link className="text-accent underline" to="/schools">
            All schools
          </Link>
        </Notice>
      </main>
    );
  const rows = readingRows(school, beside).filter(
    (row) => holdsWords(row, words) && (!beside || !onlyDiffering || row.differ),
  );
  return (
    <main className="mx-auto h-full max-w-5xl overflow-auto p-6">
      <Link className="text-accent underline" to="/schools">
        All schools
      </Link>
      <h1 className="mt-2 text-xl font-bold">
        {school.name} <span className="font-normal text-soft">{school.title}</span>
      </h1>
      <p className="mt-1 text-soft">{school.summary}</p>
      {school.instruments.length > 0 && (
        <p className="mt-1 text-soft">
          Opens and extends with <b className="text-ink">{school.instruments.join(", ")}</b>, where they do
          the work.
        </p>
      )}
      <div className="my-4 flex flex-wrap items-end gap-4">
        <label className="flex flex-col font-bold">
          Search
          <input
            type="search"
            className="mt-1 w-72 rounded border border-line bg-sheet px-2.5 py-1.5 font-normal"
            placeholder="isthmus, bevel, 1.5"
            value={words}
            onChange={(e) => {
              setWords(e.target.value);
              set("words", e.target.value);
            }}
          />
        </label>
        <label className="flex flex-col font-bold">
          Beside it
          <select
            className="mt-1 rounded border border-line bg-sheet px-2.5 py-1.5 font-normal"
            value={beside?.id ?? ""}
            onChange={(e) => set("beside", e.target.value)}
          >
            <option value="">no other school</option>
            {schools.data
              ?.filter((s) => s.id !== school.id)
              .map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
          </select>
        </label>
        {beside && (
          <label className="flex items-center gap-1.5 pb-2">
            <input
              type="checkbox"
              className="size-4 accent-accent"
              checked={onlyDiffering}
              onChange={(e) => {
                setOnlyDiffering(e.target.checked);
                set("differ", e.target.checked ? "1" : "");
              }}
            />
            Only where they differ
          </label>
        )}
        <span className="ml-auto pb-2 text-soft" role="status">
          {rows.length} {rows.length === 1 ? "criterion" : "criteria"}
        </span>
      </div>
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-line text-soft">
            <th scope="col" className="py-1 pr-4 font-normal">
              Criterion
            </th>
            <th scope="col" className="py-1 pr-4 font-normal">
              {school.name}
            </th>
            {beside && (
              <th scope="col" className="py-1 pr-4 font-normal">
                {beside.name}
              </th>
            )}
            <th scope="col" className="py-1 font-normal">
              Why
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={row.id}
              className={clsx("border-b border-line align-top", row.differ && "bg-accent-ground")}
            >
              <th scope="row" className="py-1.5 pr-4 font-bold">
                {row.label}
                {row.differ && <span className="sr-only"> (differs)</span>}
              </th>
              <td className="py-1.5 pr-4">
                <AskedList asked={row.asked} />
              </td>
              {beside && (
                <td className="py-1.5 pr-4">
                  <AskedList asked={row.beside} />
                </td>
              )}
              <td className="max-w-md py-1.5 text-soft">
                {reasons(row.asked.length ? row.asked : row.beside)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && (
        <p className="py-6 text-soft">Nothing here holds these words. Try fewer of them.</p>
      )}
    </main>
  );
}
