import clsx from "clsx";
import type { Schema } from "@/api/client";
import { type Verdict, VerdictMark, worstVerdict } from "@/ui/VerdictMark";

/** The forms of a preparation in their working order. */
export const forms = [
  { id: "outline", name: "Outline" },
  { id: "resistance", name: "Resist" },
  { id: "retention", name: "Retain" },
  { id: "convenience", name: "Clear" },
  { id: "finish", name: "Finish" },
];

/** Stands beside the forms: what holds the filling, and what the cavity costs. */
export const forcesView = "forces";

interface Props {
  checks: Schema["Check"][];
  current: string;
  onSelect: (form: string) => void;
}

/** A narrow rail: each form with its worst verdict. */
export function FormRail({ checks, current, onSelect }: Props) {
  return (
    <nav
      aria-label="Forms"
      className="flex w-20 shrink-0 flex-col border-r border-line bg-panel max-lg:w-full max-lg:flex-row max-lg:justify-around max-lg:border-r-0 max-lg:border-b"
    >
      {forms.map((f) => {
        const worst = worstVerdict(checks.filter((c) => c.form === f.id).map((c) => c.verdict as Verdict));
        return (
          <button
            key={f.id}
            type="button"
            aria-current={current === f.id ? "true" : undefined}
            onClick={() => onSelect(f.id)}
            className={clsx(
              "flex flex-col items-center gap-1 border-l-4 py-3",
              current === f.id
                ? "border-accent bg-sheet font-bold"
                : "border-transparent hover:bg-accent-ground",
            )}
          >
            <VerdictMark verdict={worst} />
            {f.name}
          </button>
        );
      })}
      <button
        type="button"
        aria-current={current === forcesView ? "true" : undefined}
        onClick={() => onSelect(forcesView)}
        className={clsx(
          "flex flex-col items-center gap-1 border-l-4 py-3 lg:border-t lg:border-t-line",
          current === forcesView
            ? "border-l-accent bg-sheet font-bold"
            : "border-l-transparent hover:bg-accent-ground",
        )}
      >
        <svg width="18" height="18" viewBox="-9 -9 18 18" aria-hidden="true">
          <path d="M0 8V-6M-4 -2L0 -7L4 -2" fill="none" stroke="var(--soft)" strokeWidth="2" />
        </svg>
        Forces
      </button>
    </nav>
  );
}
