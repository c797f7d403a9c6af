import { type ChangeEvent, useEffect, useState } from "react";
import { ApiProblem, type Schema } from "@/api/client";
import { depths } from "@/features/cases/words";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Notice } from "@/ui/Notice";
import { FilmMeasure } from "./FilmMeasure";
import { distance, type Film, ownFilm, type Point, useBenchFilm, useFilmReading } from "./film";

interface Props {
  tooth: string;
  site: string;
  age?: number;
  onClose: () => void;
  /** The depth class that the measurement calls for. */
  onDepth: (depth: Schema["Depth"]) => void;
}

/** Measures a proximal lesion with two clicks, on a simulated film or one's own. */
export function BitewingDialog({ tooth, site, age, onClose, onDepth }: Props) {
  const [seed, setSeed] = useState(1);
  const bench = useBenchFilm(tooth, site, age, seed);
  const [own, setOwn] = useState<Film>();
  const [fault, setFault] = useState<string>();
  const [known, setKnown] = useState("10");
  const [points, setPoints] = useState<Point[]>([]);
  const film = own ?? bench.data;
  const calibrating = film !== undefined && film.pixelsPerMM === undefined;
  const [a, b] = points;
  const pixels = a && b ? distance(a, b) : undefined;
  const mm =
    pixels !== undefined && film?.pixelsPerMM ? Number((pixels / film.pixelsPerMM).toFixed(2)) : undefined;
  const reading = useFilmReading(tooth, site, age, mm);
  useEffect(() => () => (own ? URL.revokeObjectURL(own.url) : undefined), [own]);

  async function load(event: ChangeEvent<HTMLInputElement>) {
    const file = event.target.files?.[0];
    if (!file) return;
    try {
      setOwn(await ownFilm(file));
      setFault(undefined);
      setPoints([]);
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    }
  }

  function calibrate() {
    const length = Number(known.replace(",", "."));
    if (!own || pixels === undefined) return;
    if (!(length > 0 && Number.isFinite(length))) {
      setFault("The known length must be a number of millimetres above 0.");
      return;
    }
    if (pixels === 0) {
      setFault("Both ends lie on one point: click the two ends of a length you know.");
      setPoints([]);
      return;
    }
    setOwn({ ...own, pixelsPerMM: pixels / length });
    setPoints([]);
    setFault(undefined);
  }

  const depthName = depths.find(([id]) => id === reading.data?.depth)?.[1];
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Bitewing, ${tooth} ${site}`} wide>
      {film && (
        <FilmMeasure film={film} points={points} onPoints={setPoints} label={mm && `${mm.toFixed(2)} mm`} />
      )}
      {!film && <p className="p-8 text-soft">Exposing the film…</p>}
      <p className="mt-2">
        {calibrating
          ? "Click both ends of a length you know, such as the sensor's edge or a measured crown."
          : "Click the lesion where it starts at the surface, then its deepest point."}
      </p>
      {fault && (
        <Notice tone="warn" title={own ? "The scale was not set" : "The picture was not taken"}>
          {fault}
        </Notice>
      )}
      {calibrating && pixels !== undefined && (
        <p className="mt-2 flex items-center gap-2">
          <label className="flex items-center gap-2">
            That length is
            <input
              className="w-16 rounded border border-line bg-sheet px-2 py-1 text-right font-mono"
              inputMode="decimal"
              value={known}
              onChange={(e) => setKnown(e.target.value)}
            />
            mm
          </label>
          <Button onClick={calibrate}>Set the scale</Button>
        </p>
      )}
      {mm !== undefined && (
        <p className="mt-2" role="status" data-testid="film-reading">
          {reading.data ? (
            <>
              <b className="font-mono">{mm.toFixed(2)} mm</b>: {depthName?.toLowerCase()}. On the average
              tooth enamel is {reading.data.enamel_mm.toFixed(1)} mm here, and{" "}
              {reading.data.dentin_mm.toFixed(1)} mm of dentin follow. A film shows less than there is.
            </>
          ) : reading.error instanceof ApiProblem ? (
            reading.error.faults.map((f) => f.message).join(" ")
          ) : (
            "Reading…"
          )}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          kind="main"
          disabled={!reading.data || mm === undefined}
          onClick={() => reading.data && onDepth(reading.data.depth)}
        >
          Take this depth
        </Button>
        <Button onClick={() => setPoints([])} disabled={points.length === 0}>
          Measure again
        </Button>
        {own ? (
          <Button
            onClick={() => {
              setOwn(undefined);
              setPoints([]);
            }}
          >
            Back to the simulated film
          </Button>
        ) : (
          <Button
            onClick={() => {
              setSeed(seed + 1);
              setPoints([]);
            }}
          >
            Another simulated film
          </Button>
        )}
        <label className="cursor-pointer text-accent underline">
          Load your own
          <input type="file" accept="image/png,image/jpeg" className="sr-only" onChange={load} />
        </label>
      </div>
      <p className="mt-2 text-xs text-soft">
        {film?.source === "own"
          ? "Your picture stays in this browser and is not kept."
          : "Simulated for the bench: no film of a patient."}
      </p>
    </Dialog>
  );
}
