import { type FormEvent, useEffect, useRef, useState } from "react";
import { inWords, type Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { anyQuestion, useAnswering, useQuestion, useQuizResults } from "./quiz";
import type { Study } from "./study";

interface Props {
  study: Study;
  /** The place that was touched last, since the question was asked. */
  point?: number[];
  /** Shows places on the tooth, and whether the pulp must show through. */
  onShow: (marks: number[][], seeThrough: boolean) => void;
  onNext: () => void;
  onClose: () => void;
}

/** Asks about the tooth in hand, and grades the answers by its model. */
export function QuizPanel({ onClose, onNext, ...rest }: Props) {
  const [question, setQuestion] = useState(anyQuestion);
  return (
    <section className="border-b border-line px-3 py-2" aria-label="Quiz">
      <div className="flex items-center justify-between">
        <h2 className="font-bold">Quiz</h2>
        <button type="button" className="text-accent underline" onClick={onClose}>
          End the quiz
        </button>
      </div>
      <Asked
        key={question}
        question={question}
        onNext={() => {
          setQuestion(anyQuestion());
          onNext();
        }}
        {...rest}
      />
      <Results />
    </section>
  );
}

type AskedProps = Omit<Props, "onClose"> & { question: number };

function Asked({ study, question, point, onShow, onNext }: AskedProps) {
  const asked = useQuestion(study, question);
  const answering = useAnswering(study, question);
  const next = useRef<HTMLButtonElement>(null);
  const grade = answering.data;
  const { data } = asked;
  const shown = useRef(onShow);
  shown.current = onShow;
  // What is asked about is marked; once answered, what was touched and the truth.
  useEffect(() => {
    if (!data) return;
    const marks = [data.mark, grade?.at, data.kind === "touch" ? point : undefined];
    shown.current(
      marks.filter((m) => m !== undefined),
      data.see_through,
    );
  }, [data, grade, point]);
  useEffect(() => {
    if (grade) next.current?.focus();
  }, [grade]);

  if (asked.isError) return <p className="text-warn">{inWords(asked.error)}</p>;
  if (!data) return <p className="text-soft">Looking for a question…</p>;
  return (
    <div className="space-y-2">
      <p>{data.text}</p>
      {!grade && (
        <Answer question={data} point={point} busy={answering.isPending} onAnswer={answering.mutate} />
      )}
      {answering.isError && <p className="text-warn">{inWords(answering.error)}</p>}
      <p role="status">
        {grade && (
          <>
            <b className={grade.right ? "text-accent" : "text-warn"}>
              {grade.right ? "Right." : "Not right."}
            </b>{" "}
            {grade.says}
          </>
        )}
      </p>
      <button ref={next} type="button" className="text-accent underline" onClick={onNext}>
        {grade ? "Next question" : "Another question"}
      </button>
    </div>
  );
}

interface AnswerProps {
  question: Schema["QuizQuestion"];
  point?: number[];
  busy: boolean;
  onAnswer: (answer: Schema["QuizAnswer"]) => void;
}

/** The way a question is answered: by a name, a touch or a figure. */
function Answer({ question, point, busy, onAnswer }: AnswerProps) {
  switch (question.kind) {
    case "name":
      return (
        <div className="grid gap-1.5">
          {question.choices.map((choice) => (
            <Button key={choice} disabled={busy} onClick={() => onAnswer({ choice })}>
              {choice}
            </Button>
          ))}
        </div>
      );
    case "touch":
      return (
        <Button disabled={busy || !point} onClick={() => onAnswer({ point })}>
          {point ? "That is the place" : "Touch the tooth"}
        </Button>
      );
    default:
      return <Figure busy={busy} onAnswer={onAnswer} />;
  }
}

function Figure({ busy, onAnswer }: Pick<AnswerProps, "busy" | "onAnswer">) {
  const [typed, setTyped] = useState("");
  const mm = Number(typed.trim().replace(",", "."));
  const good = typed.trim() !== "" && Number.isFinite(mm) && mm >= 0;
  function submit(e: FormEvent) {
    e.preventDefault();
    if (good) onAnswer({ mm });
  }
  return (
    <form className="flex items-center gap-2" onSubmit={submit}>
      <input
        className="w-16 rounded border border-line bg-sheet px-2 py-1 text-right font-mono"
        inputMode="decimal"
        aria-label="Thickness, mm"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      mm
      <Button type="submit" disabled={busy || !good}>
        Answer
      </Button>
    </form>
  );
}

const kindNames: Record<Schema["QuizKind"], string> = {
  name: "names",
  touch: "places",
  thickness: "thicknesses",
};

/** What was answered so far; a question counts once. */
function Results() {
  const results = useQuizResults();
  if (!results.data?.length) return null;
  return (
    <table className="mt-2 w-full text-xs">
      <caption className="sr-only">Answers so far, right of all</caption>
      <thead className="text-soft">
        <tr>
          <th scope="col" className="text-left font-normal">
            Right so far
          </th>
          {Object.values(kindNames).map((name) => (
            <th key={name} scope="col" className="text-right font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {results.data.map((r) => (
          <tr key={`${r.own} ${r.name}`}>
            <th scope="row" className="text-left font-normal">
              {r.own ? "You" : r.name}
            </th>
            {Object.keys(kindNames).map((kind) => {
              const tally = r.kinds.find((k) => k.kind === kind);
              return (
                <td key={kind} className="text-right font-mono">
                  {tally ? `${tally.right} of ${tally.asked}` : "0"}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
