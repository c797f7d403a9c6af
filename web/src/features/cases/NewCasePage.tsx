import { useEffect, useRef, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { useNavigate, useSearchParams } from "react-router";
import { ApiProblem, type CaseDocument, type Schema } from "@/api/client";
import { newKey } from "@/api/connection";
import { BitewingDialog } from "@/features/bitewing/BitewingDialog";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { CaseFile } from "./CaseFile";
import { ChoiceStep } from "./ChoiceStep";
import { useCreateCase, useToothChart, useToothReading } from "./cases";
import { FindingsStep } from "./FindingsStep";
import {
  type Answers,
  ageFrom,
  answersFrom,
  blank,
  caseDocument,
  figureFaults,
  newCase,
  siteOf,
  sortFaults,
} from "./intake";
import { PatientStep } from "./PatientStep";
import { ToothArch, ToothStep } from "./ToothStep";

/** Intake in the order of the work: the tooth, its second naming, the lesion, the patient, the choice. */
export function NewCasePage() {
  const navigate = useNavigate();
  const create = useCreateCase();
  const [params] = useSearchParams();
  const form = useForm<Answers>({ defaultValues: { ...blank, code: params.get("patient") ?? "" } });
  const [filmed, setFilmed] = useState<number>();
  const [kept, setKept] = useState<CaseDocument>();
  const answers = useWatch({ control: form.control }) as Answers;
  const reading = useToothReading(answers.tooth);
  const iso = reading.data?.iso;
  const chart = useToothChart(iso).data;
  const [wrong, setWrong] = useState<Partial<Record<string, string>>>({});
  const waiting = create.isPending && create.failureCount > 0;
  const problem = create.error instanceof ApiProblem ? create.error : undefined;
  const { placed, other } = sortFaults(problem?.faults ?? []);
  const faults = { ...placed, ...wrong };

  // Findings that the tooth cannot have give way to what the core starts from.
  useEffect(() => {
    if (!chart) return;
    const fitting = form.getValues("findings").filter((f) => siteOf(chart.kinds, f));
    if (fitting.length === 0) form.setValue("findings", [{ ...chart.start }]);
    else if (fitting.length < form.getValues("findings").length) form.setValue("findings", fitting);
  }, [chart, form]);

  const document =
    iso && chart && answers.findings.length > 0
      ? caseDocument(answers, iso, chart.kinds, kept?.tooth === iso ? kept : undefined)
      : undefined;

  const starting = useRef(false); // a second Enter comes before the screen has changed
  function submit(values: Answers) {
    if (starting.current) return;
    const figures = figureFaults(values);
    setWrong(figures);
    if (!iso || Object.keys(figures).length > 0) return;
    const whole = caseDocument(values, iso, chart?.kinds ?? [], kept?.tooth === iso ? kept : undefined);
    starting.current = true;
    create.mutate(
      { key: newKey(), body: newCase(values, whole) },
      {
        onSuccess: (made) => navigate(`/cases/${made.id}`),
        onSettled: () => {
          starting.current = false;
        },
      },
    );
  }

  return (
    <main className="h-full overflow-auto">
      {filmed !== undefined && iso && (
        <BitewingDialog
          tooth={iso}
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
            onRead={(file) => {
              setKept(file);
              form.reset(answersFrom(file));
            }}
          />
          {kept && (
            <span className="text-soft">From a file. Name the tooth a second way, then start the case.</span>
          )}
        </div>
        <ToothArch
          selected={iso}
          onSelect={(chosen) => form.setValue("tooth", chosen, { shouldDirty: true })}
        />
        <ToothStep
          form={form}
          answers={answers}
          tooth={reading.data}
          unread={reading.error}
          faults={faults}
        />
        <FindingsStep form={form} answers={answers} chart={chart} faults={faults} onFilm={setFilmed} />
        <PatientStep form={form} code={answers.code} faults={faults} />
        <ChoiceStep
          form={form}
          answers={answers}
          document={document}
          aged={ageFrom(answers.birthYear) !== undefined}
        />
        <div className="space-y-3 lg:col-span-2">
          {create.isError && <Refusal problem={problem} other={other} />}
          {waiting && (
            <Notice tone="warn" title="The server does not answer">
              Your answers are here. The case is started as soon as it does; once, however often it is asked.
            </Notice>
          )}
          <Button kind="main" type="submit" disabled={create.isPending || !document}>
            {waiting ? "Waits for the server…" : "Start the case"}
          </Button>
          <span role="status" className="ml-3 text-soft">
            {iso && !chart ? "The tooth is being drawn…" : ""}
          </span>
        </div>
      </form>
    </main>
  );
}

/** Why the case was not started; what belongs to a field stands there. */
function Refusal({ problem, other }: { problem?: ApiProblem; other: Schema["Fault"][] }) {
  if (!problem)
    return (
      <Notice tone="warn" title="The server does not answer">
        Your answers are still here. Check that it runs, then start the case again.
      </Notice>
    );
  return (
    <Notice tone="warn" title={problem.problem.title}>
      {other.map((f) => (
        <p key={f.path + f.message}>
          {f.path}: {f.message}
        </p>
      ))}
      {problem.problem.detail}
    </Notice>
  );
}
