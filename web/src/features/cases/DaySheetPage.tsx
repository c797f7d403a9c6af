import { type RefObject, useEffect, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { inWords } from "@/api/client";
import { useUndecided } from "@/features/drafts/keepers";
import { useMay } from "@/features/session/session";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { CaseTable } from "./CaseTable";
import { type Listing, type Order, pageSize, useCases } from "./cases";

const orders: [Order, string][] = [
  ["newest", "Newest first"],
  ["patient", "Patient"],
  ["tooth", "Tooth"],
  ["worst", "Worst verdict first"],
];

const quiet = 250; // ms after the last letter before it is searched for

/** The day's cases, or those in the archive: searched, sorted, page by page. */
export function DaySheetPage() {
  const { listing, change } = useListing();
  const cases = useCases(listing);
  const mayStart = useMay("start_case");
  const pages = Math.max(1, Math.ceil((cases.data?.total ?? 0) / pageSize));
  const search = useRef<HTMLInputElement>(null);
  useSlash(search);
  return (
    <main className="mx-auto h-full max-w-6xl overflow-auto p-6 max-md:p-3">
      <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="text-xl font-bold">{listing.archived ? "Archive" : "Day sheet"}</h1>
        <SearchField ref={search} words={listing.words} onWords={(words) => change({ words, page: 1 })} />
        <label className="flex items-center gap-1.5 text-soft">
          Sort
          <select
            className="rounded border border-line bg-sheet px-2 py-1.5 text-ink"
            value={listing.order}
            onChange={(e) => change({ order: e.target.value as Order, page: 1 })}
          >
            {orders.map(([order, label]) => (
              <option key={order} value={order}>
                {label}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5 text-soft">
          <input
            type="checkbox"
            className="size-4 accent-accent"
            checked={listing.archived}
            onChange={(e) => change({ archived: e.target.checked, page: 1 })}
          />
          Archive
        </label>
        {mayStart && (
          <Link to="/cases/new" className="ml-auto rounded bg-accent px-3 py-1.5 text-paper">
            New case
          </Link>
        )}
      </div>
      <Unsaved />
      {cases.isPending && <p className="text-soft">Reading the cases…</p>}
      {cases.isError && (
        <Notice tone="warn" title="The cases could not be read">
          {inWords(cases.error)}
          <Button className="mt-2 block" onClick={() => cases.refetch()}>
            Try again
          </Button>
        </Notice>
      )}
      <p role="status" className="sr-only">
        {cases.data && !cases.isPlaceholderData ? found(cases.data.total, listing) : ""}
      </p>
      {cases.data?.cases.length === 0 && <Empty listing={listing} mayStart={mayStart} />}
      {cases.data && cases.data.cases.length > 0 && (
        <CaseTable
          cases={cases.data.cases}
          archived={listing.archived}
          grouped={listing.order === "newest" || listing.order === "patient"}
          key={String(listing.archived)}
        />
      )}
      {pages > 1 && (
        <nav aria-label="Pages" className="mt-4 flex items-center gap-3">
          <Button disabled={listing.page <= 1} onClick={() => change({ page: listing.page - 1 })}>
            Previous
          </Button>
          <span>
            Page {listing.page} of {pages}, {found(cases.data?.total ?? 0, listing)}
          </span>
          <Button disabled={listing.page >= pages} onClick={() => change({ page: listing.page + 1 })}>
            Next
          </Button>
        </nav>
      )}
    </main>
  );
}

function found(total: number, { archived, words }: Listing): string {
  return `${total} ${total === 1 ? "case" : "cases"}${words ? " found" : archived ? " in the archive" : ""}`;
}

/** What is listed stands in the address, so that the way back leads there. */
function useListing() {
  const [params, setParams] = useSearchParams();
  // The address follows a moment later: what is chosen shows at once.
  const [listing, setListing] = useState<Listing>(() => ({
    archived: params.get("archive") === "yes",
    words: params.get("q") ?? "",
    order: orders.find(([known]) => known === params.get("sort"))?.[0] ?? "newest",
    page: Math.max(1, Math.floor(Number(params.get("page"))) || 1),
  }));
  function change(by: Partial<Listing>) {
    const next = { ...listing, ...by };
    setListing(next);
    const kept: Record<string, string> = {};
    if (next.archived) kept.archive = "yes";
    if (next.words) kept.q = next.words;
    if (next.order !== "newest") kept.sort = next.order;
    if (next.page > 1) kept.page = String(next.page);
    setParams(kept, { replace: true });
  }
  return { listing, change };
}

/** The slash key leads to the search, as long as nothing is typed elsewhere. */
function useSlash(search: RefObject<HTMLInputElement | null>) {
  useEffect(() => {
    function onKey(e: KeyboardEvent) {
      const typing = e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement;
      if (e.key !== "/" || typing || e.ctrlKey || e.metaKey || e.altKey) return;
      e.preventDefault();
      search.current?.focus();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [search]);
}

interface SearchProps {
  ref: RefObject<HTMLInputElement | null>;
  words: string;
  onWords: (words: string) => void;
}

function SearchField({ ref, words, onWords }: SearchProps) {
  const [typed, setTyped] = useState(words);
  const told = useRef(onWords);
  told.current = onWords;
  useEffect(() => {
    if (typed.trim() === words) return;
    const wait = setTimeout(() => told.current(typed.trim()), quiet);
    return () => clearTimeout(wait);
  }, [typed, words]);
  return (
    <input
      ref={ref}
      type="search"
      aria-label="Search"
      title="Key /"
      placeholder="Search tooth, code, class, school, verdict"
      className="min-w-40 max-w-80 grow rounded border border-line bg-sheet px-2.5 py-1.5"
      value={typed}
      maxLength={100}
      onChange={(e) => setTyped(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === "Escape") setTyped("");
        if (e.key === "ArrowDown") document.querySelector<HTMLElement>("[data-case]")?.focus();
      }}
    />
  );
}

function Unsaved() {
  const waiting = useUndecided();
  if (waiting.length === 0) return null;
  return (
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
  );
}

function Empty({ listing, mayStart }: { listing: Listing; mayStart: boolean }) {
  if (listing.words) {
    return (
      <Notice title={`Nothing is found by "${listing.words}"`}>
        Every word must be found: a patient's code, a tooth in any notation or its name, a class, a surface, a
        school, a material, met, near, missed or refused.
        {!listing.archived && " The archive is searched when it is open."}
      </Notice>
    );
  }
  if (listing.archived) {
    return (
      <Notice title="The archive is empty">
        Cases that you archive come here, with their revisions, and can be brought back.
      </Notice>
    );
  }
  return (
    <Notice title="No case yet">
      {mayStart
        ? "Start one: three answers, which tooth, what is wrong and how deep, give a complete plan."
        : "Cases that others start appear here."}
    </Notice>
  );
}
