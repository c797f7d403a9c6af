import { useState } from "react";
import { inWords, type Schema } from "@/api/client";
import { useMay } from "@/features/session/session";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { FigureInput } from "@/ui/FigureInput";
import { useConstants, useSaveConstants } from "./forces";

type Constant = Schema["StrengthConstant"];

/** What the figures of strength rest on, each with its source; the practice may set its own. */
export function ConstantsDialog({ onClose }: { onClose: () => void }) {
  const kept = useConstants(true);
  const save = useSaveConstants();
  const may = useMay("change_rules");
  const [changed, setChanged] = useState<Record<string, { value: number; source: string }>>({});
  const rows = (kept.data?.constants ?? []).map((c) => ({ ...c, ...changed[c.id] }));
  const set = (c: Constant, to: { value?: number; source?: string }) =>
    setChanged({ ...changed, [c.id]: { value: to.value ?? c.value, source: to.source ?? c.source } });
  const isUsual = (c: Constant) => c.value === c.usual && c.source === c.usual_source;

  function keep() {
    const own = rows.filter((c) => !isUsual(c)).map(({ id, value, source }) => ({ id, value, source }));
    save.mutate({ version: kept.data?.version ?? 0, own }, { onSuccess: onClose });
  }

  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Constants of strength" wide>
      <p className="mb-2 text-soft">
        Of all teeth of the practice. They move every figure of strength; hold is geometry, and rests on none
        of them.
      </p>
      {kept.isPending && <p className="text-soft">Reading them…</p>}
      {kept.error && <p className="text-warn">{inWords(kept.error)}</p>}
      <table className="w-full">
        <thead className="text-left text-xs text-soft">
          <tr>
            <th className="font-normal">Constant</th>
            <th className="font-normal">Value</th>
            <th className="font-normal">Source</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {rows.map((c) => (
            <tr key={c.id} className="border-t border-line align-top">
              <th scope="row" className="py-1.5 pr-3 text-left font-normal whitespace-nowrap">
                {c.name}
                <span className="block text-xs text-soft">
                  {c.least} to {c.most} {c.unit}
                </span>
              </th>
              <td className="py-1.5 pr-3 whitespace-nowrap">
                {may ? (
                  <FigureInput
                    label={c.name}
                    value={c.value}
                    faulty={!(c.value >= c.least && c.value <= c.most)}
                    onChange={(value) => value !== undefined && set(c, { value })}
                  />
                ) : (
                  <b className="font-mono">{c.value}</b>
                )}{" "}
                {c.unit}
              </td>
              <td className="w-full py-1.5 pr-3">
                {may ? (
                  <textarea
                    className="w-full rounded border border-line bg-sheet px-2 py-1 aria-invalid:border-warn"
                    aria-label={`Source of: ${c.name}`}
                    aria-invalid={c.source.trim() === "" || undefined}
                    rows={2}
                    maxLength={300}
                    value={c.source}
                    onChange={(e) => set(c, { source: e.target.value })}
                  />
                ) : (
                  c.source
                )}
              </td>
              <td className="py-1.5">
                {may && !isUsual(c) && (
                  <Button
                    aria-label={`As shipped: ${c.name}`}
                    onClick={() => set(c, { value: c.usual, source: c.usual_source })}
                  >
                    As shipped
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {save.error && <p className="mt-2 text-warn">{inWords(save.error)}</p>}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>{may ? "Cancel" : "Close"}</Button>
        {may && (
          <Button kind="main" disabled={save.isPending || Object.keys(changed).length === 0} onClick={keep}>
            Keep
          </Button>
        )}
      </div>
    </Dialog>
  );
}
