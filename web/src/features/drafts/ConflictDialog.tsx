import { useQuery } from "@tanstack/react-query";
import { api, type CaseDocument, inWords, unwrap } from "@/api/client";
import { keys } from "@/api/keys";
import { LineSample, Overlay } from "@/features/compare/Overlay";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

interface Props {
  mine: CaseDocument;
  theirs: CaseDocument;
  /** When theirs was saved. */
  at: string;
  onClose: () => void;
  onDecide: (mine: boolean) => void;
}

/** Two drafts of one case: mine, theirs, or both drawn over each other first. */
export function ConflictDialog({ mine, theirs, at, onClose, onDecide }: Props) {
  const when = new Date(at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
  const own = useDrawn(mine);
  const other = useDrawn(theirs);
  const both = [own.data, other.data].flatMap((d) => (d ? [d] : []));
  const views = both[0]?.views ?? [];
  const pair = (id?: string) => both.flatMap((d) => d.views.filter((v) => v.id === id));
  const failed = own.error ?? other.error;
  const parted = differing(mine, theirs);
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Two drafts of this case" wide>
      <p>
        Yours is the continuous line, the one saved on {when} the broken one. The one you do not keep can be
        brought back with Undo while this page is open.
      </p>
      <ul className="mt-3 flex gap-6">
        {["Mine", "Theirs"].map((name, n) => (
          <li key={name} className="flex items-center gap-2">
            <LineSample n={n} />
            {name}
          </li>
        ))}
      </ul>
      {failed && <p className="mt-3 text-warn">They cannot be drawn over each other: {inWords(failed)}</p>}
      {!failed && both.length < 2 && <p className="mt-3 text-soft">Drawing both…</p>}
      {both.length === 2 && (
        <div className="mt-2 grid grid-cols-2 gap-4">
          <Overlay views={pair(views[0]?.id)} outline="cavity" />
          <Overlay views={pair(views.at(-1)?.id)} outline="enamel" />
        </div>
      )}
      {parted.length > 0 && (
        <table className="mt-3 w-full">
          <thead className="text-left text-soft">
            <tr>
              {["Where they differ", "Mine", "Theirs"].map((h) => (
                <th key={h} className="py-1 font-normal">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {parted.map((p) => (
              <tr key={p.name} className="border-t border-line">
                <th scope="row" className="py-1 text-left font-normal">
                  {own.data?.dimensions.find((d) => d.id === p.name)?.label ?? p.name}
                </th>
                <td className="font-mono">{p.mine}</td>
                <td className="font-mono">{p.theirs}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Decide later</Button>
        <Button onClick={() => onDecide(false)}>Take theirs</Button>
        <Button kind="main" onClick={() => onDecide(true)}>
          Keep mine
        </Button>
      </div>
    </Dialog>
  );
}

function useDrawn(document: CaseDocument) {
  return useQuery({
    queryKey: keys.conflict(document),
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }) => unwrap(await api.POST("/evaluate", { body: document, signal })),
  });
}

/** The figures and choices in which two drafts differ. */
function differing(mine: CaseDocument, theirs: CaseDocument) {
  const flat = (d: CaseDocument): Record<string, string> => ({
    ...Object.fromEntries(Object.entries(d.overrides ?? {}).map(([k, v]) => [k, String(v)])),
    ...Object.fromEntries(Object.entries(d.choice ?? {}).map(([k, v]) => [k, String(v)])),
    findings: d.findings.map((f) => `${f.kind} ${f.site} ${f.depth}`.replaceAll("_", " ")).join(", "),
  });
  const [a, b] = [flat(mine), flat(theirs)];
  return [...new Set([...Object.keys(a), ...Object.keys(b)])]
    .filter((name) => a[name] !== b[name])
    .map((name) => ({ name, mine: a[name] ?? "as proposed", theirs: b[name] ?? "as proposed" }));
}
