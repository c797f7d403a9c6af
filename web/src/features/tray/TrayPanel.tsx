import type { UseQueryResult } from "@tanstack/react-query";
import { inWords, type Schema } from "@/api/client";
import { FillSteps } from "@/features/filling/FillSteps";
import { Button } from "@/ui/Button";
import { Heading } from "@/ui/Heading";
import { useSitting } from "./sitting";

interface Props {
  caseId: string;
  filling: UseQueryResult<Schema["FilledCase"]>;
  /** It may be one of several cervical cavities that are done together. */
  mayJoin: boolean;
  onPrint: (file: string) => void;
}

/** What is done before the bur, and what lies ready for all of it. */
export function TrayPanel({ caseId, filling, mayJoin, onPrint }: Props) {
  const sitting = useSitting(caseId, mayJoin);
  const teeth = (sitting.data?.visits ?? []).map((v) => v.tooth);
  const together = teeth.length > 1;
  return (
    <aside
      aria-label="Tray"
      className="w-80 shrink-0 overflow-auto border-l border-line bg-paper p-3 max-lg:w-full max-lg:overflow-visible max-lg:border-t max-lg:border-l-0"
      aria-busy={filling.isFetching}
    >
      {filling.isPending && <p className="text-soft">Laying out…</p>}
      {filling.error && <p className="text-warn">{inWords(filling.error)}</p>}
      {filling.data && (
        <>
          <FillSteps
            title="Before the bur"
            steps={filling.data.before}
            seconds={filling.data.before_seconds}
          />
          <Laid title="On the tray" tray={filling.data.tray} onPrint={() => onPrint("tray.pdf")} />
          {together && (
            <Laid
              title={`In one sitting, ${teeth.join(" and ")}`}
              tray={sitting.data?.tray ?? []}
              onPrint={() => onPrint("sitting.pdf")}
            />
          )}
        </>
      )}
    </aside>
  );
}

function Laid({ title, tray, onPrint }: { title: string; tray: Schema["TrayItem"][]; onPrint: () => void }) {
  const groups = [...new Set(tray.map((i) => i.group))];
  return (
    <section aria-label={title} className="mt-4">
      <Heading ground="1× is thrown away after">{title}</Heading>
      {groups.map((group) => (
        <div key={group} className="mt-1.5">
          <h3 className="text-soft">{group}</h3>
          <ul>
            {tray
              .filter((i) => i.group === group)
              .map((i) => (
                <li key={i.name} className="flex items-baseline gap-2">
                  <span className="w-6 shrink-0 text-right font-mono text-xs">
                    {i.single_use ? `${i.count}×` : i.count > 1 ? i.count : ""}
                  </span>
                  <span className="min-w-0 flex-1">
                    {i.name}
                    {i.note && <span className={i.missing ? "text-warn" : "text-soft"}>, {i.note}</span>}
                  </span>
                </li>
              ))}
          </ul>
        </div>
      ))}
      <Button className="mt-2" onClick={onPrint}>
        Print
      </Button>
    </section>
  );
}
