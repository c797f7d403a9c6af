import { lazy, type ReactNode, Suspense, useMemo, useState } from "react";
import { formatValue } from "@/drawing/geometry";
import { ViewDrawing } from "@/drawing/ViewDrawing";
import { Pane3D } from "@/drawing/webgl";
import { Button } from "@/ui/Button";
import { QuizPanel } from "./QuizPanel";
import type { Shown } from "./StudyTooth3D";
import { type Axis, type Studied, type Study, useNeighbours, useSection, useTouch } from "./study";

const StudyTooth3D = lazy(async () => ({ default: (await import("./StudyTooth3D")).StudyTooth3D }));

interface Props {
  study: Study;
  studied: Studied;
  title: ReactNode;
}

const tissues: [keyof Shown, string][] = [
  ["enamel", "Enamel and root"],
  ["dentin", "Dentin"],
  ["pulp", "Pulp"],
  ["glass", "See through"],
];
const surroundings: [keyof Shown, string][] = [
  ["names", "Names"],
  ["gingiva", "Gingiva"],
  ["neighbours", "Neighbours"],
  ["antagonist", "Opposing plane"],
];

const axes: [Axis, string][] = [
  ["buccolingual", "Across the arch"],
  ["mesiodistal", "Along the arch"],
  ["level", "Level"],
];

const none: number[][] = [];

/** The tooth in hand: turnable, with its section and what the finger feels. */
export function StudyBench({ study, studied, title }: Props) {
  const [shown, setShown] = useState<Shown>({
    enamel: true,
    dentin: true,
    pulp: true,
    glass: false,
    names: true,
    gingiva: true,
    neighbours: false,
    antagonist: false,
    cut: false,
  });
  const [axis, setAxis] = useState<Axis>("buccolingual");
  const [places, setPlaces] = useState<Record<Axis, number>>({ buccolingual: 0, mesiodistal: 0, level: 0 });
  const [lit, setLit] = useState<string>();
  const [point, setPoint] = useState<number[]>();
  const [quiz, setQuiz] = useState(false);
  const [marks, setMarks] = useState<number[][]>(none);
  const at = places[axis];
  const neighbours = useNeighbours(study, shown.neighbours);
  const section = useSection(study, axis, at, shown.neighbours);
  const touch = useTouch(study, point);
  const range = useMemo(() => sliderRange(studied, axis), [studied, axis]);
  const cut = useMemo(() => (shown.cut ? { axis, at } : undefined), [shown.cut, axis, at]);
  // While it is asked about, the tooth does not tell its names.
  const seen = useMemo(() => (quiz ? { ...shown, names: false } : shown), [quiz, shown]);
  const toggle = (name: keyof Shown) => setShown((s) => ({ ...s, [name]: !s[name] }));

  return (
    <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_340px] max-lg:grid-cols-1">
      <section className="flex min-h-0 min-w-0 flex-col" aria-label="Tooth">
        <header className="flex flex-wrap items-center justify-between gap-x-4 border-b border-line px-3 py-2">
          {title}
          {!quiz && (
            <Button
              onClick={() => {
                setPoint(undefined);
                setQuiz(true);
              }}
            >
              Quiz
            </Button>
          )}
        </header>
        <div className="space-y-1 border-b border-line px-3 py-1.5">
          {[tissues, surroundings].map((group) => (
            <div key={group[0]?.[0]} className="flex flex-wrap gap-x-4">
              {group.map(([name, label]) => (
                <label key={name} className="flex items-center gap-1.5 whitespace-nowrap">
                  <input
                    type="checkbox"
                    className="accent-accent"
                    checked={shown[name]}
                    onChange={() => toggle(name)}
                  />
                  {label}
                </label>
              ))}
            </div>
          ))}
        </div>
        <div className="min-h-0 flex-1 max-lg:h-[30rem] max-lg:flex-none">
          <Pane3D>
            <Suspense fallback={<p className="p-4 text-soft">Loading the turnable tooth…</p>}>
              <StudyTooth3D
                studied={studied}
                neighbours={shown.neighbours ? neighbours.data : undefined}
                shown={seen}
                cut={cut}
                section={section.data}
                lit={lit}
                touch={!quiz && point && touch.data ? touch.data : undefined}
                marks={marks}
                onTouch={setPoint}
              />
            </Suspense>
          </Pane3D>
        </div>
        <p className="px-3 pb-2 text-xs text-soft">
          Average shape, calculated: a planning and study aid, no measurement of a patient's tooth.
        </p>
      </section>
      <aside
        aria-label="Section and figures"
        className="flex min-h-0 flex-col overflow-auto border-l border-line"
      >
        <div className="flex items-center justify-between gap-2 px-3 pt-2">
          <select
            aria-label="Section"
            className="rounded border border-line bg-sheet px-2 py-1"
            value={axis}
            onChange={(e) => setAxis(e.target.value as Axis)}
          >
            {axes.map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-accent"
              checked={shown.cut}
              onChange={() => toggle("cut")}
            />
            Cut open
          </label>
        </div>
        <label className="flex items-center gap-2 px-3 py-1">
          <span className="text-xs text-soft">{axis === "level" ? "above the CEJ" : "from the middle"}</span>
          <input
            type="range"
            className="min-w-0 flex-1 accent-accent"
            min={range[0]}
            max={range[1]}
            step={0.1}
            value={at}
            aria-label="Place of the section, mm"
            onChange={(e) => setPlaces((p) => ({ ...p, [axis]: Number(e.target.value) }))}
          />
          <output className="w-16 text-right font-mono">{at.toFixed(1)} mm</output>
        </label>
        <div className="grid h-[270px] shrink-0 border-b border-line">
          {section.data && (
            <ViewDrawing
              view={section.data}
              checks={[]}
              dimensions={[]}
              onHover={() => undefined}
              onSelect={() => undefined}
              onChange={() => undefined}
            />
          )}
        </div>
        {quiz && (
          <QuizPanel
            study={study}
            point={point}
            onShow={(places, seeThrough) => {
              setMarks(places);
              setShown((s) => (seeThrough && !s.glass ? { ...s, glass: true, pulp: true } : s));
            }}
            onNext={() => setPoint(undefined)}
            onClose={() => {
              setQuiz(false);
              setMarks(none);
            }}
          />
        )}
        {!quiz && (
          <section className="border-b border-line px-3 py-2" aria-live="polite">
            <h2 className="font-bold">Under your finger</h2>
            {point && touch.isError ? (
              <p className="text-soft">That point is not on this tooth. Touch its surface.</p>
            ) : point && touch.data ? (
              <dl className="grid grid-cols-[1fr_auto] gap-x-3">
                <dt>Enamel</dt>
                <dd className="text-right font-mono">
                  {touch.data.enamel > 0 ? formatValue(touch.data.enamel, "mm") : "none, root"}
                </dd>
                <dt>To the pulp{touch.data.horn && `, ${touch.data.horn} horn`}</dt>
                <dd className="text-right font-mono">{formatValue(touch.data.pulp, "mm")}</dd>
                <dt>of it dentin</dt>
                <dd className="text-right font-mono">{formatValue(touch.data.dentin, "mm")}</dd>
              </dl>
            ) : (
              <p className="text-soft">
                Click the tooth anywhere: how thick the enamel is there, and how far the pulp.
              </p>
            )}
          </section>
        )}
        {!quiz && (
          <>
            <section className="border-b border-line px-3 py-2">
              <h2 className="font-bold">Measured on this model</h2>
              <dl className="grid grid-cols-[1fr_auto] gap-x-3">
                {studied.figures.map((f) => (
                  <div key={f.label} className="contents">
                    <dt>{f.label}</dt>
                    <dd className="text-right font-mono">{formatValue(f.value, f.unit)}</dd>
                  </div>
                ))}
                {shown.neighbours &&
                  neighbours.data?.map((n) => (
                    <div key={n.iso} className="contents">
                      <dt>
                        Gap to {n.iso}, {n.side}
                      </dt>
                      <dd className="text-right font-mono">{formatValue(n.gap, "mm")}</dd>
                    </div>
                  ))}
              </dl>
            </section>
            <section className="px-3 py-2">
              <h2 className="font-bold">Landmarks</h2>
              <ul className="grid grid-cols-2 gap-x-3">
                {studied.landmarks.map((l) => (
                  <li key={l.name}>
                    <button
                      type="button"
                      className="w-full rounded px-1 text-left hover:bg-accent-ground focus-visible:bg-accent-ground"
                      onPointerEnter={() => setLit(l.name)}
                      onPointerLeave={() => setLit(undefined)}
                      onFocus={() => setLit(l.name)}
                      onBlur={() => setLit(undefined)}
                    >
                      {l.name}
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          </>
        )}
      </aside>
    </div>
  );
}

/** How far a section can move and still meet the tooth. */
function sliderRange(studied: Studied, axis: Axis): [number, number] {
  const half = (size: number) => Math.ceil(5 * size) / 10;
  switch (axis) {
    case "buccolingual":
      return [-half(studied.sizes.mesiodistal), half(studied.sizes.mesiodistal)];
    case "mesiodistal":
      return [-half(studied.sizes.buccolingual), half(studied.sizes.buccolingual)];
    default:
      return [-6, Math.floor(studied.sizes.height * 10) / 10];
  }
}
