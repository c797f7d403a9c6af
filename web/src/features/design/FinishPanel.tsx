import clsx from "clsx";
import type { CaseDocument, Choice, Schema } from "@/api/client";
import { useFinishes } from "./evaluation";

interface Props {
  plan: Schema["Plan"];
  document: CaseDocument;
  /** Finishes that the cavities offer. */
  styles: Schema["OfferedOption"][];
  readOnly: boolean;
  /** The plan is the document's own, and not that of an earlier one. */
  settled: boolean;
  onChoose: (choice: Choice) => void;
}

/** What the margins gain and cost, the styles side by side where there is a choice. */
export function FinishPanel({ plan, document, styles, readOnly, settled, onChoose }: Props) {
  const finishes = plan.finishes ?? [];
  const compared = useFinishes(document, settled && styles.length > 0);
  if (finishes.length === 0) return null;
  return (
    <section aria-label="Margins" className="mt-4">
      <h2 className="mb-1 font-bold">Margins</h2>
      {finishes.map((own) => {
        const rows = compared.data?.filter((f) => f.site === own.site) ?? [];
        return (
          <div key={own.site} className="mb-2">
            {finishes.length > 1 && <h3 className="text-soft">{own.name}</h3>}
            <table className="w-full text-right">
              <thead className="text-xs text-soft">
                <tr>
                  <th className="text-left align-bottom font-normal">finish</th>
                  <th className="pl-2 align-bottom font-normal">enamel bonded mm²</th>
                  <th className="pl-2 align-bottom font-normal">sound enamel spent mm³</th>
                  <th className="pl-2 align-bottom font-normal">margin seen mm</th>
                  {own.edge_index !== undefined && (
                    <th className="pl-2 align-bottom font-normal">edge index</th>
                  )}
                </tr>
              </thead>
              <tbody>
                {(rows.length > 0 ? rows : [own]).map((f) => (
                  <FinishRow
                    key={f.style ?? ""}
                    finish={f}
                    name={styles.find((s) => s.value === f.style)?.label ?? "–"}
                    chosen={f.style === own.style}
                    onChoose={
                      readOnly || rows.length === 0
                        ? undefined
                        : () =>
                            onChoose({
                              material: plan.material,
                              school: plan.school,
                              ...document.choice,
                              finish: f.style,
                            })
                    }
                  />
                ))}
              </tbody>
            </table>
            <p className="mt-1 text-xs text-soft">
              Margin {own.margin.toFixed(1)} mm long. {own.contact && `Contact ${own.contact}. `}
              {own.bonded_dentin > 0.05 && `Dentin laid open ${own.bonded_dentin.toFixed(1)} mm². `}
              {own.edge_index !== undefined &&
                "The edge index compares what the bond holds against a load on the rebuilt edge."}
            </p>
          </div>
        );
      })}
    </section>
  );
}

function FinishRow({
  finish,
  name,
  chosen,
  onChoose,
}: {
  finish: Schema["Finish"];
  name: string;
  chosen: boolean;
  onChoose?: () => void;
}) {
  return (
    <tr className={clsx(chosen && "bg-accent-ground font-bold")}>
      <td className="text-left">
        {chosen || !onChoose ? (
          name
        ) : (
          <button type="button" className="text-left text-accent underline" onClick={onChoose}>
            {name}
          </button>
        )}
      </td>
      <td className="font-mono">{finish.bonded_enamel.toFixed(1)}</td>
      <td className="font-mono">{finish.enamel_spent.toFixed(1)}</td>
      <td className="font-mono">{finish.margin_seen.toFixed(1)}</td>
      {finish.edge_index !== undefined && <td className="font-mono">{finish.edge_index.toFixed(1)}</td>}
    </tr>
  );
}
