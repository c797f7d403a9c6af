import { type CaseDocument, inWords, type Schema } from "@/api/client";
import { usePartingBySchools } from "@/features/forces/forces";

/** By how much more the cusps part than sound ones, under each school's cavity; it comes after the rest. */
export function StrengthRow({ document, schools }: { document: CaseDocument; schools: string[] }) {
  const partings = usePartingBySchools(document, schools);
  return (
    <tr className="border-b border-line align-top" aria-busy={partings.isFetching}>
      <th scope="row" className="py-1 pr-3 text-left font-normal">
        Cusps part, times the sound tooth's
        <span className="block text-xs text-soft">loaded between the cusps</span>
        {partings.error && <span className="block text-xs text-warn">{inWords(partings.error)}</span>}
      </th>
      {schools.map((school, n) => (
        <td key={school} className="py-1 pr-3">
          <Parted parting={partings.isPlaceholderData ? undefined : partings.data?.[n]} />
        </td>
      ))}
    </tr>
  );
}

function Parted({ parting }: { parting?: Schema["Parting"] }) {
  if (!parting) return <span className="text-soft">…</span>;
  const { times, times_filled: filled, text } = parting;
  if (times === undefined) return <span className="text-xs text-soft">{text}</span>;
  return (
    <>
      <b className="font-mono">{times.toFixed(1)}</b>
      {filled !== undefined && (
        <span className="block text-xs text-soft">{filled.toFixed(1)} with a bonded composite</span>
      )}
    </>
  );
}
