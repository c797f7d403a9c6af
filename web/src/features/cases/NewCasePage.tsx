import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { ApiProblem, type CaseDocument, type Schema } from "@/api/client";
import { ArchChart, type Dentition } from "@/drawing/ArchChart";
import { useArches } from "@/drawing/arches";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { QuadrantSymbol } from "@/ui/QuadrantSymbol";
import { useCreateCase, useSchools, useTeeth, useToothReading } from "./cases";
import { confirmationQuestion, depths, kinds, sitesFor } from "./words";

interface Answers {
  tooth: string;
  method: "count" | "universal" | "quadrant";
  answer: string;
  kind: string;
  site: string;
  depth: string;
  material: string;
  school: string;
  code: string;
  birthYear: string;
  isolation: string;
  cariesRisk: string;
  pregnant: boolean;
}

/** Which fault belongs to which field of the form. */
const faultFields: [RegExp, keyof Answers][] = [
  [/^\$\.confirmation/, "answer"],
  [/^\$(\.document)?\.tooth/, "tooth"],
  [/site$/, "site"],
  [/depth$/, "depth"],
  [/kind$/, "kind"],
  [/code$/, "code"],
  [/birth_year$|age_years$/, "birthYear"],
];

/** Intake in the order of the work: the tooth, its second naming, the lesion. */
export function NewCasePage() {
  const navigate = useNavigate();
  const create = useCreateCase();
  const teeth = useTeeth();
  const schools = useSchools();
  const form = useForm<Answers>({
    defaultValues: {
      tooth: "",
      method: "count",
      answer: "",
      kind: "fissure_caries",
      site: "central",
      depth: "outer_dentin",
      material: "amalgam",
      school: "board",
      code: "",
      birthYear: "",
      isolation: "secure",
      cariesRisk: "moderate",
      pregnant: false,
    },
  });
  const answers = useWatch({ control: form.control }) as Answers;
  const reading = useToothReading(answers.tooth);
  const problem = create.error instanceof ApiProblem ? create.error : undefined;
  const { placed, other } = sortFaults(problem?.faults ?? []);
  const question = confirmationQuestion(answers.method);

  function submit(values: Answers) {
    if (!reading.data) return;
    create.mutate(newCase(values, reading.data.iso), { onSuccess: (made) => navigate(`/cases/${made.id}`) });
  }

  return (
    <main className="h-full overflow-auto">
      <form
        className="mx-auto grid max-w-6xl gap-x-8 gap-y-5 p-5 lg:grid-cols-[290px_1fr_1fr]"
        onSubmit={form.handleSubmit(submit)}
      >
        <h1 className="text-xl font-bold lg:col-span-3">New case</h1>
        <ToothArch
          selected={reading.data?.iso}
          onSelect={(iso) => form.setValue("tooth", iso, { shouldDirty: true })}
        />
        <fieldset className="space-y-4">
          <legend className="mb-2 w-full border-b border-line pb-1 font-bold text-accent">
            1 Which tooth
          </legend>
          <TextField
            label="Tooth"
            placeholder="46, 30 or LR6"
            autoFocus
            required
            autoComplete="off"
            list="plannable"
            fault={
              placed.tooth ??
              (answers.tooth && reading.error instanceof ApiProblem
                ? reading.error.faults[0]?.message
                : undefined)
            }
            hint={
              reading.data ? (
                <ToothNames tooth={reading.data} />
              ) : (
                "Type it in any notation, or pick from the list"
              )
            }
            {...form.register("tooth")}
          />
          <datalist id="plannable">
            {teeth.data
              ?.filter((t) => t.plannable)
              .map((t) => (
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
            fault={placed.answer}
            {...form.register("answer")}
          />
        </fieldset>
        <fieldset className="space-y-4">
          <legend className="mb-2 w-full border-b border-line pb-1 font-bold text-accent">
            2 What is wrong, and how deep
          </legend>
          <SelectField
            label="Finding"
            options={kinds}
            fault={placed.kind}
            {...form.register("kind", {
              onChange: (e) =>
                form.setValue(
                  "site",
                  sitesFor(e.target.value, reading.data?.pits ?? [])[0]?.[0] ?? "central",
                ),
            })}
          />
          <SelectField
            label="Where"
            options={sitesFor(answers.kind, reading.data?.pits ?? [])}
            fault={placed.site}
            {...form.register("site")}
          />
          <SelectField label="Depth" options={depths} fault={placed.depth} {...form.register("depth")} />
        </fieldset>
        <fieldset className="space-y-4">
          <legend className="mb-2 w-full border-b border-line pb-1 font-bold text-accent">3 Who</legend>
          <div className="grid grid-cols-2 gap-4">
            <TextField
              label="Patient code"
              placeholder="HV-031"
              hint="Never a name"
              required
              autoComplete="off"
              fault={placed.code}
              {...form.register("code", { setValueAs: (v: string) => v.trim().toUpperCase() })}
            />
            <TextField
              label="Birth year"
              inputMode="numeric"
              required
              autoComplete="off"
              fault={placed.birthYear}
              {...form.register("birthYear")}
            />
            <SelectField
              label="Isolation"
              options={[
                ["secure", "Secure"],
                ["doubtful", "Doubtful"],
                ["none", "None"],
              ]}
              {...form.register("isolation")}
            />
            <SelectField
              label="Caries risk"
              options={[
                ["low", "Low"],
                ["moderate", "Moderate"],
                ["high", "High"],
              ]}
              {...form.register("cariesRisk")}
            />
          </div>
          <label className="flex items-center gap-2">
            <input type="checkbox" className="size-4 accent-accent" {...form.register("pregnant")} />
            Pregnant or nursing
          </label>
        </fieldset>
        <fieldset className="space-y-4">
          <legend className="mb-2 w-full border-b border-line pb-1 font-bold text-accent">
            4 Material and school
          </legend>
          <SelectField
            label="Material"
            hint={answers.material === "" ? "Proposed with its reason; you decide" : undefined}
            options={[
              ["amalgam", "Amalgam"],
              ["composite", "Composite"],
              ["", "Let it be proposed"],
            ]}
            {...form.register("material")}
          />
          <SelectField
            label="School"
            options={(schools.data ?? [{ id: "board", title: "Licensing examination style" }]).map((s) => [
              s.id,
              s.title,
            ])}
            hint={schools.data?.find((s) => s.id === answers.school)?.summary}
            {...form.register("school")}
          />
        </fieldset>
        <div className="space-y-3 lg:col-span-2">
          {create.isError && !problem && (
            <Notice tone="warn" title="The server does not answer">
              Your answers are still here. Check that it runs, then start the case again.
            </Notice>
          )}
          {problem && (
            <Notice tone="warn" title={problem.problem.title}>
              {other.map((f) => (
                <p key={f.path + f.message}>
                  {f.path}: {f.message}
                </p>
              ))}
              {problem.problem.detail}
            </Notice>
          )}
          <Button kind="main" type="submit" disabled={create.isPending || !reading.data}>
            Start the case
          </Button>
        </div>
      </form>
    </main>
  );
}

/** The tooth pointed at instead of typed. */
function ToothArch({ selected, onSelect }: { selected?: string; onSelect: (iso: string) => void }) {
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
      {!tooth.plannable && <span className="text-warn"> (not planned yet: premolars and molars are)</span>}
    </span>
  );
}

function newCase(a: Answers, tooth: string): Schema["NewCase"] {
  const birthYear = Number.parseInt(a.birthYear, 10);
  const document: CaseDocument = {
    schema: "obturon.case/1",
    tooth,
    patient: {
      code: a.code,
      age_years: Math.max(new Date().getFullYear() - birthYear, 0) || 0,
      pregnant_or_nursing: a.pregnant,
      caries_risk: a.cariesRisk,
      isolation: a.isolation,
    },
    findings: [{ kind: a.kind, site: a.site, depth: a.depth }],
    choice: a.material === "" ? undefined : { material: a.material, school: a.school },
  };
  return {
    patient: { code: a.code, birth_year: Number.isNaN(birthYear) ? 0 : birthYear },
    confirmation: { method: a.method, answer: a.answer },
    document: document as unknown as Schema["CaseDocument"],
  };
}

/** Puts each fault beside its field; what has no field is listed below. */
function sortFaults(faults: Schema["Fault"][]) {
  const placed: Partial<Record<keyof Answers, string>> = {};
  const other: Schema["Fault"][] = [];
  for (const f of faults) {
    const field = faultFields.find(([pattern]) => pattern.test(f.path))?.[1];
    if (field && !placed[field]) placed[field] = f.message;
    else other.push(f);
  }
  return { placed, other };
}
