import { type CaseDocument, inWords, type Schema } from "@/api/client";
import { useDeflectionBySchools } from "@/features/forces/forces";

/** How much greater cuspal deflection is than the sound tooth's, under each school's cavity; it comes after the rest. */
export function StrengthRow({ document, schools }: { document: CaseDocument; schools: string[] }) {
  const deflections = useDeflectionBySchools(document, schools);
  return (
    <tr className="border-b border-line align-top" aria-busy={deflections.isFetching}>
      <th scope="row" className="py-1 pr-3 text-left font-normal">
        Cuspal deflection, times the sound tooth's
        <span className="block text-xs text-soft">loaded between the cusps</span>
        {deflections.error && <span className="block text-xs text-warn">{inWords(deflections.error)}</span>}
      </th>
      {schools.map((school, n) => (
        <td key={school} className="py-1 pr-3">
          <Deflection deflection={deflections.isPlaceholderData ? undefined : deflections.data?.[n]} />
        </td>
      ))}
    </tr>
  );
}

function Deflection({ deflection }: { deflection?: Schema["Deflection"] }) {
  if (!deflection) return <span className="text-soft">…</span>;
  const { times, times_filled: filled, text } = deflection;
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
