import type { Schema } from "@/api/client";
import { Button } from "@/ui/Button";
import { FigureInput } from "@/ui/FigureInput";
import { LampReadings } from "./LampReadings";
import type { Product } from "./products";

interface Props {
  kind: Schema["ProductKindOf"];
  product: Product;
  /** It is the one that fillings are planned with. */
  taken: boolean;
  note?: string;
  faults: string[];
  may: boolean;
  onChange: (to: Product | undefined) => void;
}

/** The unit of a figure that is 1 where something is so, and 0 where it is not. */
const yesNo = "yes/no";

/** One product with its figures. */
export function ProductRow({ kind, product, taken, note, faults, may, onChange }: Props) {
  const named = product.name || "the new product";
  const set = (id: string, value: number | undefined) => {
    const { [id]: _, ...others } = product.figures ?? {};
    onChange({ ...product, figures: value === undefined ? others : { ...others, [id]: value } });
  };
  return (
    <div className="mt-2 rounded border border-line bg-sheet p-3">
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2">
          Name
          <input
            className="w-64 rounded border border-line bg-sheet px-2 py-1"
            value={product.name}
            maxLength={60}
            readOnly={!may}
            onChange={(e) => onChange({ ...product, name: e.target.value })}
          />
        </label>
        {taken && <span className="rounded bg-accent-ground px-2 text-xs">planned with</span>}
        {may && (
          <Button className="ml-auto" aria-label={`Take out: ${named}`} onClick={() => onChange(undefined)}>
            Take out
          </Button>
        )}
      </div>
      <div className="mt-2 flex flex-wrap gap-x-5 gap-y-2">
        {kind.figures.map((f) =>
          f.unit === yesNo ? (
            <label key={f.id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                aria-label={`${f.label}: ${named}`}
                checked={(product.figures?.[f.id] ?? f.usual) === 1}
                disabled={!may}
                onChange={(e) => set(f.id, e.target.checked ? 1 : 0)}
              />
              <span className="text-soft">{f.label}</span>
            </label>
          ) : (
            // biome-ignore lint/a11y/noLabelWithoutControl: the figure is the control
            <label key={f.id} className="flex items-center gap-1.5">
              <span className="text-soft">{f.label}</span>
              <FigureInput
                label={`${f.label}: ${named}`}
                value={product.figures?.[f.id]}
                open={`usual, ${f.usual}`}
                placeholder={String(f.usual)}
                faulty={outside(product.figures?.[f.id], f)}
                onChange={(value) => may && set(f.id, value)}
              />
              <span className="text-xs text-soft">{f.unit}</span>
            </label>
          ),
        )}
      </div>
      {kind.kind === "lamp" && (
        <LampReadings
          named={named}
          readings={product.readings ?? []}
          may={may}
          onChange={(readings) => onChange({ ...product, readings })}
        />
      )}
      {note && <p className="mt-2 border-l-4 border-warn pl-2">{note}</p>}
      {faults.map((f) => (
        <p key={f} className="mt-2 text-warn">
          {f}
        </p>
      ))}
    </div>
  );
}

const outside = (value: number | undefined, f: Schema["ProductFigure"]) =>
  value !== undefined && !(value >= f.least && value <= f.most);
