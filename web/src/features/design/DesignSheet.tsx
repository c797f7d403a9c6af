import clsx from "clsx";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { toast } from "sonner";
import { ApiProblem, type CaseDocument, checkKey, type Schema } from "@/api/client";
import { useOfferActions } from "@/app/actions";
import { useShortcut } from "@/app/useShortcut";
import { type Side, ToothView3D } from "@/drawing/ToothView3D";
import { ViewDrawing } from "@/drawing/ViewDrawing";
import { useFixRevision } from "@/features/cases/cases";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";
import { Notice } from "@/ui/Notice";
import { ChecksPanel } from "./ChecksPanel";
import { type Sections, useEvaluation, useSolid } from "./evaluation";
import { FormRail, forms } from "./FormRail";
import { useHistory } from "./history";
import { InstrumentStrip } from "./InstrumentStrip";
import { cellPlaces, sheetCells } from "./sheetCells";
import { TitleBlock } from "./TitleBlock";
import { useAutosave } from "./useAutosave";

interface Props {
  dental: Schema["Case"];
  initial: CaseDocument;
  /** Shown instead of the draft, unchangeable. */
  revision?: Schema["Revision"];
}

const exports: [string, string][] = [
  ["card.pdf", "Card, A4 (PDF)"],
  ["card-letter.pdf", "Card, Letter (PDF)"],
  ["drawing.svg", "Drawing (SVG)"],
  ["drawing.png", "Drawing (PNG)"],
  ["plan.json", "Plan (JSON)"],
  ["case.json", "Case (JSON)"],
  ["prepared.stl", "Prepared tooth (STL)"],
  ["intact.stl", "Intact tooth (STL)"],
  ["cavity.stl", "Cavity (STL)"],
  ["prepared.obj", "Prepared tooth (OBJ)"],
  ["prepared.ply", "Prepared tooth (PLY)"],
];

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
    const overrides = { ...document.overrides };
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
  const dimensions = useMemo(
    () =>
      (evaluated?.dimensions ?? []).map((d) => ({ ...d, value: document.overrides?.[d.id] ?? d.proposed })),
    [evaluated, document],
  );
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
      ...exports.map(([file, name]) => ({ name: `Export: ${name}`, run: () => open(file) })),
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
      <div className="flex h-11 shrink-0 items-center gap-3 border-b border-line px-4">
        <TitleBlock dental={dental} plan={evaluated?.plan} revision={revision} />
        <div className="ml-auto flex shrink-0 items-center gap-2 whitespace-nowrap">
          <span
            className={clsx("text-xs", autosave.state === "failed" ? "text-warn" : "text-soft")}
            role="status"
          >
            {!readOnly &&
              {
                saved: "Draft saved",
                saving: "Saving…",
                failed: "Not saved: no answer",
              }[autosave.state]}
          </span>
          {!readOnly && (
            <>
              <Button onClick={history.undo} disabled={!history.canUndo}>
                Undo
              </Button>
              <Button onClick={history.redo} disabled={!history.canRedo}>
                Redo
              </Button>
            </>
          )}
          <Link className="px-1 text-accent underline" to={`/cases/${dental.id}/compare`}>
            Compare schools
          </Link>
          <Menu label="Print and export">
            {exports.map(([file, name]) => (
              <MenuItem key={file} onSelect={() => open(file)}>
                {name}
              </MenuItem>
            ))}
          </Menu>
          {dental.revisions.length > 0 && (
            <Menu label={revision ? `Revision ${revision.number}` : "Draft"}>
              <MenuItem onSelect={() => navigate(`/cases/${dental.id}`)}>Draft</MenuItem>
              {[...dental.revisions].reverse().map((r) => (
                <MenuItem
                  key={r.number}
                  onSelect={() => navigate(`/cases/${dental.id}/revisions/${r.number}`)}
                >
                  Revision {r.number}, {r.by}
                </MenuItem>
              ))}
            </Menu>
          )}
          {!readOnly && (
            <Button
              kind="main"
              onClick={fixRevision}
              disabled={fix.isPending || !evaluated || evaluated.plan.refused !== undefined}
            >
              Fix as revision
            </Button>
          )}
        </div>
      </div>
      {evaluation.isError && <EvaluationFault error={evaluation.error} retry={() => evaluation.refetch()} />}
      {!evaluated && evaluation.isPending && (
        <p className="p-10 text-soft">Modelling the tooth and cutting it…</p>
      )}
      {evaluated?.plan.refused && (
        <section className="mx-auto max-w-xl p-10">
          <Notice tone="warn" title="No plan is made">
            {evaluated.plan.refused}
          </Notice>
          {evaluated.plan.advice && evaluated.plan.advice.treatment !== "restore" && !readOnly && (
            <Button
              className="mt-4 mr-4"
              onClick={() => choose({ ...document.choice, treatment: "restore" })}
            >
              Restore all the same
            </Button>
          )}
          <Link className="mt-4 inline-block text-accent underline" to="/cases">
            To the day sheet
          </Link>
        </section>
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
                      from={firstSide(evaluated.views)}
                    />
                  )}
                </div>
              </figure>
            </div>
            <ChecksPanel
              caseId={dental.id}
              toothGroup={dental.tooth.group}
              plan={evaluated.plan}
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

/** The side of the first box, or the face that is looked at, which the tooth is turned to. */
function firstSide(views: Schema["View"][]): Side | undefined {
  const box = views.find((v) => v.id.startsWith("proximal_"));
  if (box) return box.id.endsWith("mesial") ? "mesial" : "distal";
  const first = views[0]?.id ?? "";
  if (first.endsWith("_facial")) return "facial";
  return first.endsWith("_lingual") ? "lingual" : undefined;
}

function EvaluationFault({ error, retry }: { error: Error; retry: () => void }) {
  const problem = error instanceof ApiProblem ? error : undefined;
  return (
    <div className="p-3">
      <Notice tone="warn" title={problem?.problem.title ?? "The server does not answer"}>
        {problem ? (
          problem.faults.map((f) => (
            <p key={f.path + f.message}>
              {f.path}: {f.message}
            </p>
          ))
        ) : (
          <p>The drawing shows the last answer. Your changes are kept on this page.</p>
        )}
        <Button className="mt-2" onClick={retry}>
          Try again
        </Button>
      </Notice>
    </div>
  );
}
