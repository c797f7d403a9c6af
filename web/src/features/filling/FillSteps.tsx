import type { Schema } from "@/api/client";
import { Heading } from "@/ui/Heading";

const perMinute = 60;

interface Props {
  title?: string;
  steps: Schema["Step"][];
  seconds: number;
}

/** What is done from the matrix to the last word, with what time decides marked by a clock. */
export function FillSteps({ title = "In order", steps, seconds }: Props) {
  return (
    <>
      <Heading ground="a practised hand">{`${title}, about ${Math.ceil(seconds / perMinute)} min`}</Heading>
      <ol className="space-y-1">
        {steps.map((s, n) => (
          <li key={s.id ?? n} className="border-t border-line pt-1 first:border-t-0">
            <div className="flex items-baseline justify-between gap-2">
              <b>
                {n + 1}. {s.step}
              </b>
              <span className="shrink-0 font-mono text-xs">
                {s.clock ? (
                  <span className="rounded bg-accent-ground px-1.5">{clockWords(s.clock)}</span>
                ) : (
                  `${s.seconds} s`
                )}
              </span>
            </div>
            <p>{s.action}</p>
            {s.caution && <p className="border-l-4 border-warn pl-2">{s.caution}</p>}
          </li>
        ))}
      </ol>
    </>
  );
}

function clockWords({ least_seconds: least, most_seconds: most, after }: Schema["StepClock"]) {
  const long = least >= 2 * perMinute; // counted in minutes
  const [from, to] = long ? [least / perMinute, most / perMinute] : [least, most];
  const unit = long ? "min" : "s";
  if (least === 0) return `by ${most} s from step ${after}`;
  return `clock ${from === to ? from : `${from}–${to}`} ${unit}`;
}
