import { useState } from "react";
import type { Schema } from "@/api/client";
import { PatientDialog } from "@/features/cases/PatientDialog";
import { className } from "@/features/cases/words";
import { QuadrantSymbol } from "@/ui/QuadrantSymbol";

interface Props {
  dental: Schema["Case"];
  plan?: Schema["Plan"];
  revision?: Schema["Revision"];
}

/** What the sheet shows: tooth in all notations, class, material, school, state. */
export function TitleBlock({ dental, plan, revision }: Props) {
  const t = dental.tooth;
  const [patient, setPatient] = useState(false);
  return (
    <div className="flex min-w-0 flex-wrap items-baseline gap-x-3 leading-tight">
      <h1 className="text-base font-bold whitespace-nowrap max-sm:whitespace-normal">
        {dental.may.includes("correct_patient") ? (
          <button
            type="button"
            className="font-mono underline decoration-dotted underline-offset-4"
            title={`Born in ${dental.birth_year}: correct it`}
            onClick={() => setPatient(true)}
          >
            {dental.patient}
          </button>
        ) : (
          <span className="font-mono">{dental.patient}</span>
        )}{" "}
        · {t.name}
      </h1>
      {patient && <PatientDialog dental={dental} onClose={() => setPatient(false)} />}
      <span className="shrink-0 font-mono text-soft">
        {t.iso} / {t.universal} / <QuadrantSymbol letters={t.letters} />
      </span>
      {plan && (
        <span className="basis-full text-xs text-soft">
          {plan.refused
            ? "Nothing is cut"
            : `${className(plan.class)} ${plan.surface_letters ?? ""}, ${plan.material}, ${plan.school}`.replace(
                " ,",
                ",",
              )}
          {revision &&
            `, revision ${revision.number} fixed by ${revision.by}${
              revision.made_with.length > 0 ? `, made with ${revision.made_with.join(" and ")}` : ""
            }`}
        </span>
      )}
    </div>
  );
}
