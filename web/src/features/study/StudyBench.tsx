import { lazy, type ReactNode, Suspense, useMemo, useState } from "react";
import { Pane3D } from "@/drawing/webgl";
import { Button } from "@/ui/Button";
import { QuizPanel } from "./QuizPanel";
import { SectionPane } from "./SectionPane";
import { StudyFigures, UnderFinger } from "./StudyFigures";
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
        <SectionPane
          axis={axis}
          at={at}
          range={range}
          view={section.data}
          cut={shown.cut}
          onAxis={setAxis}
          onCut={() => toggle("cut")}
          onMove={(to) => setPlaces((p) => ({ ...p, [axis]: to }))}
        />
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
        {!quiz && <UnderFinger touched={point && touch.data} failed={point !== undefined && touch.isError} />}
        {!quiz && (
          <StudyFigures
            studied={studied}
            neighbours={shown.neighbours ? neighbours.data : undefined}
            onLit={setLit}
          />
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
