import type { CaseDocument, Schema } from "@/api/client";
import { useSchools } from "@/features/cases/cases";

interface Props {
  plan: Schema["Plan"];
  document: CaseDocument;
  readOnly: boolean;
  onChoose: (choice: CaseDocument["choice"]) => void;
}

const control = "w-full rounded border border-line bg-sheet px-2 py-1 disabled:opacity-100";

/** Material and school: the same case under another school is one choice away. */
export function SchoolChoice({ plan, document, readOnly, onChoose }: Props) {
  const schools = useSchools();
  const choose = (change: CaseDocument["choice"]) =>
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
            onChange={(e) => choose({ material: e.target.value })}
          >
            <option value="amalgam">Amalgam</option>
            <option value="composite">Composite</option>
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
      </div>
      {plan.choice_reason && <p className="mt-1 text-xs text-soft">{plan.choice_reason}</p>}
    </div>
  );
}
