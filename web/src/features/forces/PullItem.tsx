import clsx from "clsx";
import type { Schema } from "@/api/client";
import { VerdictShape } from "@/ui/VerdictMark";

const states = { held: "met", fit: "near", free: "missed" } as const;
const stateNames = { held: "held", fit: "by fit alone", free: "free" } as const;

/** One pull: its figure, and what holds it where it is lit. */
export function PullItem({
  pull,
  lit,
  onSelect,
}: {
  pull: Schema["Pull"];
  lit: boolean;
  onSelect: () => void;
}) {
  return (
    <li data-pull={pull.name} data-state={pull.state}>
      <button
        type="button"
        aria-pressed={lit}
        onClick={onSelect}
        className={clsx(
          "flex w-full items-start gap-2 rounded border px-2 py-1.5 text-left",
          lit ? "border-accent bg-accent-ground" : "border-line bg-sheet",
        )}
      >
        <svg
          width="18"
          height="18"
          viewBox="-9 -9 18 18"
          role="img"
          aria-label={stateNames[pull.state]}
          className="mt-0.5 shrink-0"
        >
          <VerdictShape verdict={states[pull.state]} />
        </svg>
        {lit ? (
          <span>{pull.text}</span>
        ) : (
          <>
            <span className="flex-1">
              {pull.name}
              {pull.turns && `, ${pull.side}`}
            </span>
            <b className="font-mono">{pull.mm > 0 ? pull.mm.toFixed(2) : stateNames[pull.state]}</b>
          </>
        )}
      </button>
    </li>
  );
}
