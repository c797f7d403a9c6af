import { useEffect, useState } from "react";
import type { CaseDocument, Choice, Schema } from "@/api/client";
import { useSchools } from "@/features/cases/cases";
import { materials } from "@/features/cases/words";
import { finishNames } from "./FinishPanel";

interface Props {
  plan: Schema["Plan"];
  document: CaseDocument;
  /** Finishes that the cavities offer. */
  styles: Schema["FinishStyle"][];
  readOnly: boolean;
  onChoose: (choice: Choice) => void;
}

const control = "w-full rounded border border-line bg-sheet px-2 py-1 disabled:opacity-100";

/** Material, school and form: the same case under another school is one choice away. */
export function SchoolChoice({ plan, document, styles, readOnly, onChoose }: Props) {
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
        {plan.class === "II" && (
          <label className="col-span-2">
            <span className="text-xs text-soft">Form</span>
            <select
              className={control}
              value={document.choice?.form ?? ""}
              disabled={readOnly}
              onChange={(e) => choose({ form: (e.target.value || undefined) as Choice["form"] })}
            >
              <option value="">As the school has it</option>
              <option value="conventional">Box with an occlusal step</option>
              <option value="slot">Slot: the box alone</option>
            </select>
          </label>
        )}
        {styles.length > 0 && (
          <label className="col-span-2">
            <span className="text-xs text-soft">Finish of the enamel margin</span>
            <select
              className={control}
              value={document.choice?.finish ?? "short"}
              disabled={readOnly}
              onChange={(e) => choose({ finish: e.target.value as Choice["finish"] })}
            >
              {styles.map((style) => (
                <option key={style} value={style}>
                  {finishNames[style]}
                </option>
              ))}
            </select>
          </label>
        )}
        {plan.gingiva && (
          <label className="col-span-2">
            <span className="text-xs text-soft">Incisal or occlusal edge</span>
            <select
              className={control}
              value={document.choice?.upper_edge ?? "lesion"}
              disabled={readOnly}
              onChange={(e) => choose({ upper_edge: e.target.value as Choice["upper_edge"] })}
            >
              <option value="lesion">Just past the lesion</option>
              <option value="contour">Along the height of contour</option>
            </select>
          </label>
        )}
        {plan.class === "IV" && (
          <label className="col-span-2 flex items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4 accent-accent"
              checked={document.choice?.lock ?? false}
              disabled={readOnly}
              onChange={(e) => choose({ lock: e.target.checked || undefined })}
            />
            Lingual lock, of the old school
          </label>
        )}
      </div>
      {plan.choice_reason && <p className="mt-1 text-xs text-soft">{plan.choice_reason}</p>}
      {plan.advice && <ForAndAgainst advice={plan.advice} material={plan.material} />}
      <Reason
        value={document.choice?.reason ?? ""}
        readOnly={readOnly}
        onChange={(reason) => choose({ reason: reason || undefined })}
      />
    </div>
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

/** The dentist's own reason, kept with the plan. */
function Reason({
  value,
  readOnly,
  onChange,
}: {
  value: string;
  readOnly: boolean;
  onChange: (text: string) => void;
}) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  if (readOnly && !value) return null;
  return (
    <label className="mt-1 block">
      <span className="text-xs text-soft">Your reason, kept with the plan</span>
      <input
        className={control}
        value={text}
        readOnly={readOnly}
        maxLength={200}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => text !== value && onChange(text.trim())}
      />
    </label>
  );
}
