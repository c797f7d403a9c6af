import { useId } from "react";
import type { CaseDocument, Schema } from "@/api/client";
import { enter, entered, evidence } from "@/features/cases/evidence";

interface Props {
  advice: Schema["Advice"];
  document: CaseDocument;
  readOnly: boolean;
  onEnter: (document: CaseDocument) => void;
  /** Unfolded at first, as where nothing is cut and it is all that decides. */
  open?: boolean;
}

/** What does not go together, and what was not entered and would count: each is a choice away. */
export function Assumed({ advice, document, readOnly, onEnter, open }: Props) {
  const { questions = [], assumed = [] } = advice;
  if (questions.length + assumed.length === 0) return null;
  const labels = [...new Set(assumed.map((a) => evidence[a.field]?.label.toLowerCase() ?? a.field))];
  return (
    <section aria-label="Taken as" className="mb-2 rounded border border-line bg-sheet px-2 py-1.5">
      {questions.map((q) => (
        <p key={q} role="alert" className="font-bold text-warn">
          {q}
        </p>
      ))}
      {assumed.length > 0 && (
        <details open={open}>
          <summary className="cursor-pointer text-accent">Not entered: {labels.join(", ")}</summary>
          {assumed.map((a) => (
            <Entry
              key={`${a.field} ${a.finding}`}
              assumption={a}
              document={document}
              readOnly={readOnly}
              onEnter={onEnter}
            />
          ))}
        </details>
      )}
    </section>
  );
}

/** One of them, with what was taken for it. */
function Entry({
  assumption,
  document,
  readOnly,
  onEnter,
}: Pick<Props, "document" | "readOnly" | "onEnter"> & { assumption: Schema["Assumption"] }) {
  const id = useId();
  const asked = evidence[assumption.field];
  return (
    <div className="mt-1.5 text-xs">
      <label htmlFor={id} className="text-soft">
        {assumption.says}
      </label>
      <select
        id={id}
        className="mt-0.5 block rounded border border-line bg-sheet px-2 py-0.5 text-ink"
        disabled={readOnly}
        value={entered(document, assumption)}
        onChange={(e) => onEnter(enter(document, assumption, e.target.value))}
      >
        {asked?.options.map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
    </div>
  );
}
