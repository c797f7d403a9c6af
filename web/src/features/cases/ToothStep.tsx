import { useState } from "react";
import type { UseFormReturn } from "react-hook-form";
import { Link } from "react-router";
import { ApiProblem, type Schema } from "@/api/client";
import { ArchChart, type Dentition } from "@/drawing/ArchChart";
import { useArches } from "@/drawing/arches";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { QuadrantSymbol } from "@/ui/QuadrantSymbol";
import { useTeeth } from "./cases";
import type { Answers } from "./intake";
import { Step } from "./Step";
import { confirmationQuestion } from "./words";

interface Props {
  form: UseFormReturn<Answers>;
  answers: Answers;
  /** The tooth that the typed name means. */
  tooth?: Schema["Tooth"];
  /** Why the typed name means none. */
  unread: unknown;
  faults: Partial<Record<string, string>>;
}

/** Which tooth, named twice: the wrong one cannot be put back. */
export function ToothStep({ form, answers, tooth, unread, faults }: Props) {
  const teeth = useTeeth();
  const question = confirmationQuestion(answers.method);
  const misread = answers.tooth && unread instanceof ApiProblem ? unread.faults[0]?.message : undefined;
  return (
    <Step title="1 Which tooth">
      <TextField
        label="Tooth"
        placeholder="46, 30 or LR6"
        autoFocus
        required
        autoComplete="off"
        list="teeth"
        fault={faults.tooth ?? misread}
        hint={tooth ? <ToothNames tooth={tooth} /> : "Type it in any notation, or pick from the list"}
        {...form.register("tooth")}
      />
      <datalist id="teeth">
        {teeth.data?.map((t) => (
          <option key={t.iso} value={t.iso}>
            {t.name}
          </option>
        ))}
      </datalist>
      <SelectField
        label="Say it a second way"
        options={[
          ["count", "Count from the midline"],
          ["universal", "Universal number"],
          ["quadrant", "Quadrant and place"],
        ]}
        {...form.register("method")}
      />
      <TextField
        label={question.label}
        hint={`${question.hint}. The wrong tooth cannot be put back.`}
        required
        autoComplete="off"
        fault={faults.answer}
        {...form.register("answer")}
      />
    </Step>
  );
}

/** The tooth pointed at instead of typed. */
export function ToothArch({ selected, onSelect }: { selected?: string; onSelect: (iso: string) => void }) {
  const arches = useArches();
  const [dentition, setDentition] = useState<Dentition>("permanent");
  return (
    <div className="lg:row-span-3">
      <div className="flex items-center justify-between">
        <span className="text-soft">Point at it, or type it</span>
        <Button onClick={() => setDentition(dentition === "permanent" ? "primary" : "permanent")}>
          {dentition === "permanent" ? "Primary teeth" : "Permanent teeth"}
        </Button>
      </div>
      {arches.data && (
        <ArchChart teeth={arches.data} dentition={dentition} selected={selected} onSelect={onSelect} />
      )}
      {selected && (
        <Link className="text-accent underline" to={`/study/${selected}`}>
          Study {selected}
        </Link>
      )}
    </div>
  );
}

function ToothNames({ tooth }: { tooth: Schema["Tooth"] }) {
  return (
    <span className="text-ink">
      {tooth.name}: ISO <b className="font-mono">{tooth.iso}</b>, Universal{" "}
      <b className="font-mono">{tooth.universal}</b>, quadrant <QuadrantSymbol letters={tooth.letters} />
    </span>
  );
}
