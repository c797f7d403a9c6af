import { useEffect, useState } from "react";
import { type UseFormReturn, useForm, useWatch } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { ApiProblem, type CaseDocument, type Schema } from "@/api/client";
import { ArchChart, type Dentition } from "@/drawing/ArchChart";
import { useArches } from "@/drawing/arches";
import { BitewingDialog } from "@/features/bitewing/BitewingDialog";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { QuadrantSymbol } from "@/ui/QuadrantSymbol";
import { CaseFile } from "./CaseFile";
import { useCreateCase, useSchools, useTeeth, useToothChart, useToothReading } from "./cases";
import { FindingChart } from "./FindingChart";
import { FindingRows } from "./FindingRows";
import { type Answers, ageFrom, answersFrom, blank, newCase, sortFaults } from "./intake";
import { confirmationQuestion } from "./words";

/** What the form starts with on front teeth, which have no fissures. */
const usualInFront = { kind: "proximal_caries", site: "mesial", depth: "outer_dentin" };

/** Intake in the order of the work: the tooth, its second naming, the lesion. */
export function NewCasePage() {
  const navigate = useNavigate();
  const create = useCreateCase();
  const teeth = useTeeth();
  const schools = useSchools();
  const form = useForm<Answers>({ defaultValues: blank });
  const [marking, setMarking] = useState(false);
  const [tapped, setTapped] = useState(false);
  const [filmed, setFilmed] = useState<number>();
  const [kept, setKept] = useState<CaseDocument>();
  const answers = useWatch({ control: form.control }) as Answers;
  const reading = useToothReading(answers.tooth);
  const problem = create.error instanceof ApiProblem ? create.error : undefined;
  const { placed, other } = sortFaults(problem?.faults ?? []);
  const primary = reading.data?.group === "primary";
  useEffect(() => {
    // Primary teeth have a school of their own, proposed when one is chosen; a
    // file has chosen already.
    if (kept) return;
    const school = form.getValues("school");
    if (primary && school === blank.school) form.setValue("school", "primary");
    if (!primary && school === "primary") form.setValue("school", blank.school);
  }, [primary, kept, form]);
  const anterior = reading.data?.anterior === true;
  useEffect(() => {
    // Anterior teeth have no fissures, and amalgam shows on them: what the form
    // starts with gives way to what is usual there.
    if (kept || !anterior) return;
    const { findings, material, school } = form.getValues();
    if (findings.length === 1 && findings[0]?.kind === blank.findings[0]?.kind)
      form.setValue("findings", [usualInFront]);
    if (material === blank.material) form.setValue("material", "composite");
    if (school === blank.school) form.setValue("school", "adhesive");
  }, [anterior, kept, form]);
  const question = confirmationQuestion(answers.method);
  const chart = useToothChart(reading.data?.iso);

  // A tapped place takes the first finding while that is untouched, else a new one.
  function place(site: string, kind: string) {
    setTapped(true);
    if (answers.findings.some((f) => f.site === site)) return;
    const next = { kind, site, depth: answers.findings[0]?.depth ?? "outer_dentin" };
    const [only, ...more] = answers.findings;
    const usual = anterior ? usualInFront : blank.findings[0];
    // The row that the form starts with gives way to the first place tapped.
    const untouched =
      !tapped && more.length === 0 && only?.kind === usual?.kind && only?.site === usual?.site;
    form.setValue("findings", untouched ? [next] : [...answers.findings, next], { shouldDirty: true });
  }

  function submit(values: Answers) {
    if (!reading.data) return;
    create.mutate(newCase(values, reading.data.iso, kept?.tooth === reading.data.iso ? kept : undefined), {
      onSuccess: (made) => navigate(`/cases/${made.id}`),
    });
  }

  return (
    <main className="h-full overflow-auto">
      {filmed !== undefined && reading.data && (
        <BitewingDialog
          tooth={reading.data.iso}
          site={answers.findings[filmed]?.site ?? "mesial"}
          age={ageFrom(answers.birthYear)}
          onClose={() => setFilmed(undefined)}
          onDepth={(depth) => {
            form.setValue(`findings.${filmed}.depth`, depth, { shouldDirty: true });
            setFilmed(undefined);
          }}
        />
      )}
      <form
        className="mx-auto grid max-w-6xl gap-x-8 gap-y-5 p-5 lg:grid-cols-[290px_1fr_1fr]"
        onSubmit={form.handleSubmit(submit)}
      >
        <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 lg:col-span-3">
          <h1 className="text-xl font-bold">New case</h1>
          <CaseFile
            onRead={(document) => {
              setKept(document);
              form.reset(answersFrom(document));
            }}
          />
          {kept && (
            <span className="text-soft">From a file. Name the tooth a second way, then start the case.</span>
          )}
        </div>
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
            list="teeth"
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
            fault={placed.answer}
            {...form.register("answer")}
          />
        </fieldset>
        <fieldset className="space-y-4">
          <legend className="mb-2 w-full border-b border-line pb-1 font-bold text-accent">
            2 What is wrong, and how deep
          </legend>
          {chart.data && (
            <div className="flex flex-wrap items-start gap-3">
              {chart.data.views.map((side) => (
                <FindingChart
                  key={side.view.id}
                  chart={side}
                  size={chart.data.views.length > 1 ? 172 : 210}
                  placed={answers.findings.map((f) => f.site)}
                  contacts={anterior ? [] : answers.contacts}
                  marking={marking && !anterior}
                  onSite={place}
                  onContact={(at) => form.setValue("contacts", [...answers.contacts, at])}
                />
              ))}
              {anterior ? (
                <p className="text-soft">Tap a face, a corner or the neck to place a finding there.</p>
              ) : (
                <div className="w-36 space-y-2 text-soft">
                  <p>Tap a pit, a fissure, a cusp, a face or the neck to place a finding there.</p>
                  <label className="flex items-center gap-1.5 text-ink">
                    <input
                      type="checkbox"
                      className="size-4 accent-accent"
                      checked={marking}
                      onChange={(e) => setMarking(e.target.checked)}
                    />
                    Mark contacts
                  </label>
                  {answers.contacts.length > 0 && (
                    <button
                      type="button"
                      className="text-accent underline"
                      onClick={() => form.setValue("contacts", [])}
                    >
                      Clear {answers.contacts.length} contact{answers.contacts.length > 1 ? "s" : ""}
                    </button>
                  )}
                </div>
              )}
            </div>
          )}
          <FindingRows
            form={form}
            findings={answers.findings}
            places={{
              anterior,
              pits: reading.data?.pits ?? [],
              grooves: reading.data?.grooves ?? [],
              cusps: reading.data?.cusps ?? [],
            }}
            sizes={chart.data?.sizes ?? []}
            faults={placed}
            onFilm={setFilmed}
          />
          {answers.findings.some(
            (f) => f.kind === "cervical_caries" || f.site === "buccal" || f.site === "lingual",
          ) && <GingivaFields form={form} fault={placed.gingiva} />}
          {answers.findings.some((f) => f.kind === "fracture") && anterior && (
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
          <label className="flex items-center gap-2">
            <input type="checkbox" className="size-4 accent-accent" {...form.register("parafunction")} />
            Grinds or clenches
          </label>
          <label className="flex items-center gap-2">
            <input type="checkbox" className="size-4 accent-accent" {...form.register("visible")} />
            The tooth shows when smiling
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

/** Where the free gingival margin was seen; left empty, it is that of the age. */
function GingivaFields({ form, fault }: { form: UseFormReturn<Answers>; fault?: string }) {
  const fields = [
    ["gingivaFacial", "facial"],
    ["gingivaLingual", "lingual"],
    ["gingivaPapilla", "papilla"],
  ] as const;
  return (
    <fieldset className="space-y-1">
      <legend>Gingiva over the neck, mm</legend>
      <div className="flex items-center gap-3 text-soft">
        {fields.map(([field, name]) => (
          <label key={field} className="flex items-center gap-1">
            {name}
            <input
              className="w-12 rounded border border-line bg-sheet px-1.5 py-0.5 text-right font-mono text-ink"
              inputMode="decimal"
              placeholder="age"
              aria-label={`Gingiva, ${name}, millimetres over the neck`}
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
    </span>
  );
}
