import type { Schema } from "@/api/client";

const pixelsPerMM = 12;
const stub = 3; // mm of shank or shaft that is drawn
const shank = 0.8; // half of a friction grip shank, mm

/** A head or a blade lying on its side, tip to the left, from the data that cuts; all to one scale. */
export function InstrumentDrawing({ instrument: i }: { instrument: Schema["Instrument"] }) {
  const half = i.blade?.outline ?? i.profile;
  if (half.length === 0) return null;
  const angle = ((i.blade?.centigrades ?? 0) * 360) / 100;
  const turn = (angle * Math.PI) / 180;
  const length = i.blade ? i.length : (half.at(-1) ?? i.length);
  const width = length + stub + shank;
  // A shaft that turns off the blade needs room below it.
  const above = shank + 0.1;
  const below = above + stub * Math.sin(turn);
  return (
    <svg
      role="img"
      aria-label={`${i.name}, ${i.length} mm long`}
      width={width * pixelsPerMM}
      height={(above + below) * pixelsPerMM}
      viewBox={`-0.1 ${-above} ${width} ${above + below}`}
    >
      {i.blade ? (
        <path
          transform={`translate(${length} 0) rotate(${angle})`}
          d={`M-0.4 -0.6H${stub}V0.6H-0.4Z`}
          fill="var(--line)"
        />
      ) : (
        <path
          d={`M${length} ${-(i.neck ?? 0)}H${length + stub}V${i.neck ?? 0}H${length}Z`}
          fill="var(--line)"
        />
      )}
      <path d={outline(half)} fill="var(--cut)" stroke="var(--ink)" strokeWidth={0.07} />
    </svg>
  );
}

/** Closes half an outline, given as half widths and heights in turn, over its axis. */
function outline(half: number[]) {
  const upper: string[] = [];
  const lower: string[] = [];
  for (let n = 0; n < half.length; n += 2) {
    upper.push(`${half[n + 1]} ${-(half[n] ?? 0)}`);
    lower.unshift(`${half[n + 1]} ${half[n]}`);
  }
  return `M${upper.join("L")}L${lower.join("L")}Z`;
}
