import { useState } from "react";
import { inWords } from "@/api/client";
import { Button } from "@/ui/Button";
import { type Load, useCancelFineRun, useFineRun, useStartFineRun } from "./forces";

interface Props {
  caseId: string;
  load: Load;
  readOnly: boolean;
  /** Saves the draft first: what is computed is what is kept. */
  onFlush: () => Promise<unknown>;
}

/** The same on finer cells, which a worker computes: it goes on while the page or the server is gone. */
export function FineRun({ caseId, load, readOnly, onFlush }: Props) {
  const last = useFineRun(caseId, true);
  const start = useStartFineRun(caseId);
  const cancel = useCancelFineRun(caseId);
  const [fault, setFault] = useState<string>();
  const run = last.data ?? undefined;
  const deflection = run?.deflection;

  async function begin() {
    setFault(undefined);
    try {
      await onFlush();
      await start.mutateAsync(load);
    } catch (error) {
      setFault(inWords(error));
    }
  }

  return (
    <section aria-label="On finer cells" className="mt-2 rounded border border-line bg-sheet px-2 py-1.5">
      <div className="flex items-center gap-2">
        <b className="flex-1">On finer cells</b>
        {run?.state === "runs" ? (
          <Button disabled={readOnly || cancel.isPending} onClick={() => cancel.mutate(run.id)}>
            End it
          </Button>
        ) : (
          <Button disabled={readOnly || start.isPending} onClick={begin}>
            Compute
          </Button>
        )}
      </div>
      {fault && <p className="text-warn">{fault}</p>}
      {cancel.error && <p className="text-warn">{inWords(cancel.error)}</p>}
      {run?.state === "runs" && (
        <progress
          className="mt-1 h-2.5 w-full appearance-none bg-line [&::-moz-progress-bar]:bg-accent [&::-webkit-progress-bar]:bg-line [&::-webkit-progress-value]:bg-accent"
          max={1}
          value={run.share}
          aria-label="Done so far"
        />
      )}
      {run?.state === "cancelled" && <p className="text-soft">It was ended before it was done.</p>}
      {run?.state === "failed" && <p className="text-warn">It could not be done: {run.failed}</p>}
      {deflection && (
        <>
          {!run?.current && (
            <p className="text-xs text-warn">Of an earlier draft, or under other constants.</p>
          )}
          <p>
            {deflection.sound === undefined ? (
              deflection.text
            ) : (
              <>
                sound <b className="font-mono">{(deflection.sound ?? 0).toFixed(2)}</b>, as cut{" "}
                <b className="font-mono">{(deflection.cut ?? 0).toFixed(2)}</b>, bonded composite{" "}
                <b className="font-mono">{(deflection.filled ?? 0).toFixed(2)}</b> µm
              </>
            )}
          </p>
          <p className="text-xs text-soft">
            {deflection.assumptions[0]} {deflection.cells && `Cells of ${deflection.cells} mm.`}
          </p>
        </>
      )}
    </section>
  );
}
