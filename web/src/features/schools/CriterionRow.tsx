import clsx from "clsx";
import { FigureInput } from "@/ui/FigureInput";
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
        <FigureInput
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
            <FigureInput
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
