import { useEffect, useMemo, useState } from "react";
import { toast } from "sonner";
import { type CaseDocument, checkKey, type Schema } from "@/api/client";
import { useShortcut } from "@/app/useShortcut";
import { Tooth3D } from "@/drawing/Tooth3D";
import { toggleTagNames } from "@/drawing/tagNames";
import { hasWebGL } from "@/drawing/webgl";
import type { DraftKeeper } from "@/features/drafts/DraftKeeper";
import { DraftNotice } from "@/features/drafts/DraftNotice";
import { FillingPanel } from "@/features/filling/FillingPanel";
import { useFilling, withFilling } from "@/features/filling/filling";
import { ForcesPanel } from "@/features/forces/ForcesPanel";
import { useForces } from "@/features/forces/useForces";
import { useSession } from "@/features/session/session";
import { TrayPanel } from "@/features/tray/TrayPanel";
import type { Sections } from "@/sheet/sections";
import { useProof, useRested, useStage } from "@/steps/sequence";
import { CareWays } from "./CareWays";
import { ChecksPanel } from "./ChecksPanel";
import { useEvaluation, useSolid } from "./evaluation";
import { FormRail, fillingView, forcesView, forms, trayView } from "./FormRail";
import { useHistory } from "./history";
import { InstrumentStrip } from "./InstrumentStrip";
import { SheetBar } from "./SheetBar";
import { SheetDrawings } from "./SheetDrawings";
import { EvaluationFault } from "./SheetNotices";
import { StepPanel } from "./StepPanel";
import { sheetCells } from "./sheetCells";
import { useSheetDeeds } from "./useSheetDeeds";

/** The section that a load is drawn in. */
const sectionUnderLoad = "buccolingual";

interface Props {
  dental: Schema["Case"];
  /** Keeps the draft; a revision has none. */
  keeper?: DraftKeeper;
  /** Shown instead of the draft, unchangeable. */
  revision?: Schema["Revision"];
}

/** The working drawing with its checks; every dimension tag is a handle. */
export function DesignSheet({ dental, keeper, revision }: Props) {
  const readOnly = revision !== undefined || dental.archived || !dental.may.includes("change_case");
  const history = useHistory(revision?.document ?? keeper?.document ?? dental.document);
  const document = history.value;
  const [sideView, setSideView] = useState<string>();
  const [sections, setSections] = useState<Sections>({});
  const evaluation = useEvaluation(document, sections);
  const [proving, prove] = useState<CaseDocument>();
  const rested = useRested(document, useSession().data?.prove_after_seconds ?? 0);
  const toProve = proving === document || (rested && evaluation.settled && !evaluation.data?.plan.refused);
  const fixed = revision && { case: dental.id, revision: revision.number };
  const proof = useProof(document, toProve, fixed);
  const proven = toProve ? proof.data?.sequence : undefined;
  const [shown, show] = useState<number>();
  const shownStep = proven ? shown : undefined;
  const [pointed, point] = useState<number[]>(); // a place of the proof
  const stage = useStage(document, shownStep, fixed);
  const staged = shownStep === undefined ? undefined : stage.data;
  const [form, setForm] = useState(forms[0]?.id ?? "outline");
  const inForces = form === forcesView;
  const inFilling = form === fillingView;
  const inTray = form === trayView;
  const solid = useSolid(
    document,
    hasWebGL() && evaluation.settled && evaluation.data?.mesh !== undefined,
    inFilling,
  );
  const [hovered, setHovered] = useState<string>();
  const [selected, setSelected] = useState<string>();

  const change = (dimension: string, value: number | undefined, grip?: string) => {
    const overrides: Record<string, number> = { ...document.overrides };
    if (value === undefined) delete overrides[dimension];
    else overrides[dimension] = value;
    history.set({ ...document, overrides }, grip);
  };
  const choose = (choice: CaseDocument["choice"]) => history.set({ ...document, choice });

  useEffect(() => {
    if (!readOnly) keeper?.change(document);
  }, [keeper, document, readOnly]);
  // What was saved elsewhere while nothing was changed here; Undo brings the old back.
  // biome-ignore lint/correctness/useExhaustiveDependencies: when the case is read anew
  useEffect(() => {
    if (!keeper?.adopt(dental)) return;
    history.set(keeper.document);
    toast("This draft was changed elsewhere: here it is as it stands now. Undo brings back what was here.");
  }, [keeper, dental]);

  const deeds = useSheetDeeds({ dental, keeper: readOnly ? undefined : keeper, revision, document, history });

  useShortcut("n", toggleTagNames);
  useShortcut("ctrl+z", history.undo);
  useShortcut("ctrl+shift+z", history.redo);

  const evaluated = evaluation.data;
  // What is in force on this page, which the server may still be working on.
  const dimensions = useMemo(() => {
    const set: Record<string, number> = { ...document.overrides };
    return (evaluated?.dimensions ?? []).map((d) => ({ ...d, value: set[d.id] ?? d.proposed }));
  }, [evaluated, document]);
  const checks = evaluated?.plan.checks ?? [];
  const filling = useFilling(document, {
    sections,
    caseId: dental.id,
    revision: revision?.number,
    proven: proven !== undefined,
    wanted: (inFilling || inTray) && evaluation.settled,
  });
  const views = evaluated?.views ?? [];
  const cells = staged
    ? sheetCells(staged.views, sideView, setSideView, sections)
    : sheetCells(
        inFilling ? withFilling(views, filling.data?.views) : views,
        sideView,
        setSideView,
        sections,
        setSections,
      );
  const loaded = inForces ? cells.find((c) => c.view.id === sectionUnderLoad)?.view : undefined;
  const turned = (loaded?.u[1] ?? 1) < 0;
  const forces = useForces(document, inForces && evaluation.settled, loaded?.at);
  const highlighted = hovered ?? selected;
  const mark = pointed ?? checks.find((c) => checkKey(c) === highlighted)?.where?.point;
  function select(id: string) {
    setSelected(id);
    const found = checks.find((c) => checkKey(c) === id);
    if (found) setForm(found.form);
  }

  return (
    <main className="flex h-full flex-col max-lg:h-auto max-lg:min-h-full">
      <SheetBar
        dental={dental}
        plan={evaluated?.plan}
        revision={revision}
        keeper={readOnly ? undefined : keeper}
        history={history}
        fixing={deeds.fixing}
        buildable={evaluation.current}
        onFix={deeds.fixRevision}
        onOpen={deeds.open}
      />
      {keeper && !readOnly && <DraftNotice keeper={keeper} onTheirs={() => history.set(keeper.document)} />}
      {evaluation.error && (
        <EvaluationFault
          error={evaluation.error}
          figures={Object.keys(evaluation.unbuildable).map((id) => ({
            id,
            label: dimensions.find((d) => d.id === id)?.label ?? id,
          }))}
          onBack={readOnly ? undefined : (id) => change(id, undefined)}
          onUndo={history.canUndo && !readOnly ? history.undo : undefined}
          retry={() => evaluation.refetch()}
        />
      )}
      {!evaluated && evaluation.isPending && (
        <p className="p-10 text-soft">Modelling the tooth and cutting it…</p>
      )}
      {evaluated?.plan.refused && (
        <CareWays plan={evaluated.plan} document={document} readOnly={readOnly} onChange={history.set} />
      )}
      {evaluated && !evaluated.plan.refused && (
        <>
          <div className="flex min-h-0 flex-1 max-lg:flex-col">
            <FormRail
              checks={checks}
              current={form}
              onSelect={(form) => {
                setForm(form);
                if (form === forcesView || form === fillingView) setSideView(sectionUnderLoad);
              }}
            />
            <SheetDrawings
              cells={cells}
              forces={inForces ? forces : undefined}
              loaded={loaded}
              checks={checks}
              dimensions={dimensions}
              highlighted={highlighted}
              pointed={pointed}
              readOnly={readOnly}
              faded={evaluation.isPlaceholderData}
              settled={evaluation.settled && !solid.isFetching}
              onHover={setHovered}
              onSelect={select}
              onChange={(dimension, value) => change(dimension, value, `drag ${dimension}`)}
              onLetGo={history.letGo}
            >
              {evaluated.mesh && (
                <Tooth3D
                  mesh={staged?.mesh ?? solid.data ?? evaluated.mesh}
                  turning={staged?.mesh ?? (inFilling ? solid.data : undefined) ?? evaluated.mesh}
                  title={inFilling && !staged ? "Filled tooth" : "Cut tooth"}
                  mark={inForces ? undefined : mark}
                  pull={inForces ? forces.shownPull : undefined}
                  loads={inForces ? forces.deflection.data?.loads : undefined}
                  from={evaluated.views.find((v) => v.from)?.from}
                  upper={dental.tooth.letters.startsWith("U")}
                  biting={dental.tooth.anterior ? "incisal" : "occlusal"}
                />
              )}
            </SheetDrawings>
            {proven && shownStep !== undefined ? (
              <StepPanel
                sequence={proven}
                at={shownStep}
                waiting={stage.isPending || stage.isPlaceholderData}
                onStep={show}
                onPoint={point}
                onClose={() => show(undefined)}
              />
            ) : inFilling ? (
              <FillingPanel filling={filling} />
            ) : inTray ? (
              <TrayPanel
                caseId={dental.id}
                filling={filling}
                mayJoin={evaluated.may_join}
                onPrint={deeds.open}
              />
            ) : inForces ? (
              <ForcesPanel
                dental={dental}
                document={document}
                forces={forces}
                turned={turned}
                readOnly={readOnly}
                onFlush={() => keeper?.flush() ?? Promise.resolve()}
                onChange={change}
              />
            ) : (
              <ChecksPanel
                caseId={dental.id}
                tooth={dental.tooth.iso}
                plan={evaluated.plan}
                choices={evaluated.choices}
                mayJoin={evaluated.may_join}
                dimensions={dimensions}
                unbuildable={evaluation.unbuildable}
                form={form}
                highlighted={highlighted}
                selected={selected}
                document={document}
                readOnly={readOnly}
                onHover={setHovered}
                onSelect={select}
                onChange={change}
                onChoose={choose}
                settled={evaluation.settled}
                solution={evaluated.solution}
                solving={evaluation.solving}
                asCut={proven?.as_cut}
                onEnter={history.set}
                onGingiva={(gingiva) => history.set({ ...document, gingiva })}
              />
            )}
          </div>
          <InstrumentStrip
            caseId={dental.id}
            steps={proven?.steps ?? evaluated.plan.sequence}
            proof={proven ? "proven" : !toProve ? "drawn" : proof.isError ? "failed" : "running"}
            share={proof.data?.share ?? 0}
            onProve={() => (toProve ? proof.refetch() : prove(document))}
            shown={shownStep}
            onShow={show}
          />
        </>
      )}
    </main>
  );
}
