import { type KeyboardEvent, type MouseEvent, useRef, useState } from "react";
import type { Film, Point } from "./film";

interface Props {
  film: Film;
  points: Point[];
  onPoints: (points: Point[]) => void;
  label?: string | number;
}

const nudges: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The film with two points on it. By keyboard: arrows move the cross, Enter sets a point. */
export function FilmMeasure({ film, points, onPoints, label }: Props) {
  const drawing = useRef<SVGSVGElement>(null);
  const [cross, setCross] = useState<Point>();
  const [contrast, setContrast] = useState(1);
  const unit = film.width / 640; // a screen pixel, about
  const add = (p: Point) => onPoints(points.length >= 2 ? [p] : [...points, p]);

  function click(event: MouseEvent<SVGSVGElement>) {
    const matrix = drawing.current?.getScreenCTM();
    if (!matrix) return;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    add({ x: p.x, y: p.y });
  }

  function key(event: KeyboardEvent) {
    const at = cross ?? { x: film.width / 2, y: film.height / 2 };
    const nudge = nudges[event.key];
    if (nudge) {
      const step = (event.shiftKey ? 10 : 1) * Math.max(unit, 1);
      setCross({ x: at.x + nudge[0] * step, y: at.y + nudge[1] * step });
    } else if (event.key === "Enter") add(at);
    else return;
    event.preventDefault();
  }

  const [a, b] = points;
  return (
    <div>
      <svg
        ref={drawing}
        viewBox={`0 0 ${film.width} ${film.height}`}
        className="max-h-[52vh] w-full cursor-crosshair rounded border border-line bg-black"
        role="application"
        aria-label="Film: arrows move the cross, Enter sets a point"
        data-testid="film"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: measured by keyboard too
        tabIndex={0}
        onClick={click}
        onKeyDown={key}
      >
        <image
          href={film.url}
          width={film.width}
          height={film.height}
          style={{ filter: `contrast(${contrast})` }}
        />
        {cross && (
          <path
            d={`M${cross.x - 9 * unit} ${cross.y}h${18 * unit}M${cross.x} ${cross.y - 9 * unit}v${18 * unit}`}
            stroke="#ffd166"
            strokeWidth={1.5 * unit}
          />
        )}
        {a && b && <path d={`M${a.x} ${a.y}L${b.x} ${b.y}`} stroke="#7fd6c2" strokeWidth={2 * unit} />}
        {points.map((p) => (
          <circle
            key={`${p.x} ${p.y}`}
            cx={p.x}
            cy={p.y}
            r={4 * unit}
            fill="none"
            stroke="#7fd6c2"
            strokeWidth={2 * unit}
          />
        ))}
        {a && b && label && (
          <text
            x={Math.max(a.x, b.x) + 10 * unit}
            y={(a.y + b.y) / 2}
            fontSize={16 * unit}
            fill="#ffffff"
            stroke="#000000"
            strokeWidth={3 * unit}
            paintOrder="stroke"
            className="font-mono"
          >
            {label}
          </text>
        )}
      </svg>
      <label className="mt-1 flex items-center gap-2 text-xs text-soft">
        Contrast
        <input
          type="range"
          className="w-40 accent-accent"
          min={0.6}
          max={3}
          step={0.1}
          value={contrast}
          onChange={(e) => setContrast(Number(e.target.value))}
        />
      </label>
    </div>
  );
}
