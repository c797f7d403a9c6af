import { useEffect, useState } from "react";

interface Props {
  label: string;
  value: number | undefined;
  /** What an empty field means; without it a figure is asked for. */
  open?: string;
  /** Stands in an empty field. */
  placeholder?: string;
  /** Whole numbers only. */
  whole?: boolean;
  faulty?: boolean;
  onChange: (value: number | undefined) => void;
}

/** A figure in a table; what cannot be read as one is put back when the field is left. */
export function FigureInput({ label, value, open, placeholder, whole, faulty, onChange }: Props) {
  const shown = value === undefined ? "" : Number(value.toFixed(3)).toString();
  const [text, setText] = useState(shown);
  useEffect(() => setText(shown), [shown]);
  const empty = text.trim() === "";
  const typed = empty ? undefined : Number(text.replace(",", "."));
  const wrong =
    (empty && !open) || Number.isNaN(typed) || (whole && typed !== undefined && !Number.isInteger(typed));
  return (
    <input
      className="w-14 rounded border border-line bg-sheet px-1 py-0.5 text-right font-mono placeholder:font-sans placeholder:text-xs aria-invalid:border-warn"
      inputMode="decimal"
      aria-label={label}
      aria-invalid={wrong || faulty || undefined}
      placeholder={placeholder ?? (open && "open")}
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
