import { useState } from "react";
import type { Schema } from "@/api/client";
import { type Device, useDevice } from "@/features/device/useDevice";
import { Button } from "@/ui/Button";

/** Where a radiometer that speaks WebSocket listens, on the computer of this browser. */
const radiometerAddress = "ws://127.0.0.1:8088";

const meterWords: Record<Device, string> = {
  off: "Use a radiometer",
  sought: "Radiometer: none answers yet",
  connected: "Radiometer connected: hold the tip to it",
};

/** The day by the clock of this place, as a date field has it. */
function today() {
  const now = new Date();
  return new Date(now.getTime() - 60_000 * now.getTimezoneOffset()).toISOString().slice(0, 10);
}

type Reading = Schema["LampReading"];

interface Props {
  named: string;
  readings: Reading[];
  may: boolean;
  onChange: (readings: Reading[]) => void;
}

/** What a radiometer read at a lamp's tip, over time. */
export function LampReadings({ named, readings, may, onChange }: Props) {
  const [on, setOn] = useState("");
  const [typed, setTyped] = useState("");
  const [metered, meter] = useState(false);
  const radiometer = useDevice(radiometerAddress, metered, (text) => {
    setTyped(text);
    setOn((day) => day || today());
  });
  const output = typed.trim() === "" ? Number.NaN : Number(typed.replace(",", "."));
  const best = Math.max(...readings.map((r) => r.output), 1);
  return (
    <div className="mt-3">
      {readings.length > 0 && (
        <table>
          <caption className="text-left text-soft">Read at its tip, mW/cm²</caption>
          <tbody>
            {readings.map((r, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: readings are known by their order
              <tr key={n}>
                <th scope="row" className="pr-3 text-left font-mono font-normal">
                  {r.on}
                </th>
                <td className="w-40">
                  <div className="h-2.5 bg-accent" style={{ width: `${(100 * r.output) / best}%` }} />
                </td>
                <td className="pl-2 text-right font-mono">{r.output}</td>
                <td className="pl-3">
                  {may && (
                    <Button
                      aria-label={`Take out the reading of ${r.on}: ${named}`}
                      onClick={() => onChange(readings.toSpliced(n, 1))}
                    >
                      Take out
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {may && (
        <form
          className="mt-2 flex flex-wrap items-center gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (!on || Number.isNaN(output)) return;
            const all = [...readings, { on, output }];
            onChange(all.sort((a, b) => a.on.localeCompare(b.on)));
            setTyped("");
          }}
        >
          <label className="flex items-center gap-2">
            <span className="text-soft">Read on</span>
            <input
              type="date"
              className="rounded border border-line bg-sheet px-2 py-0.5"
              aria-label={`Day of the reading: ${named}`}
              value={on}
              onChange={(e) => setOn(e.target.value)}
            />
          </label>
          <span className="flex items-center gap-1.5">
            <input
              className="w-20 rounded border border-line bg-sheet px-1 py-0.5 text-right font-mono"
              inputMode="decimal"
              aria-label={`Reading: ${named}`}
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
            <span className="text-xs text-soft">mW/cm²</span>
          </span>
          <Button
            type="submit"
            aria-label={`Add the reading: ${named}`}
            disabled={!on || Number.isNaN(output)}
          >
            Add the reading
          </Button>
          <button
            type="button"
            aria-label={`${meterWords[radiometer]}: ${named}`}
            className="text-accent underline"
            onClick={() => meter(!metered)}
          >
            {meterWords[radiometer]}
          </button>
        </form>
      )}
    </div>
  );
}
