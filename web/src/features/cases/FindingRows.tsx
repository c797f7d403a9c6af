import { useRef } from "react";
import type { UseFormReturn } from "react-hook-form";
import { useFieldArray } from "react-hook-form";
import type { Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { SelectField } from "@/ui/Field";
import { evidence, ofFinding } from "./evidence";
import { type Answers, type FindingAnswer, siteOf } from "./intake";
import { depths } from "./words";

interface Props {
  form: UseFormReturn<Answers>;
  findings: FindingAnswer[];
  /** What can be found on the tooth, and where. */
  kinds: Schema["KindChoice"][];
  sizes: Schema["DefaultSize"][];
  faults: Partial<Record<string, string>>;
  /** Shows the bitewing of a row's surface. */
  onFilm: (row: number) => void;
}

const sizeNames = [
  ["height", "height_mm", "high"],
  ["width", "width_mm", "wide"],
  ["length", "length_mm", "long"],
] as const;

const sizeFaults = ["height_mm", "width_mm", "length_mm", "over_neck_mm", "opens"];

/** Every finding as a row: what, where, how deep, and its own sizes where known. */
export function FindingRows({ form, findings, kinds, sizes, faults, onFilm }: Props) {
  const rows = useFieldArray({ control: form.control, name: "findings" });
  const list = useRef<HTMLDivElement>(null);
  // The row goes: the one before it, or the button that adds one, is where the work goes on.
  const remove = (n: number) => {
    rows.remove(n);
    requestAnimationFrame(() => {
      const row = list.current?.querySelectorAll("fieldset")[Math.max(n - 1, 0)];
      row?.querySelector("select")?.focus();
    });
  };
  // Another finding is first offered where none lies yet.
  const addAnother = () => {
    const taken = new Set(findings.map((f) => f.site));
    const kind = kinds.find((k) => k.sites.some((s) => !taken.has(s.site))) ?? kinds[0];
    const site = kind?.sites.find((s) => !taken.has(s.site)) ?? kind?.sites[0];
    if (kind && site)
      rows.append({ kind: kind.kind, site: site.site, depth: findings[0]?.depth ?? "outer_dentin" });
  };
  return (
    <div className="space-y-4" ref={list}>
      {rows.fields.map((row, n) => {
        const finding = findings[n];
        if (!finding) return null;
        const numbered = (label: string) => (n === 0 ? label : `${label} ${n + 1}`);
        const sites = kinds.find((k) => k.kind === finding.kind)?.sites ?? [];
        const asked = siteOf(kinds, finding)?.fields ?? [];
        const usual = sizes.find((s) => s.kind === finding.kind && s.depth === finding.depth);
        const fault = (field: string) => faults[`findings[${n}].${field}`];
        return (
          <fieldset key={row.id} className="space-y-2 border-b border-line pb-3" aria-label={`Row ${n + 1}`}>
            <div className="grid grid-cols-2 gap-2">
              <SelectField
                label={numbered("Finding")}
                options={kinds.map((k) => [k.kind, k.label])}
                fault={fault("kind")}
                {...form.register(`findings.${n}.kind`, {
                  onChange: (e) => {
                    const first = kinds.find((k) => k.kind === e.target.value)?.sites[0];
                    if (first) form.setValue(`findings.${n}.site`, first.site);
                  },
                })}
              />
              <SelectField
                label={numbered("Where")}
                options={sites.map((s) => [s.site, s.label])}
                fault={fault("site")}
                {...form.register(`findings.${n}.site`)}
              />
            </div>
            <div className="grid grid-cols-2 items-end gap-2">
              {asked.includes("depth") && (
                <SelectField
                  label={numbered("Depth")}
                  options={depths}
                  fault={fault("depth")}
                  {...form.register(`findings.${n}.depth`)}
                />
              )}
              <div className="flex items-center justify-end gap-x-2 pb-1.5 text-soft">
                {sizeNames.some(([, key]) => (usual?.[key] ?? null) !== null) && <span>mm</span>}
                {sizeNames.map(([field, key, name]) => {
                  const own = usual?.[key];
                  if (own === undefined || own === null) return null;
                  return (
                    <label key={field} className="flex items-center gap-1">
                      {name}
                      <input
                        className="w-10 rounded border border-line bg-sheet px-1.5 py-0.5 text-right font-mono text-ink"
                        inputMode="decimal"
                        placeholder={own.toFixed(1)}
                        aria-label={numbered(`Millimetres ${name}`)}
                        {...form.register(`findings.${n}.${field}`)}
                      />
                    </label>
                  );
                })}
              </div>
            </div>
            <div className="grid grid-cols-2 gap-2">
              {ofFinding
                .filter((field) => asked.includes(field))
                .map((field) => (
                  <SelectField
                    key={field}
                    label={numbered(evidence[field]?.label ?? field)}
                    options={evidence[field]?.options ?? []}
                    fault={fault(field)}
                    {...form.register(`findings.${n}.${field}`)}
                  />
                ))}
            </div>
            <div className="flex items-center gap-4">
              {asked.includes("over_neck_mm") && (
                <label className="flex items-center gap-1.5">
                  Its middle above the CEJ, mm
                  <input
                    className="w-14 rounded border border-line bg-sheet px-1.5 py-0.5 text-right font-mono text-ink"
                    inputMode="decimal"
                    placeholder="usual"
                    aria-label={numbered("Millimetres above the CEJ")}
                    {...form.register(`findings.${n}.overNeck`)}
                  />
                </label>
              )}
              {asked.includes("opens") && (
                <label className="flex items-center gap-1.5">
                  Shows on
                  <select
                    className="rounded border border-line bg-sheet px-1.5 py-0.5"
                    aria-label={numbered("Shows on")}
                    {...form.register(`findings.${n}.opens`)}
                  >
                    <option value="">neither surface</option>
                    <option value="lingual">lingual</option>
                    <option value="buccal">facial</option>
                  </select>
                </label>
              )}
              {asked.includes("missing_neighbours") && (
                <label className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    className="size-4 accent-accent"
                    {...form.register(`findings.${n}.alone`)}
                  />
                  No adjacent tooth
                </label>
              )}
              {asked.includes("bitewing") && (
                <button type="button" className="text-accent underline" onClick={() => onFilm(n)}>
                  Measure on a bitewing
                </button>
              )}
              {rows.fields.length > 1 && (
                <button
                  type="button"
                  className="ml-auto text-accent underline"
                  aria-label={`Remove ${numbered("Finding").toLowerCase()}`}
                  onClick={() => remove(n)}
                >
                  Remove
                </button>
              )}
            </div>
            {sizeFaults.map((field) => {
              const message = fault(field);
              return (
                message && (
                  <p key={field} className="text-warn">
                    {message}
                  </p>
                )
              );
            })}
          </fieldset>
        );
      })}
      <Button type="button" onClick={() => addAnother()}>
        Add a finding
      </Button>
    </div>
  );
}
