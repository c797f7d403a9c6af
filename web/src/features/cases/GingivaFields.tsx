import type { UseFormReturn } from "react-hook-form";
import type { Answers } from "./intake";

const fields = [
  ["gingivaFacial", "facial"],
  ["gingivaLingual", "lingual"],
  ["gingivaPapilla", "papilla"],
] as const;

/** Where the free gingival margin was seen; left empty, it is that of the age. */
export function GingivaFields({ form, fault }: { form: UseFormReturn<Answers>; fault?: string }) {
  return (
    <fieldset className="space-y-1">
      <legend>Gingiva above the CEJ, mm</legend>
      <div className="flex items-center gap-3 text-soft">
        {fields.map(([field, name]) => (
          <label key={field} className="flex items-center gap-1">
            {name}
            <input
              className="w-12 rounded border border-line bg-sheet px-1.5 py-0.5 text-right font-mono text-ink"
              inputMode="decimal"
              placeholder="age"
              aria-label={`Gingiva, ${name}, millimetres above the CEJ`}
              {...form.register(field)}
            />
          </label>
        ))}
      </div>
      <p className={fault ? "text-warn" : "text-soft"}>
        {fault ?? "Negative where it has receded. Empty takes that of the age."}
      </p>
    </fieldset>
  );
}
