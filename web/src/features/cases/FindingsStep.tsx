import { useRef, useState } from "react";
import type { UseFormReturn } from "react-hook-form";
import type { Schema } from "@/api/client";
import { SelectField } from "@/ui/Field";
import { evidence } from "./evidence";
import { FindingChart } from "./FindingChart";
import { FindingRows } from "./FindingRows";
import { GingivaFields } from "./GingivaFields";
import { type Answers, asksFor } from "./intake";
import { Step } from "./Step";

interface Props {
  form: UseFormReturn<Answers>;
  answers: Answers;
  chart?: Schema["ToothChart"];
  faults: Partial<Record<string, string>>;
  /** Shows the bitewing of a row's surface. */
  onFilm: (row: number) => void;
}

/** What is wrong and how deep, tapped on the tooth's own drawing or chosen in rows. */
export function FindingsStep({ form, answers, chart, faults, onFilm }: Props) {
  const [marking, setMarking] = useState(false);
  const [tapped, setTapped] = useState(false);
  const kinds = chart?.kinds ?? [];

  // A tapped place takes the row that the form starts with, else a new one.
  function place(site: Schema["Site"], kind: Schema["FindingKind"]) {
    setTapped(true);
    if (answers.findings.some((f) => f.site === site)) return;
    const [only, ...more] = answers.findings;
    const next = { kind, site, depth: only?.depth ?? "outer_dentin" };
    const untouched =
      !tapped && more.length === 0 && only?.kind === chart?.start.kind && only?.site === chart?.start.site;
    form.setValue("findings", untouched ? [next] : [...answers.findings, next], { shouldDirty: true });
  }

  return (
    <Step title="2 What is wrong, and how deep">
      {chart && (
        <div className="flex flex-wrap items-start gap-3">
          {chart.views.map((side) => (
            <FindingChart
              key={side.view.id}
              chart={side}
              size={chart.views.length > 1 ? 172 : 210}
              placed={answers.findings.map((f) => f.site)}
              contacts={chart.contacts ? answers.contacts : []}
              marking={marking && chart.contacts}
              onSite={place}
              onContact={(at) => form.setValue("contacts", [...answers.contacts, at])}
            />
          ))}
          {chart.contacts ? (
            <Contacts form={form} answers={answers} marking={marking} onMarking={setMarking} />
          ) : (
            <p className="text-soft">
              Tap a surface, an incisal angle or the cervical line to place a finding there.
            </p>
          )}
        </div>
      )}
      <FindingRows
        form={form}
        findings={answers.findings}
        kinds={kinds}
        sizes={chart?.sizes ?? []}
        faults={faults}
        onFilm={onFilm}
      />
      {asksFor(kinds, answers, "pulp") && (
        <SelectField
          label="Pulp"
          options={evidence.pulp?.options ?? []}
          hint="By history, and by tests where it may be deep"
          {...form.register("pulp")}
        />
      )}
      {asksFor(kinds, answers, "root_resorbed") && (
        <label className="flex items-center gap-2">
          <input type="checkbox" className="size-4 accent-accent" {...form.register("rootResorbed")} />
          Its root is resorbed, by film or mobility
        </label>
      )}
      {asksFor(kinds, answers, "gingiva") && <GingivaFields form={form} fault={faults.gingiva} />}
      {asksFor(kinds, answers, "enamel") && (
        <SelectField
          label="Enamel lets light through"
          options={[
            ["", "Not looked at"],
            ["translucent", "Much: translucent"],
            ["opaque", "Little: opaque"],
          ]}
          {...form.register("enamel")}
        />
      )}
    </Step>
  );
}

/** Occlusal contacts, marked on the drawing before isolation hides them. */
function Contacts({
  form,
  answers,
  marking,
  onMarking,
}: Pick<Props, "form" | "answers"> & { marking: boolean; onMarking: (on: boolean) => void }) {
  const count = answers.contacts.length;
  const mark = useRef<HTMLInputElement>(null);
  return (
    <div className="w-36 space-y-2 text-soft">
      <p>Tap a pit, a fissure, a cusp, a surface or the cervical line to place a finding there.</p>
      <label className="flex items-center gap-1.5 text-ink">
        <input
          ref={mark}
          type="checkbox"
          className="size-4 accent-accent"
          checked={marking}
          onChange={(e) => onMarking(e.target.checked)}
        />
        Mark contacts
      </label>
      {count > 0 && (
        <button
          type="button"
          className="text-accent underline"
          onClick={() => {
            mark.current?.focus(); // the button goes with the contacts
            form.setValue("contacts", []);
          }}
        >
          Clear {count} contact{count > 1 ? "s" : ""}
        </button>
      )}
    </div>
  );
}
