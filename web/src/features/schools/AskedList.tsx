import clsx from "clsx";
import { type Asked, notAsked } from "./reading";

export function AskedList({ asked }: { asked: Asked[] }) {
  if (asked.length === 0) return <span className="text-soft">{notAsked}</span>;
  return (
    <ul>
      {asked.map((a) => (
        <li key={a.holds}>
          {a.holds && <span className="text-soft">{a.holds}: </span>}
          <span className={clsx("whitespace-nowrap", a.text === notAsked ? "text-soft" : "font-mono")}>
            {a.text}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** Each reason once. */
export function reasons(asked: Asked[]): string {
  return [...new Set(asked.map((a) => a.why))].join(" ");
}
