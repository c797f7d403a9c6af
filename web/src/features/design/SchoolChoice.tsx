import type { CaseDocument, Choice, Schema } from "@/api/client";
import { useSchools } from "@/features/cases/cases";
import { materials } from "@/features/cases/words";
import { Reason } from "./Reason";

interface Props {
  plan: Schema["Plan"];
  document: CaseDocument;
  /** What there is to decide beyond material and school. */
  choices: Schema["OfferedChoice"][];
  readOnly: boolean;
  onChoose: (choice: Choice) => void;
}

const control = "w-full rounded border border-line bg-sheet px-2 py-1 disabled:opacity-100";

/** Material, school and form: the same case under another school is one choice away. */
export function SchoolChoice({ plan, document, choices, readOnly, onChoose }: Props) {
  const schools = useSchools();
  const choose = (change: Choice) =>
    onChoose({ material: plan.material, school: plan.school, ...document.choice, ...change });
  return (
    <div>
      <div className="grid grid-cols-2 gap-2">
        <label>
          <span className="text-xs text-soft">Material</span>
          <select
            className={control}
            value={plan.material}
            disabled={readOnly}
            onChange={(e) => choose({ material: e.target.value as Schema["Material"] })}
          >
            {Object.entries(materials).map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="text-xs text-soft">School</span>
          <select
            className={control}
            value={plan.school}
            disabled={readOnly}
            onChange={(e) => choose({ school: e.target.value })}
          >
            {(schools.data ?? [{ id: plan.school, name: plan.school }]).map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        {choices.map((c) => (
          <Offered
            key={c.field}
            offered={c}
            value={document.choice?.[c.field]}
            readOnly={readOnly}
            onChoose={(value) => choose({ [c.field]: value })}
          />
        ))}
      </div>
      {plan.choice_reason && <p className="mt-1 text-xs text-soft">{plan.choice_reason}</p>}
      {plan.advice && <ForAndAgainst advice={plan.advice} material={plan.material} />}
      {plan.advice && <OtherWays advice={plan.advice} readOnly={readOnly} onChoose={choose} />}
      <Reason
        value={document.choice?.reason ?? ""}
        readOnly={readOnly}
        onChange={(reason) => choose({ reason: reason || undefined })}
      />
    </div>
  );
}

interface OfferedProps {
  offered: Schema["OfferedChoice"];
  value: string | boolean | undefined;
  readOnly: boolean;
  onChoose: (value: string | boolean | undefined) => void;
}

/** One of them: a tick, or a list whose first entry holds while nothing is chosen. */
function Offered({ offered, value, readOnly, onChoose }: OfferedProps) {
  if (offered.options.length === 0) {
    return (
      <label className="col-span-2 flex items-center gap-1.5">
        <input
          type="checkbox"
          className="size-4 accent-accent"
          checked={value === true}
          disabled={readOnly}
          onChange={(e) => onChoose(e.target.checked || undefined)}
        />
        {offered.label}
      </label>
    );
  }
  return (
    <label className="col-span-2">
      <span className="text-xs text-soft">{offered.label}</span>
      <select
        className={control}
        value={String(value ?? offered.options[0]?.value ?? "")}
        disabled={readOnly}
        onChange={(e) => onChoose(e.target.value || undefined)}
      >
        {offered.options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What speaks for and against the material in this case. */
function ForAndAgainst({ advice, material }: { advice: Schema["Advice"]; material: string }) {
  const own = advice.materials.find((m) => m.material === material);
  if (!own) return null;
  return (
    <details className="mt-1 text-xs" open={own.barred !== undefined}>
      <summary className="cursor-pointer text-accent">For and against {material}</summary>
      {own.barred && <p className="mt-1 font-bold text-warn">{own.barred}: check local law.</p>}
      <ul className="mt-1 space-y-0.5 text-soft">
        {own.for.map((text) => (
          <li key={text}>+ {text}</li>
        ))}
        {own.against.map((text) => (
          <li key={text}>− {text}</li>
        ))}
      </ul>
    </details>
  );
}

/** What else is open than the cut that is planned here. */
function OtherWays({
  advice,
  readOnly,
  onChoose,
}: {
  advice: Schema["Advice"];
  readOnly: boolean;
  onChoose: (change: Choice) => void;
}) {
  const others = (advice.ways ?? []).filter((w) => w.treatment !== advice.followed);
  if (others.length === 0) return null;
  const advised = others.find((w) => w.treatment === advice.treatment);
  return (
    <details className="mt-1 text-xs">
      <summary className="cursor-pointer text-accent">
        {advised ? `Against the advice: ${advised.label.toLowerCase()}` : "Other ways"}
      </summary>
      <p className="mt-1 text-soft">{advice.reason}</p>
      <ul className="mt-1 space-y-1 text-soft">
        {others.map((w) => (
          <li key={w.treatment}>
            <b>{w.label}.</b> {w.does}{" "}
            {!readOnly && (
              <button
                type="button"
                className="text-accent underline"
                onClick={() =>
                  onChoose({ treatment: w.treatment === advice.treatment ? undefined : w.treatment })
                }
              >
                Choose
              </button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
