import { useEffect } from "react";
import type { UseFormReturn } from "react-hook-form";
import { SelectField, TextField } from "@/ui/Field";
import { useKnownPatient } from "./cases";
import { evidence } from "./evidence";
import { type Answers, patientAnswers } from "./intake";
import { Step } from "./Step";

interface Props {
  form: UseFormReturn<Answers>;
  code: string;
  faults: Partial<Record<string, string>>;
}

const flags = [
  ["pregnant", "Pregnant or nursing"],
  ["kidneyDisease", "Kidney disease"],
  ["mercurySensitivity", "Sensitive to mercury"],
  ["parafunction", "Grinds or clenches"],
  ["visible", "The tooth shows when smiling"],
  ["cannotCope", "Drilling is too much for now"],
] as const;

/** Who it is, by a code, and what of them bears on the plan. */
export function PatientStep({ form, code, faults }: Props) {
  const known = useKnownPatient(code.trim().toUpperCase()).data;
  const { dirtyFields } = form.formState;
  // A patient's other cases have told already what is asked here; what has been typed stays,
  // and where somebody is about to type nothing appears.
  useEffect(() => {
    if (!known) return;
    for (const [field, value] of Object.entries(patientAnswers(known)))
      if (!dirtyFields[field as keyof Answers] && document.activeElement?.getAttribute("name") !== field)
        form.setValue(field as keyof Answers, value);
  }, [known, form, dirtyFields]);
  return (
    <Step title="3 Who">
      <div className="grid grid-cols-2 gap-4">
        <TextField
          label="Patient code"
          placeholder="HV-031"
          hint={known ? "Known here: the rest is filled in from the last case" : "Never a name"}
          required
          autoComplete="off"
          fault={faults.code}
          {...form.register("code", { setValueAs: (v: string) => v.trim().toUpperCase() })}
        />
        <TextField
          label="Birth year"
          inputMode="numeric"
          required
          autoComplete="off"
          fault={faults.birthYear}
          {...form.register("birthYear")}
        />
        <SelectField
          label="Isolation"
          options={evidence.isolation?.options ?? []}
          {...form.register("isolation")}
        />
        <SelectField
          label="Caries risk"
          options={[
            ["", "Not entered"],
            ["low", "Low"],
            ["moderate", "Moderate"],
            ["high", "High"],
          ]}
          {...form.register("cariesRisk")}
        />
      </div>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        {flags.map(([field, label]) => (
          <label key={field} className="flex items-center gap-2">
            <input type="checkbox" className="size-4 accent-accent" {...form.register(field)} />
            {label}
          </label>
        ))}
      </div>
    </Step>
  );
}
