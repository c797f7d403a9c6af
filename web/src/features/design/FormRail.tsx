import clsx from "clsx";
import type { ReactNode } from "react";
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

/** And what the cavity is filled with, portion by portion. */
export const fillingView = "filling";

/** And what comes before the bur, and lies ready for all of it. */
export const trayView = "tray";

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
      <Aside id={forcesView} name="Forces" current={current} onSelect={onSelect} first>
        <path d="M0 8V-6M-4 -2L0 -7L4 -2" fill="none" stroke="var(--soft)" strokeWidth="2" />
      </Aside>
      <Aside id={fillingView} name="Fill" current={current} onSelect={onSelect}>
        <path d="M-8 -6H-4V6H4V-6H8M-4 2H4M-4 -2H4" fill="none" stroke="var(--soft)" strokeWidth="2" />
      </Aside>
      <Aside id={trayView} name="Tray" current={current} onSelect={onSelect}>
        <path d="M-8 -3L-6 5H6L8 -3M-3 3V-7M1 3L4 -7" fill="none" stroke="var(--soft)" strokeWidth="2" />
      </Aside>
    </nav>
  );
}

interface AsideProps {
  id: string;
  name: string;
  current: string;
  /** The first of those that stand beside the forms. */
  first?: boolean;
  onSelect: (form: string) => void;
  children: ReactNode;
}

function Aside({ id, name, current, first, onSelect, children }: AsideProps) {
  return (
    <button
      type="button"
      aria-current={current === id ? "true" : undefined}
      onClick={() => onSelect(id)}
      className={clsx(
        "flex flex-col items-center gap-1 border-l-4 py-3",
        first && "lg:border-t lg:border-t-line",
        current === id ? "border-l-accent bg-sheet font-bold" : "border-l-transparent hover:bg-accent-ground",
      )}
    >
      <svg width="18" height="18" viewBox="-9 -9 18 18" aria-hidden="true">
        {children}
      </svg>
      {name}
    </button>
  );
}
