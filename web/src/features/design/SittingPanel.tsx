import { Link } from "react-router";
import { useSitting } from "@/features/tray/sitting";

/** Several cervical cavities as one sitting: each step on all teeth before the next. */
export function SittingPanel({ id, wanted }: { id: string; wanted: boolean }) {
  const sitting = useSitting(id, wanted);
  const visits = sitting.data?.visits ?? [];
  if (!wanted || visits.length < 2) return null;
  const steps = sitting.data?.steps ?? [];
  const minutes = Math.round(steps.reduce((sum, s) => sum + s.seconds, 0) / 60);
  return (
    <section aria-label="One sitting" className="mt-4">
      <h2 className="mb-1 font-bold">One sitting</h2>
      <p className="text-soft">
        Prepared, filled and finished together:{" "}
        {visits.map((v, n) => (
          <span key={v.case}>
            {n > 0 && ", "}
            {v.case === id ? (
              <b className="font-mono text-ink">{v.tooth}</b>
            ) : (
              <Link className="font-mono text-accent underline" to={`/cases/${v.case}`}>
                {v.tooth}
              </Link>
            )}
          </span>
        ))}
        ; about {minutes} min.{" "}
        <Link className="text-accent underline" to={`/cases/${id}/chair?sitting`}>
          Begin the sitting
        </Link>
      </p>
      <ol className="mt-1 space-y-0.5">
        {steps.map((s, n) => (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: the order is the sitting's own
            key={n}
            title={[s.action, s.caution].filter(Boolean).join(" ")}
            className="flex items-baseline gap-2"
          >
            <span className="w-5 shrink-0 text-right text-xs text-soft">{n + 1}</span>
            <span className="flex-1">
              {s.step}
              {s.instrument && <span className="text-xs text-soft">, {s.instrument}</span>}
              {s.why && <span className="block text-xs text-soft">{s.why}</span>}
            </span>
            <span className="shrink-0 font-mono text-xs text-soft">
              {s.once ? "once" : s.teeth.length === visits.length ? "each" : s.teeth.join(" ")}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
