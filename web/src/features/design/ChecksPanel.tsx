import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import { type CaseDocument, checkKey, type Schema } from "@/api/client";
import { formatTarget, formatValue } from "@/drawing/geometry";
import { useSchools } from "@/features/cases/cases";
import { askedFor } from "@/features/schools/reading";
import { type Verdict, VerdictMark } from "@/ui/VerdictMark";
import { Assumed } from "./Assumed";
import { DimensionList } from "./DimensionList";
import type { Unbuildable } from "./evaluation";
import { FinishPanel } from "./FinishPanel";
import { GingivaPanel } from "./GingivaPanel";
import { SchoolChoice } from "./SchoolChoice";
import { SittingPanel } from "./SittingPanel";
import { SolutionNote } from "./SolutionNote";

interface Props {
  caseId: string;
  tooth: string;
  plan: Schema["Plan"];
  dimensions: Schema["Dimension"][];
  /** Why figures cannot be built, by dimension. */
  unbuildable: Unbuildable;
  choices: Schema["OfferedChoice"][];
  /** It may be treated in one sitting with others. */
  mayJoin: boolean;
  form: string;
  highlighted?: string;
  /** The check that was chosen last: it is brought into sight. */
  selected?: string;
  document: CaseDocument;
  readOnly: boolean;
  onHover: (check: string | undefined) => void;
  onSelect: (check: string) => void;
  onChange: (dimension: string, value: number | undefined) => void;
  onChoose: (choice: CaseDocument["choice"]) => void;
  settled: boolean;
  /** How the proposal was fitted to the tooth; missing where it was not yet. */
  solution?: Schema["Solution"];
  solving: boolean;
  onGingiva: (gingiva: CaseDocument["gingiva"]) => void;
  /** Takes the document with something entered that was assumed. */
  onEnter: (document: CaseDocument) => void;
  /** The same checks on the tooth as the kit cuts it, once that is proven. */
  asCut?: Schema["Check"][];
}

/** The selected form's checks, then the dimensions and cautions. */
export function ChecksPanel(props: Props) {
  const { plan, form, highlighted, onHover, onSelect } = props;
  const missed = plan.checks.filter((c) => c.verdict === "missed");
  const near = plan.checks.filter((c) => c.verdict === "near").length;
  const others = plan.checks.filter((c) => c.form === form && c.verdict !== "missed");
  const folded = others.filter((c) => c.verdict === "met" || c.verdict === "not_applicable");
  // Met checks fold away where something is missed; by hand they are shown, or hidden.
  const [shown, show] = useState<{ form: string; open: boolean }>();
  const open =
    folded.some((c) => checkKey(c) === props.selected) ||
    (shown?.form === form ? shown.open : missed.length === 0);
  const item = (c: Schema["Check"]) => (
    <CheckItem
      key={checkKey(c)}
      check={c}
      asCut={props.asCut?.find((own) => checkKey(own) === checkKey(c))}
      lit={highlighted === checkKey(c)}
      onHover={(on) => onHover(on ? checkKey(c) : undefined)}
      onSelect={() => onSelect(checkKey(c))}
      tooth={props.tooth}
      material={plan.material}
    />
  );
  const panel = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the check stands in the list of its form
  useEffect(() => {
    if (props.selected)
      panel.current
        ?.querySelector(`[data-check="${CSS.escape(props.selected)}"]`)
        ?.scrollIntoView({ block: "nearest" });
  }, [props.selected, form]);
  return (
    <aside
      ref={panel}
      className="w-80 shrink-0 overflow-auto border-l border-line bg-paper p-3 max-lg:w-full max-lg:overflow-visible max-lg:border-t max-lg:border-l-0"
      aria-label="Checks"
    >
      <p className="mb-1 text-soft" data-tally>
        {missed.length} missed, {near} near of {plan.checks.filter((c) => c.value != null).length} measured
      </p>
      {missed.length > 0 && <ul className="mb-2 space-y-1">{missed.map(item)}</ul>}
      <Assumed
        advice={plan.advice}
        document={props.document}
        readOnly={props.readOnly}
        onEnter={props.onEnter}
      />
      <SchoolChoice
        plan={plan}
        document={props.document}
        choices={props.choices}
        readOnly={props.readOnly}
        onChoose={props.onChoose}
      />
      <h2 className="mt-3 mb-1 font-bold">Measured on the cut tooth</h2>
      <ul className="space-y-1">{others.filter((c) => !folded.includes(c)).map(item)}</ul>
      {folded.length > 0 && (
        <details className="mt-1" open={open}>
          {/* biome-ignore lint/a11y/noStaticElementInteractions: a summary is a button by itself */}
          <summary
            className="cursor-pointer text-accent"
            onClick={(e) => {
              e.preventDefault();
              show({ form, open: !open });
            }}
          >
            {folded.length} met here
          </summary>
          <ul className="mt-1 space-y-1">{folded.map(item)}</ul>
        </details>
      )}
      <SolutionNote solution={props.solution} solving={props.solving} />
      <DimensionList
        dimensions={props.dimensions}
        unbuildable={props.unbuildable}
        readOnly={props.readOnly}
        onChange={props.onChange}
      />
      <FinishPanel
        plan={plan}
        document={props.document}
        styles={props.choices.find((c) => c.field === "finish")?.options ?? []}
        readOnly={props.readOnly}
        settled={props.settled}
        onChoose={props.onChoose}
      />
      {plan.gingiva && (
        <GingivaPanel
          gingiva={plan.gingiva}
          own={props.document.gingiva !== undefined}
          readOnly={props.readOnly}
          onChange={props.onGingiva}
        />
      )}
      <SittingPanel id={props.caseId} wanted={props.mayJoin} />
      <h2 className="mt-4 mb-1 font-bold">Removed</h2>
      <p className="text-soft">
        enamel <b className="font-mono text-ink">{plan.volumes.enamel.toFixed(1)}</b>, dentin{" "}
        <b className="font-mono text-ink">{plan.volumes.dentin.toFixed(1)}</b> of{" "}
        <b className="font-mono text-ink">{plan.volumes.cavity.toFixed(1)}</b> mm³
        {plan.volumes.old_filling !== undefined && (
          <>
            ; old filling <b className="font-mono text-ink">{plan.volumes.old_filling.toFixed(1)}</b>
          </>
        )}
        {plan.volumes.lost !== undefined && (
          <>
            ; broken off before <b className="font-mono text-ink">{plan.volumes.lost.toFixed(1)}</b>
          </>
        )}
      </p>
      <h2 className="mt-4 mb-1 font-bold">Cautions</h2>
      <ul className="list-disc space-y-1 pl-4 text-soft">
        {plan.cautions.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
    </aside>
  );
}

interface ItemProps {
  check: Schema["Check"];
  asCut?: Schema["Check"];
  lit: boolean;
  tooth: string;
  material: Schema["Material"];
  onHover: (on: boolean) => void;
  onSelect: () => void;
}

function CheckItem({ check, asCut, lit, tooth, material, onHover, onSelect }: ItemProps) {
  const [why, setWhy] = useState(false);
  const value = check.value ?? null;
  return (
    <li
      className={clsx(
        "rounded border px-2 py-1.5",
        lit ? "border-accent bg-accent-ground" : "border-line bg-sheet",
      )}
      onPointerEnter={() => onHover(true)}
      onPointerLeave={() => onHover(false)}
      data-check={checkKey(check)}
      data-verdict={check.verdict}
    >
      <button type="button" className="flex w-full items-center gap-2 text-left" onClick={onSelect}>
        <VerdictMark verdict={check.verdict as Verdict} />
        <span className="flex-1">{check.label}</span>
        {value !== null && <b className="font-mono">{formatValue(value, check.unit)}</b>}
      </button>
      <div className="flex items-baseline gap-2 pl-6.5 text-xs text-soft">
        <span className="flex-1">
          {value === null ? noValue(check) : `target ${formatTarget(check.target, check.unit)}`}
        </span>
        <button
          type="button"
          className="text-accent underline"
          aria-expanded={why}
          onClick={() => setWhy(!why)}
        >
          why?
        </button>
      </div>
      {asCut && value !== null && (
        <p
          className="flex items-center gap-2 pl-6.5 text-xs text-soft"
          data-as-cut={checkKey(check)}
          data-verdict={asCut.verdict}
        >
          {asCut.verdict !== check.verdict && <VerdictMark verdict={asCut.verdict as Verdict} />}
          as these burs cut it
          <b className="ml-auto font-mono text-ink">
            {asCut.value == null ? "nothing to measure" : formatValue(asCut.value, asCut.unit)}
          </b>
        </p>
      )}
      {check.fix && <p className={clsx("mt-1 pl-6.5", value === null && "text-xs text-soft")}>{check.fix}</p>}
      {why && <Why check={check} tooth={tooth} material={material} />}
    </li>
  );
}

/** What stands where there is no value. */
function noValue(check: Schema["Check"]) {
  if (check.verdict !== "not_measurable") return "not asked for here";
  return `nothing to measure; target ${formatTarget(check.target, check.unit)}`;
}

/** The school's reason, and what the other schools ask for. */
function Why({
  check,
  tooth,
  material,
}: {
  check: Schema["Check"];
  tooth: string;
  material: Schema["Material"];
}) {
  const schools = useSchools({ tooth, material });
  const others = (schools.data ?? []).flatMap((s) => {
    const c = s.criteria.find((own) => own.id === check.id);
    if (!c) return [];
    const asks = c.required ? askedFor(c) : "does not ask for it";
    return [{ name: s.name, asks }];
  });
  return (
    <div className="mt-1 pl-6.5 text-xs">
      <p>{check.why}</p>
      {check.chair && check.chair !== check.fix && (
        <p className="mt-1">
          <b>On a tooth cut so:</b> {check.chair}
        </p>
      )}
      <ul className="mt-1 text-soft">
        {others.map((o) => (
          <li key={o.name}>
            {o.name}: {o.asks}
          </li>
        ))}
      </ul>
    </div>
  );
}
