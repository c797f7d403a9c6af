import clsx from "clsx";
import { inWords, type Schema } from "@/api/client";
import { strainLook } from "@/drawing/StrainOverlay";
import { Button } from "@/ui/Button";
import { FigureInput } from "@/ui/FigureInput";
import { VerdictShape } from "@/ui/VerdictMark";
import type { Bite, useHold, useParting, useStrain } from "./forces";

interface Props {
  hold: ReturnType<typeof useHold>;
  parting: ReturnType<typeof useParting>;
  /** The section's picture; left out where no section is shown. */
  strain?: ReturnType<typeof useStrain>;
  /** In what state the section is loaded. */
  state: Schema["SectionState"];
  bite: Bite;
  /** The pull whose arrow is drawn, by filling and pull. */
  shown: string;
  readOnly: boolean;
  onBite: (bite: Bite) => void;
  onState: (state: Schema["SectionState"]) => void;
  onShow: (pull: string) => void;
  onChange: (dimension: string, value: number) => void;
}

/** Names a pull of a plan. */
export const pullKey = (filling: number, pull: number) => `${filling}.${pull}`;

/** What holds each filling, what a change would buy, and what the cavity costs in stiffness. */
export function ForcesPanel(props: Props) {
  const { hold, parting, strain, bite, shown, readOnly, onBite, onShow, onChange } = props;
  const fillings = hold.data?.fillings ?? [];
  const changes = hold.data?.changes ?? [];
  return (
    <aside
      aria-label="Forces"
      className="w-80 shrink-0 overflow-auto border-l border-line bg-paper p-3 max-lg:w-full max-lg:overflow-visible max-lg:border-t max-lg:border-l-0"
      aria-busy={hold.isFetching || parting.isFetching}
    >
      <Heading ground="geometry of the cut tooth, mm">Will it hold?</Heading>
      {hold.isPending && <p className="text-soft">Pulling at the filling…</p>}
      {hold.error && <p className="text-warn">{inWords(hold.error)}</p>}
      {fillings.map((filling, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: fillings stand in the order of the plan
        <section key={n} className="mb-3">
          {fillings.length > 1 && (
            <h3 className="text-soft">
              Filling {n + 1}
              {filling.of && `, ${filling.of}`}
            </h3>
          )}
          {filling.bonded && <p className="text-xs text-soft">Without its bond:</p>}
          <ul className="space-y-1">
            {filling.pulls.map((p, k) => (
              <PullItem
                key={pullKey(n, k)}
                pull={p}
                lit={shown === pullKey(n, k)}
                onSelect={() => onShow(pullKey(n, k))}
              />
            ))}
          </ul>
          <p className="mt-1 text-xs text-soft">{filling.text}</p>
          {filling.bond && (
            <>
              <Heading ground="an index">Its bond</Heading>
              <p>{filling.bond.text}</p>
            </>
          )}
        </section>
      ))}
      {hold.data && <p className="text-xs text-soft">{hold.data.assumption}</p>}
      {changes.length > 0 && (
        <>
          <Heading ground="geometry, cut again with it">One change would buy</Heading>
          <ul className="space-y-1">
            {changes.map((c) => (
              <li
                key={c.text}
                className="flex items-start gap-2 rounded border border-line bg-sheet px-2 py-1.5"
              >
                <span className="flex-1">{c.text}</span>
                {!readOnly && (
                  <Button aria-label={`Set: ${c.label}`} onClick={() => onChange(c.dimension, c.to)}>
                    Set
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      <Heading ground="physics, as assumed below">Will it give way?</Heading>
      {(parting.error || (parting.data?.cusps.length ?? 0) > 0) && (
        <Load bite={bite} parting={parting.data} onBite={onBite} />
      )}
      {parting.isPending && <p className="text-soft">Loading the tooth…</p>}
      {parting.error && <p className="text-warn">{inWords(parting.error)}</p>}
      {parting.data && <Parted parting={parting.data} stale={parting.isPlaceholderData} />}
      {strain && (parting.data?.cusps.length ?? 0) > 0 && (
        <>
          <Heading ground="physics of a slice">Across the section</Heading>
          <Section strain={strain} state={props.state} onState={props.onState} />
        </>
      )}
    </aside>
  );
}

function Heading({ ground, children }: { ground: string; children: string }) {
  return (
    <h2 className="mt-3 mb-1 flex items-baseline justify-between gap-2 font-bold first:mt-0">
      {children}
      <span className="text-right text-xs font-normal text-soft">{ground}</span>
    </h2>
  );
}

const states = { held: "met", fit: "near", free: "missed" } as const;
const stateNames = { held: "held", fit: "by fit alone", free: "free" } as const;

function PullItem({ pull, lit, onSelect }: { pull: Schema["Pull"]; lit: boolean; onSelect: () => void }) {
  return (
    <li data-pull={pull.name} data-state={pull.state}>
      <button
        type="button"
        aria-pressed={lit}
        onClick={onSelect}
        className={clsx(
          "flex w-full items-start gap-2 rounded border px-2 py-1.5 text-left",
          lit ? "border-accent bg-accent-ground" : "border-line bg-sheet",
        )}
      >
        <svg
          width="18"
          height="18"
          viewBox="-9 -9 18 18"
          role="img"
          aria-label={stateNames[pull.state]}
          className="mt-0.5 shrink-0"
        >
          <VerdictShape verdict={states[pull.state]} />
        </svg>
        {lit ? (
          <span>{pull.text}</span>
        ) : (
          <>
            <span className="flex-1">
              {pull.name}
              {pull.turns && `, ${pull.side}`}
            </span>
            <b className="font-mono">{pull.mm > 0 ? pull.mm.toFixed(2) : stateNames[pull.state]}</b>
          </>
        )}
      </button>
    </li>
  );
}

function Load({
  bite,
  parting,
  onBite,
}: {
  bite: Bite;
  parting?: Schema["Parting"];
  onBite: (bite: Bite) => void;
}) {
  return (
    <p className="mb-1 flex flex-wrap items-center gap-x-2 gap-y-1">
      Load
      <FigureInput
        label="Load in newtons"
        value={bite.newtons ?? parting?.newtons}
        open="the usual one"
        onChange={(newtons) => onBite({ ...bite, newtons })}
      />
      N,
      <FigureInput
        label="Load, millimetres from the tips"
        value={bite.down ?? parting?.down}
        open="the usual place"
        onChange={(down) => onBite({ ...bite, down })}
      />
      mm from the tips
    </p>
  );
}

const sectionStates = { sound: "sound", cut: "as cut", filled: "bonded" } as const;

/** In what state the section is drawn, what its lines mean and what it shows. */
function Section({
  strain,
  state,
  onState,
}: {
  strain: ReturnType<typeof useStrain>;
  state: Schema["SectionState"];
  onState: (state: Schema["SectionState"]) => void;
}) {
  return (
    <div aria-busy={strain.isFetching}>
      <fieldset className="mb-1 flex gap-3">
        <legend className="sr-only">The section is drawn</legend>
        {(Object.keys(sectionStates) as Schema["SectionState"][]).map((s) => (
          <label key={s} className="flex items-center gap-1">
            <input
              type="radio"
              name="section-state"
              className="accent-accent"
              checked={s === state}
              onChange={() => onState(s)}
            />
            {sectionStates[s]}
          </label>
        ))}
      </fieldset>
      {strain.error && <p className="text-warn">{inWords(strain.error)}</p>}
      {strain.data && (
        <>
          <p className="flex flex-wrap items-center gap-x-3 text-xs text-soft">
            tension, MPa
            {strain.data.levels.map((level) => (
              <span key={level.mpa} className="flex items-center gap-1">
                <svg width="22" height="8" aria-hidden="true">
                  <path
                    d="M0 4H22"
                    stroke="var(--warn)"
                    strokeWidth={strainLook[level.mpa]?.width}
                    strokeDasharray={strainLook[level.mpa]?.dash}
                  />
                </svg>
                {level.mpa}
              </span>
            ))}
          </p>
          <p className="mt-1">{strain.data.text}</p>
          <Assumed all={strain.data.assumptions} />
        </>
      )}
    </div>
  );
}

function Assumed({ all }: { all: string[] }) {
  return (
    <ul className="mt-2 list-disc space-y-0.5 pl-4 text-xs text-soft">
      {all.map((a) => (
        <li key={a}>{a}</li>
      ))}
    </ul>
  );
}

/** The opening of the sound, the cut and the filled tooth, side by side as bars. */
function Parted({ parting, stale }: { parting: Schema["Parting"]; stale: boolean }) {
  const { sound, cut, filled } = parting;
  const rows = [
    { name: "sound", value: sound },
    { name: "as cut", value: cut },
    { name: "bonded composite", value: filled },
  ];
  const most = Math.max(...rows.map((r) => r.value ?? 0));
  return (
    <div data-testid="parting">
      {stale && <p className="text-xs text-soft">Loading the tooth anew…</p>}
      {most > 0 && (
        <table className="my-1 w-full">
          <caption className="text-left text-xs text-soft">Facial and lingual cusps part by, µm</caption>
          <tbody>
            {rows.map((r) => (
              <tr key={r.name}>
                <th scope="row" className="w-1 pr-2 text-left font-normal whitespace-nowrap">
                  {r.name}
                </th>
                <td>
                  <div className="h-2.5 bg-accent" style={{ width: `${(100 * (r.value ?? 0)) / most}%` }} />
                </td>
                <td className="w-1 pl-2 text-right font-mono">{(r.value ?? 0).toFixed(1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p>{parting.text}</p>
      {parting.cusps.length > 0 && (
        <table className="mt-2 w-full text-right">
          <thead className="text-xs text-soft">
            <tr>
              <th className="text-left align-bottom font-normal">cusp</th>
              <th className="pl-2 align-bottom font-normal">base mm</th>
              <th className="pl-2 align-bottom font-normal">high mm</th>
              <th className="pl-2 align-bottom font-normal">goes out, sound µm</th>
              <th className="pl-2 align-bottom font-normal">cut µm</th>
              <th className="pl-2 align-bottom font-normal">bonded µm</th>
            </tr>
          </thead>
          <tbody>
            {parting.cusps.map((c) => (
              <tr key={c.cusp}>
                <td className="text-left">{c.cusp}</td>
                <td className="font-mono">{c.base?.toFixed(1) ?? "–"}</td>
                <td className="font-mono">{c.over?.toFixed(1) ?? "–"}</td>
                {[c.sound, c.cut, c.filled].map((v, n) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: three columns
                  <td key={n} className="pl-2 font-mono">
                    {v.toFixed(1)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Assumed all={parting.assumptions} />
    </div>
  );
}
