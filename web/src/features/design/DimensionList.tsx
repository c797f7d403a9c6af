import { useEffect, useRef, useState } from "react";
import type { Schema } from "@/api/client";
import type { Unbuildable } from "./evaluation";

interface Props {
  dimensions: Schema["Dimension"][];
  /** Why figures cannot be built, by dimension. */
  unbuildable: Unbuildable;
  readOnly: boolean;
  onChange: (dimension: string, value: number | undefined) => void;
}

/** Every figure of the design, typed; a changed one can go back to the proposal. */
export function DimensionList({ dimensions, unbuildable, readOnly, onChange }: Props) {
  const list = useRef<HTMLUListElement>(null);
  // The button goes with the change: the figure is where the work goes on.
  const back = (id: string) => {
    list.current?.querySelector<HTMLInputElement>(`[data-figure="${id}"]`)?.focus();
    onChange(id, undefined);
  };
  return (
    <>
      <h2 className="mt-4 mb-1 font-bold">Dimensions to cut</h2>
      <ul ref={list}>
        {dimensions.map((d) => (
          <li key={d.id} className="flex flex-wrap items-center gap-2 py-0.5">
            {/* biome-ignore lint/a11y/noLabelWithoutControl: the control is the figure inside */}
            <label className="flex flex-1 items-center gap-2">
              <span className="flex-1">
                {d.label}
                {d.value !== d.proposed && <span className="block text-xs text-accent">your value</span>}
                {d.apart && <span className="block text-xs text-soft">{d.apart}</span>}
              </span>
              <TypedFigure
                dimension={d}
                fault={unbuildable[d.id]}
                readOnly={readOnly}
                onChange={(v) => onChange(d.id, v)}
              />
            </label>
            {d.value !== d.proposed && !readOnly && (
              <button
                type="button"
                className="text-xs text-accent underline"
                aria-label={`${d.label} back to the proposal`}
                onClick={() => back(d.id)}
              >
                {d.proposed}
              </button>
            )}
            {unbuildable[d.id] && (
              <p id={`fault-${d.id}`} className="basis-full text-xs text-warn">
                Cannot be built: {unbuildable[d.id]}.
              </p>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

function TypedFigure({
  dimension: d,
  fault,
  readOnly,
  onChange,
}: {
  dimension: Schema["Dimension"];
  fault?: string;
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
        data-figure={d.id}
        aria-invalid={wrong || fault !== undefined || undefined}
        aria-describedby={fault ? `fault-${d.id}` : undefined}
        title={`${d.min} to ${d.max} ${d.unit === "deg" ? "degrees" : d.unit}`}
        onChange={(e) => setText(e.target.value.replace(",", "."))}
        onBlur={commit}
        onKeyDown={(e) => e.key === "Enter" && commit()}
      />
      <span className="w-6 text-xs text-soft">{d.unit === "deg" ? "°" : d.unit}</span>
    </span>
  );
}
