import type { Schema } from "@/api/client";
import { useInstruments } from "./evaluation";

const pixelsPerMM = 17;

/** The burs and hand instruments in order of use, each bur to one scale. */
export function InstrumentStrip({ steps }: { steps: Schema["Step"][] }) {
  const instruments = useInstruments();
  const minutes = Math.round(steps.reduce((sum, s) => sum + s.seconds, 0) / 60);
  return (
    <section
      aria-label="Instruments"
      className="flex h-26 shrink-0 items-stretch border-t border-line bg-panel"
    >
      <div className="flex w-20 shrink-0 flex-col justify-center border-r border-line px-2 text-xs text-soft">
        <b className="text-ink">Burs</b>
        <span>about {minutes} min</span>
      </div>
      <ol
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what does not fit is scrolled by keys too
        tabIndex={0}
        className="flex min-w-0 flex-1 overflow-x-auto"
        aria-label="Instruments in order"
      >
        {steps.map((s, n) => {
          const bur = instruments.data?.find((i) => s.instruments.includes(i.id) && i.profile.length > 0);
          return (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: two cavities may have the same step
              key={n}
              title={[s.action, s.gauge, s.caution].filter(Boolean).join(" ")}
              className="flex min-w-32 flex-1 items-center gap-2 border-r border-line px-2"
            >
              {bur && <BurProfile profile={bur.profile} length={bur.length} name={bur.name} />}
              <span className="min-w-0">
                <span className="block truncate text-xs text-soft">
                  {n + 1} {s.step}
                </span>
                <b className="block text-sm leading-tight">{s.instrument}</b>
                <span className="block text-xs text-soft">{s.speed === "none" ? "" : s.speed}</span>
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** The head, tip down, drawn from its real profile. */
function BurProfile({ profile, length, name }: { profile: number[]; length: number; name: string }) {
  const right: string[] = [];
  const left: string[] = [];
  for (let n = 0; n < profile.length; n += 2) {
    right.push(`${profile[n]} ${-(profile[n + 1] ?? 0)}`);
    left.unshift(`${-(profile[n] ?? 0)} ${-(profile[n + 1] ?? 0)}`);
  }
  const neck = Math.min(...profile.filter((_, n) => n % 2 === 0).slice(-1), 0.35) * 0.8;
  const shank = 0.8;
  const height = length + shank;
  return (
    <svg
      role="img"
      aria-label={name}
      width={1.6 * pixelsPerMM}
      height={height * pixelsPerMM}
      viewBox={`-0.8 ${-height} 1.6 ${height}`}
      className="shrink-0"
    >
      <path d={`M${-neck} ${-length}V${-height}H${neck}V${-length}`} fill="var(--line)" />
      <path
        d={`M${right.join("L")}L${left.join("L")}Z`}
        fill="var(--cut)"
        stroke="var(--ink)"
        strokeWidth={0.07}
      />
    </svg>
  );
}
