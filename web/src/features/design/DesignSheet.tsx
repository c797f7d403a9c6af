import clsx from "clsx";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { ApiProblem, type CaseDocument, checkKey, type Schema } from "@/api/client";
import { useOfferActions } from "@/app/actions";
import { useShortcut } from "@/app/useShortcut";
import { ToothView3D } from "@/drawing/ToothView3D";
import { ViewDrawing } from "@/drawing/ViewDrawing";
import { useFixRevision } from "@/features/cases/cases";
import { ChecksPanel } from "./ChecksPanel";
import { type Sections, useEvaluation, useSolid } from "./evaluation";
import { FormRail, forms } from "./FormRail";
import { useHistory } from "./history";
import { InstrumentStrip } from "./InstrumentStrip";
import { exportedFiles, SheetBar } from "./SheetBar";
import { EvaluationFault, RefusedPlan } from "./SheetNotices";
import { cellPlaces, sheetCells } from "./sheetCells";
import { useAutosave } from "./useAutosave";

interface Props {
  dental: Schema["Case"];
  initial: CaseDocument;
  /** Shown instead of the draft, unchangeable. */
  revision?: Schema["Revision"];
}

/** The working drawing with its checks; every dimension tag is a handle. */
export function DesignSheet({ dental, initial, revision }: Props) {
  const navigate = useNavigate();
  const readOnly = revision !== undefined;
  const history = useHistory(initial);
  const document = history.value;
  const [sideView, setSideView] = useState<string>();
  const [sections, setSections] = useState<Sections>({});
  const evaluation = useEvaluation(document, sections);
  const solid = useSolid(document, evaluation.settled && evaluation.data?.mesh !== undefined);
  const autosave = useAutosave(dental.id, document, !readOnly);
  const fix = useFixRevision(dental.id);
  const [form, setForm] = useState(forms[0]?.id ?? "outline");
  const [hovered, setHovered] = useState<string>();
  const [selected, setSelected] = useState<string>();

  const change = (dimension: string, value: number | undefined, grip?: string) => {
    const overrides: Record<string, number> = { ...document.overrides };
    if (value === undefined) delete overrides[dimension];
    else overrides[dimension] = value;
    history.set({ ...document, overrides }, grip);
  };
  const choose = (choice: CaseDocument["choice"]) => history.set({ ...document, choice });

  async function fixRevision() {
    try {
      await autosave.flush();
      const fixed = await fix.mutateAsync();
      toast(`Fixed as revision ${fixed.number}`);
    } catch (error) {
      toast.error(
        error instanceof ApiProblem
          ? `${error.message}. ${error.problem.detail ?? ""}`
          : "The server does not answer; the draft is still here.",
      );
    }
  }

  async function open(file: string) {
    try {
      await autosave.flush();
    } catch {
      toast.error("The draft could not be saved, so nothing was exported. Check the server.");
      return;
    }
    const query = revision ? `?revision=${revision.number}` : "";
    window.open(`/api/cases/${dental.id}/files/${file}${query}`, "_blank");
  }

  useShortcut("ctrl+z", history.undo);
  useShortcut("ctrl+shift+z", history.redo);

  const evaluated = evaluation.data;
  // What is in force on this page, which the server may still be working on.
  const dimensions = useMemo(() => {
    const set: Record<string, number> = { ...document.overrides };
    return (evaluated?.dimensions ?? []).map((d) => ({ ...d, value: set[d.id] ?? d.proposed }));
  }, [evaluated, document]);
  const checks = evaluated?.plan.checks ?? [];
  const cells = sheetCells(evaluated?.views ?? [], sideView, setSideView, sections, setSections);
  const highlighted = hovered ?? selected;
  const mark = checks.find((c) => checkKey(c) === highlighted)?.where?.point;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the actions read the latest state when run
  const actions = useMemo(
    () => [
      { name: "Fix as revision", run: fixRevision },
      {
        name: "Study this tooth",
        run: () => navigate(`/study/${document.tooth}?age=${document.patient.age_years}`),
      },
      { name: "Compare schools", run: () => navigate(`/cases/${dental.id}/compare`) },
      { name: "Undo", run: history.undo },
      { name: "Redo", run: history.redo },
      ...exportedFiles.map(([file, name]) => ({ name: `Export: ${name}`, run: () => open(file) })),
    ],
    [document],
  );
  useOfferActions(actions);

  function select(id: string) {
    setSelected(id);
    const found = checks.find((c) => checkKey(c) === id);
    if (found) setForm(found.form);
  }

  return (
    <main className="flex h-full flex-col">
      <SheetBar
        dental={dental}
        plan={evaluated?.plan}
        revision={revision}
        saving={autosave.state}
        history={history}
        fixing={fix.isPending}
        onFix={fixRevision}
        onOpen={open}
      />
      {evaluation.isError && <EvaluationFault error={evaluation.error} retry={() => evaluation.refetch()} />}
      {!evaluated && evaluation.isPending && (
        <p className="p-10 text-soft">Modelling the tooth and cutting it…</p>
      )}
      {evaluated?.plan.refused && (
        <RefusedPlan
          plan={evaluated.plan}
          onRestore={readOnly ? undefined : () => choose({ ...document.choice, treatment: "restore" })}
        />
      )}
      {evaluated && !evaluated.plan.refused && (
        <>
          <div className="flex min-h-0 flex-1">
            <FormRail checks={checks} current={form} onSelect={setForm} />
            <div
              className={clsx(
                "grid min-w-0 flex-1 grid-cols-2 grid-rows-[55%_45%] bg-sheet",
                evaluation.isPlaceholderData && "opacity-95",
              )}
              onPointerUp={history.letGo}
              data-testid="sheet"
              data-settled={evaluation.settled && !solid.isFetching}
            >
              {cells.map(({ view, place, caption }) => (
                <div key={place} className={clsx("flex min-h-0 border-line", cellPlaces[place])}>
                  <div className="grid min-h-0 min-w-0 flex-1">
                    <ViewDrawing
                      view={view}
                      caption={caption}
                      checks={checks}
                      dimensions={dimensions}
                      hovered={highlighted}
                      readOnly={readOnly}
                      onHover={setHovered}
                      onSelect={select}
                      onChange={(dimension, value) => change(dimension, value, `drag ${dimension}`)}
                    />
                  </div>
                </div>
              ))}
              <figure className="order-2 flex min-h-0 min-w-0 flex-col border-b border-line">
                <figcaption className="flex justify-between px-2 pt-1 text-xs text-soft">
                  <span className="font-bold text-ink">Cut tooth</span>
                  <span>drag to turn</span>
                </figcaption>
                <div className="min-h-0 flex-1">
                  {evaluated.mesh && (
                    <ToothView3D
                      mesh={solid.data ?? evaluated.mesh}
                      turning={evaluated.mesh}
                      mark={mark}
                      from={evaluated.views.find((v) => v.from)?.from}
                    />
                  )}
                </div>
              </figure>
            </div>
            <ChecksPanel
              caseId={dental.id}
              tooth={dental.tooth.iso}
              plan={evaluated.plan}
              styles={evaluated.styles}
              dimensions={dimensions}
              form={form}
              highlighted={highlighted}
              document={document}
              readOnly={readOnly}
              onHover={setHovered}
              onSelect={select}
              onChange={change}
              onChoose={choose}
              settled={evaluation.settled}
              onGingiva={(gingiva) => history.set({ ...document, gingiva })}
            />
          </div>
          <InstrumentStrip steps={evaluated.plan.sequence} />
        </>
      )}
    </main>
  );
}
