/** A heading with what its figures are: geometry, physics or an index. */
export function Heading({ ground, children }: { ground: string; children: string }) {
  return (
    <h2 className="mt-3 mb-1 flex items-baseline justify-between gap-2 font-bold first:mt-0">
      {children}
      <span className="text-right text-xs font-normal text-soft">{ground}</span>
    </h2>
  );
}

/** What figures rest on. */
export function Assumed({ all }: { all: string[] }) {
  return (
    <ul className="mt-2 list-disc space-y-0.5 pl-4 text-xs text-soft">
      {all.map((a) => (
        <li key={a}>{a}</li>
      ))}
    </ul>
  );
}
