import { inWords } from "@/api/client";
import { Button } from "@/ui/Button";
import { FigureInput } from "@/ui/FigureInput";
import { PullItem } from "./PullItem";
import { type Forces, ownKey, type Tilt } from "./useForces";

const ways: { of: keyof Tilt; label: string }[] = [
  { of: "mesial", label: "towards mesial" },
  { of: "facial", label: "towards facial" },
];

/** A pull of one's own: asked for, tilted by figures or on the drawing, answered for each filling. */
export function OwnPull({ forces }: { forces: Forces }) {
  const { tilt, pullYourself, own } = forces;
  if (!tilt)
    return (
      <Button className="mt-2" onClick={() => pullYourself({ mesial: 0, facial: 0 })}>
        Pull another way
      </Button>
    );
  return (
    <section aria-label="Your own pull" aria-busy={own.isFetching} className="mt-2">
      <div className="mb-1 flex flex-wrap items-center gap-x-3 gap-y-1">
        {ways.map(({ of, label }) => (
          <span key={of} className="flex items-center gap-1">
            <FigureInput
              label={`Your own pull, ${label}`}
              value={tilt[of]}
              onChange={(degrees) => pullYourself({ ...tilt, [of]: degrees ?? 0 })}
            />
            ° {label}
          </span>
        ))}
        <Button onClick={() => pullYourself(undefined)}>Leave it</Button>
      </div>
      {own.isPending && <p className="text-soft">Pulling at the filling…</p>}
      {own.error && <p className="text-warn">{inWords(own.error)}</p>}
      <ul className="space-y-1">
        {own.data?.map((p, n) => (
          <PullItem
            key={ownKey(n)}
            pull={p}
            lit={forces.pull === ownKey(n)}
            onSelect={() => forces.setPull(ownKey(n))}
          />
        ))}
      </ul>
    </section>
  );
}
