import type { Schema } from "@/api/client";
import { ViewDrawing } from "@/drawing/ViewDrawing";
import { useFilling } from "@/features/filling/filling";
import { useStage } from "@/steps/sequence";

/** The filling in the sections of the tooth, in one view at a time. */
export function FilledPicture({
  document,
  caseId,
  turn,
}: {
  document: Schema["CaseDocument"];
  caseId: string;
  turn: number;
}) {
  const filling = useFilling(document, { caseId, proven: true, wanted: true });
  const views = filling.data?.views ?? [];
  const along = Math.max(
    views.findIndex((v) => v.section === "along"),
    0,
  );
  return (
    <Shown
      view={views[(along + turn) % Math.max(views.length, 1)]}
      failed={filling.isError}
      waiting={filling.isPlaceholderData}
    />
  );
}

/** The tooth as it should look after the step, with its bur, in one view at a time. */
export function Picture({
  document,
  step,
  turn,
}: {
  document: Schema["CaseDocument"];
  step: number;
  turn: number;
}) {
  const stage = useStage(document, step);
  const views = stage.data?.views ?? [];
  const first = stage.data?.first ?? 0; // V turns to the others
  return (
    <Shown
      view={views[(first + turn) % Math.max(views.length, 1)]}
      failed={stage.isError}
      waiting={stage.isPlaceholderData}
    />
  );
}

function Shown({ view, failed, waiting }: { view?: Schema["View"]; failed: boolean; waiting: boolean }) {
  if (failed)
    return <p className="place-self-center p-10 text-center text-[32px] text-warn">No picture: no answer.</p>;
  if (!view || waiting) return <p className="place-self-center p-10 text-[32px] text-soft">Drawing…</p>;
  return (
    <ViewDrawing
      view={view}
      checks={[]}
      dimensions={[]}
      readOnly
      lettering={32}
      onHover={() => {}}
      onSelect={() => {}}
      onChange={() => {}}
    />
  );
}
