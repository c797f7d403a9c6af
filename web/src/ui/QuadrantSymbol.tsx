import clsx from "clsx";

/** The place of a tooth inside the two lines of its quadrant, as pencilled on charts. */
export function QuadrantSymbol({ letters }: { letters: string }) {
  const upper = letters.startsWith("U");
  const right = letters[1] === "R";
  return (
    <span
      role="img"
      aria-label={`quadrant symbol ${letters}`}
      className={clsx(
        "inline-block border-ink px-1 font-mono leading-tight",
        upper ? "border-b" : "border-t",
        right ? "border-r" : "border-l",
      )}
    >
      {letters.slice(2)}
    </span>
  );
}
