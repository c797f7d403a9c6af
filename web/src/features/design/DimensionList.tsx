import { useEffect, useState } from "react";
import type { Schema } from "@/api/client";

interface Props {
  dimensions: Schema["Dimension"][];
  readOnly: boolean;
  onChange: (dimension: string, value: number | undefined) => void;
}

/** Every figure of the design, typed; a changed one can go back to the proposal. */
export function DimensionList({ dimensions, readOnly, onChange }: Props) {
  return (
    <>
      <h2 className="mt-4 mb-1 font-bold">Dimensions to cut</h2>
      <ul>
        {dimensions.map((d) => (
          <li key={d.id} className="flex items-center gap-2 py-0.5">
            {/* biome-ignore lint/a11y/noLabelWithoutControl: the control is the figure inside */}
            <label className="flex flex-1 items-center gap-2">
              <span className="flex-1">
                {d.label}
                {d.value !== d.proposed && <span className="block text-xs text-accent">your value</span>}
              </span>
              <TypedFigure dimension={d} readOnly={readOnly} onChange={(v) => onChange(d.id, v)} />
            </label>
            {d.value !== d.proposed && !readOnly && (
              <button
                type="button"
                className="text-xs text-accent underline"
                aria-label={`${d.label} back to the proposal`}
                onClick={() => onChange(d.id, undefined)}
              >
                {d.proposed}
              </button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

function TypedFigure({
  dimension: d,
  readOnly,
  onChange,
}: {
  dimension: Schema["Dimension"];
  readOnly: boolean;
  onChange: (value: number) => void;
}) {
  const [text, setText] = useState(String(d.value));
  useEffect(() => setText(String(d.value)), [d.value]);
  const value = Number(text);
  const wrong = text.trim() === "" || Number.isNaN(value) || value < d.min || value > d.max;
  function commit() {
    if (wrong) setText(String(d.value));
    else if (value !== d.value) onChange(value);
  }
  return (
    <span className="flex items-center gap-1">
      <input
        className="w-16 rounded border border-line bg-sheet px-1.5 py-0.5 text-right font-mono aria-invalid:border-warn aria-invalid:bg-warn-ground"
        inputMode="decimal"
        value={text}
        readOnly={readOnly}
        aria-invalid={wrong || undefined}
        title={`${d.min} to ${d.max} ${d.unit === "deg" ? "degrees" : d.unit}`}
        onChange={(e) => setText(e.target.value.replace(",", "."))}
        onBlur={commit}
        onKeyDown={(e) => e.key === "Enter" && commit()}
      />
      <span className="w-6 text-xs text-soft">{d.unit === "deg" ? "°" : d.unit}</span>
    </span>
  );
}
