import clsx from "clsx";
import { useEffect, useState } from "react";
import type { Criterion } from "./schools";

interface Props {
  criterion: Criterion;
  original?: Criterion;
  label: string;
  onChange: (criterion: Criterion) => void;
}

const units: Record<string, string> = { mm: "mm", deg: "°", mm3: "mm³", ratio: "" };

/** One criterion with its figures; a changed one is marked. */
export function CriterionRow({ criterion: c, original, label, onChange }: Props) {
  const asked = c.applies !== false;
  const changed = original !== undefined && JSON.stringify(c) !== JSON.stringify(original);
  const unit = c.basis ? "of the whole" : (units[c.unit ?? ""] ?? "");
  const holds = [...(c.when?.tooth ?? []), ...(c.when?.material ?? [])].join(", ");
  const name = holds ? `${label}, ${holds}` : label;
  const range = (which: "target" | "limits") => (
    <span className="flex items-center gap-1">
      {(["min", "max"] as const).map((end) => (
        <Figure
          key={end}
          label={`${name}: ${which} ${end === "min" ? "from" : "to"}`}
          value={c[which]?.[end]}
          onChange={(v) => onChange({ ...c, [which]: { ...c[which], [end]: v } })}
          open={end === "min" ? "no least" : "no most"}
        />
      ))}
      <span className="text-xs text-soft">{unit}</span>
    </span>
  );
  return (
    <tr className={clsx("border-b border-line", changed && "bg-accent-ground")} title={c.why}>
      <th scope="row" className="py-1 pr-3 text-left font-normal">
        {label}
      </th>
      <td className="py-1 pr-3 text-soft">{holds || "all"}</td>
      <td className="py-1 pr-3">
        <input
          type="checkbox"
          className="size-4 accent-accent"
          aria-label={`${name}: asked for`}
          checked={asked}
          // What was never asked for has no figures to judge by.
          disabled={!asked && !c.severity}
          onChange={(e) => onChange({ ...c, applies: e.target.checked ? undefined : false })}
        />
      </td>
      {asked ? (
        <>
          <td className="py-1 pr-3">{range("target")}</td>
          <td className="py-1 pr-3">{range("limits")}</td>
          <td className="py-1 pr-3">
            <Figure
              label={`${name}: aim`}
              value={c.aim}
              onChange={(aim) => aim !== undefined && onChange({ ...c, aim })}
            />
          </td>
          <td className="py-1 pr-3">
            <select
              className="rounded border border-line bg-sheet px-1 py-0.5"
              aria-label={`${name}: if missed`}
              value={c.severity}
              onChange={(e) => onChange({ ...c, severity: e.target.value as Criterion["severity"] })}
            >
              {["critical", "major", "minor"].map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          </td>
        </>
      ) : (
        <td colSpan={4} className="py-1 text-soft">
          not asked for
        </td>
      )}
    </tr>
  );
}

function Figure({
  label,
  value,
  open,
  onChange,
}: {
  label: string;
  value: number | undefined;
  /** What an empty field means; without it a figure is asked for. */
  open?: string;
  onChange: (value: number | undefined) => void;
}) {
  const shown = value === undefined ? "" : Number(value.toFixed(3)).toString();
  const [text, setText] = useState(shown);
  useEffect(() => setText(shown), [shown]);
  const empty = text.trim() === "";
  const typed = empty ? undefined : Number(text.replace(",", "."));
  const wrong = (empty && !open) || Number.isNaN(typed);
  return (
    <input
      className="w-14 rounded border border-line bg-sheet px-1 py-0.5 text-right font-mono placeholder:font-sans placeholder:text-xs aria-invalid:border-warn"
      inputMode="decimal"
      aria-label={label}
      aria-invalid={wrong || undefined}
      placeholder={open && "open"}
      title={empty ? open : undefined}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        if (wrong) setText(shown);
        else if (typed !== value) onChange(typed);
      }}
    />
  );
}
