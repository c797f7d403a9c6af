import { toast } from "sonner";
import { ApiProblem, inWords, type Schema } from "@/api/client";
import { useEdited } from "@/app/useEdited";
import { useLeaving } from "@/app/useLeaving";
import { useSession } from "@/features/session/session";
import { useInstruments } from "@/steps/instruments";
import { Button } from "@/ui/Button";
import { KeepBar } from "@/ui/KeepBar";
import { Notice } from "@/ui/Notice";
import { KitFile } from "./KitFile";
import { KitRow } from "./KitRow";
import { type KitItem, useKit, useSaveKit, withItem } from "./kit";

const groups: { name: string; holds: (i: Schema["Instrument"]) => boolean }[] = [
  { name: "Burs and diamonds", holds: (i) => i.profile.length > 0 },
  { name: "Hand instruments", holds: (i) => i.blade !== undefined },
  { name: "Gauges and supplies", holds: (i) => i.profile.length === 0 && !i.blade },
];

/** How wide the columns are, in all groups; what is left is for the use. */
const columns = ["w-56", "w-40", "", "w-20", "w-28", "w-20", "w-24", "w-24"];

/** What the practice has of the instruments: what is in the drawer, and how it measures. */
export function KitPage() {
  const kit = useKit();
  const instruments = useInstruments();
  const failed = kit.error ?? instruments.error;
  if (failed) {
    return (
      <main className="mx-auto max-w-xl p-10">
        <Notice
          tone="warn"
          title="The kit cannot be read"
          actions={<Button onClick={() => kit.refetch()}>Try again</Button>}
        >
          {inWords(failed)}
        </Notice>
      </main>
    );
  }
  if (!kit.data || !instruments.data) return <p className="p-10 text-soft">Reading the kit…</p>;
  return <Kit kept={kit.data} instruments={instruments.data} />;
}

interface Props {
  kept: Schema["PracticeKit"];
  instruments: Schema["Instrument"][];
}

function Kit({ kept, instruments }: Props) {
  const edited = useEdited(kept, (d) => d.kit.items);
  const { value: items, set: setItems, changed } = edited;
  const save = useSaveKit();
  const session = useSession();
  const may = session.data?.may.includes("change_rules") ?? false;
  useLeaving(changed, "The changed kit is not kept. Leave all the same?");
  const problem = save.error instanceof ApiProblem ? save.error : undefined;
  const faults = new Map<string, string[]>();
  for (const f of problem?.faults ?? []) {
    const item = items[Number(/items\[(\d+)\]/.exec(f.path ?? "")?.[1])];
    if (item) faults.set(item.instrument, [...(faults.get(item.instrument) ?? []), f.message]);
  }
  const set = (item: KitItem) => setItems(withItem(items, item));

  return (
    <main className="h-full overflow-auto p-6">
      <KeepBar
        title="Kit"
        about="No step takes up what is used up: it says what stands in, and at what cost. Burs and blades cut at the size you measured."
        what="the kit"
        edited={edited}
        ready={may}
        saving={save.isPending}
        error={save.error}
        faultsStand={faults.size > 0 ? "the instruments" : undefined}
        onKeep={() =>
          save.mutate(
            { version: edited.from.version, kit: { ...kept.kit, items } },
            {
              onSuccess: () => {
                edited.discard();
                toast("The kit is kept. Steps are proven with it from now on.");
              },
            },
          )
        }
      >
        <KitFile items={items} may={may} onRead={setItems} />
      </KeepBar>
      {groups.map((g) => (
        <section key={g.name} aria-label={g.name} className="mt-4">
          <table className="w-full min-w-4xl table-fixed border-collapse">
            <colgroup>
              {columns.map((width, n) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their order
                <col key={n} className={width} />
              ))}
            </colgroup>
            <thead className="text-left text-soft">
              <tr className="border-b border-line">
                {[
                  g.name,
                  "To one scale",
                  "For",
                  "Pieces",
                  "Uses of each",
                  "Uses left",
                  "Width, mm",
                  "Length, mm",
                ].map((h, n) => (
                  <th
                    // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their order
                    key={n}
                    scope="col"
                    className={n === 0 ? "py-1.5 pr-3 font-bold text-ink" : "py-1.5 pr-3 font-normal"}
                  >
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {instruments.filter(g.holds).map((i) => (
                <KitRow
                  key={i.id}
                  instrument={i}
                  item={items.find((own) => own.instrument === i.id) ?? { instrument: i.id }}
                  note={changed ? undefined : kept.notes.find((n) => n.instrument === i.id)}
                  faults={faults.get(i.id) ?? []}
                  may={may}
                  onChange={set}
                />
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </main>
  );
}
