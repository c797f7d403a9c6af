import type { Schema } from "@/api/client";
import { Assumed } from "@/ui/Heading";

/** The opening of the sound, the cut and the filled tooth, side by side as bars. */
export function DeflectionTable({ deflection, stale }: { deflection: Schema["Deflection"]; stale: boolean }) {
  const { sound, cut, filled } = deflection;
  const rows = [
    { name: "sound", value: sound },
    { name: "as cut", value: cut },
    { name: "bonded composite", value: filled },
  ];
  const most = Math.max(...rows.map((r) => r.value ?? 0));
  return (
    <div data-testid="deflection">
      {stale && <p className="text-xs text-soft">Loading the tooth anew…</p>}
      {most > 0 && (
        <table className="my-1 w-full">
          <caption className="text-left text-xs text-soft">
            Cuspal deflection, facial from lingual, µm
          </caption>
          <tbody>
            {rows.map((r) => (
              <tr key={r.name}>
                <th scope="row" className="w-1 pr-2 text-left font-normal whitespace-nowrap">
                  {r.name}
                </th>
                <td>
                  <div
                    className="h-2.5 bg-accent"
                    style={{ width: `${(100 * Math.max(r.value ?? 0, 0)) / most}%` }}
                  />
                </td>
                <td className="w-1 pl-2 text-right font-mono">{(r.value ?? 0).toFixed(1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p>{deflection.text}</p>
      {deflection.cusps.length > 0 && <Cusps cusps={deflection.cusps} />}
      {deflection.bulks.length > 0 && <Bulks bulks={deflection.bulks} text={deflection.bulk_text} />}
      <Assumed all={deflection.assumptions} />
    </div>
  );
}

const millimetres = (v: number | undefined) => (v ? v.toFixed(1) : "–");

/** Each cusp as it stands, and how far it goes outwards. */
function Cusps({ cusps }: { cusps: Schema["CuspDeflection"][] }) {
  return (
    <table className="mt-2 w-full text-right">
      <thead className="text-xs text-soft">
        <tr>
          <td />
          <th colSpan={3} className="border-b border-line font-normal">
            stands, mm
          </th>
          <th colSpan={3} className="border-b border-line pl-2 font-normal">
            goes out, µm
          </th>
        </tr>
        <tr className="align-bottom">
          <th className="text-left font-normal">cusp</th>
          <th className="font-normal">base</th>
          <th className="pl-1 font-normal">high</th>
          <th className="pl-1 font-normal">wide</th>
          <th className="pl-2 font-normal">sound</th>
          <th className="pl-1 font-normal">cut</th>
          <th className="pl-1 font-normal">bonded</th>
        </tr>
      </thead>
      <tbody className="font-mono">
        {cusps.map((c) => (
          <tr key={c.cusp} className="align-top">
            <td className="text-left font-sans">
              {c.cusp}
              {c.under && (
                <span className="block text-xs text-soft">cavity {c.under.toFixed(1)} mm under its tip</span>
              )}
            </td>
            <td>{millimetres(c.base)}</td>
            <td>{millimetres(c.over)}</td>
            <td>{millimetres(c.width)}</td>
            <td className="pl-2">{c.sound.toFixed(1)}</td>
            <td>{c.cut.toFixed(1)}</td>
            <td>{c.filled.toFixed(1)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How thick the filling is where a load on its ridge bends it. */
function Bulks({ bulks, text }: { bulks: Schema["FillingBulk"][]; text?: string }) {
  return (
    <>
      <table className="mt-2 w-full text-right">
        <thead className="text-xs text-soft">
          <tr className="align-bottom">
            <th className="text-left font-normal">filling at the</th>
            <th className="font-normal">isthmus mm</th>
            <th className="pl-1 font-normal">ridge mm</th>
            <th className="pl-1 font-normal">bends by MPa</th>
          </tr>
        </thead>
        <tbody className="font-mono">
          {bulks.map((b) => (
            <tr key={b.of}>
              <td className="text-left font-sans">{b.of} ridge</td>
              <td>{b.isthmus.toFixed(1)}</td>
              <td>{b.ridge.toFixed(1)}</td>
              <td>{b.bend.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-xs text-soft">{text}</p>
    </>
  );
}
