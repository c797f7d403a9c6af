import { useEffect, useState } from "react";
import type { CaseDocument } from "@/api/client";

type Gingiva = NonNullable<CaseDocument["gingiva"]>;

interface Props {
  /** As planned against. */
  gingiva: Gingiva;
  /** Seen on the patient, and not taken from the age. */
  own: boolean;
  readOnly: boolean;
  onChange: (gingiva: CaseDocument["gingiva"]) => void;
}

const fields: [keyof Gingiva, string][] = [
  ["facial_mm", "facial"],
  ["lingual_mm", "lingual"],
  ["papilla_mm", "papilla"],
];

/** Where the gingiva was seen, which cervical cavities are planned against. */
export function GingivaPanel({ gingiva: now, own, readOnly, onChange }: Props) {
  return (
    <fieldset className="mt-4">
      <legend className="font-bold">Gingiva above the CEJ, mm</legend>
      <div className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 text-soft">
        {fields.map(([field, name]) => (
          <Height
            key={field}
            name={name}
            value={now[field]}
            readOnly={readOnly}
            onChange={(mm) => onChange({ ...now, [field]: mm })}
          />
        ))}
        {own && !readOnly && (
          <button type="button" className="text-accent underline" onClick={() => onChange(undefined)}>
            take that of the age
          </button>
        )}
      </div>
    </fieldset>
  );
}

function Height({
  name,
  value,
  readOnly,
  onChange,
}: {
  name: string;
  value: number;
  readOnly: boolean;
  onChange: (mm: number) => void;
}) {
  const [text, setText] = useState(String(value));
  useEffect(() => setText(String(value)), [value]);
  function keep() {
    const mm = Number(text.trim().replace(",", "."));
    if (text.trim() === "" || Number.isNaN(mm)) setText(String(value));
    else if (mm !== value) onChange(mm);
  }
  return (
    <label className="flex items-center gap-1">
      {name}
      <input
        className="w-12 rounded border border-line bg-sheet px-1 py-0.5 text-right font-mono text-ink"
        inputMode="decimal"
        value={text}
        readOnly={readOnly}
        aria-label={`Gingiva, ${name}, millimetres above the CEJ`}
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === "Enter" && keep()}
      />
    </label>
  );
}
