import type { Schema } from "@/api/client";
import { formatTarget } from "@/drawing/geometry";

type Criterion = Schema["School"]["criteria"][number];

/** What a school asks for by one criterion: once for all teeth, or for some of them each. */
export interface Asked {
  holds: string;
  text: string;
  why: string;
}

export interface ReadingRow {
  id: string;
  label: string;
  asked: Asked[];
  /** The same of the school it is laid beside. */
  beside: Asked[];
  differ: boolean;
}

const wholes: Record<string, string> = {
  groove_fraction: "of the groove's length",
  intercuspal_fraction: "of the intercuspal distance",
};

/** A share of something else, its open ends in words. */
function share({ min, max }: Schema["Range"], whole: string): string {
  if (min === undefined) return max === undefined ? "any" : `at most ${max} ${whole}`;
  return max === undefined ? `at least ${min} ${whole}` : `${min} to ${max} ${whole}`;
}

export const notAsked = "not asked for";

/** What a criterion asks for, in words with its unit. */
export function askedFor(c: Pick<Criterion, "required" | "basis" | "target" | "unit">): string {
  if (!c.required) return notAsked;
  if (!c.basis) return formatTarget(c.target, c.unit);
  return share(c.target, wholes[c.basis] ?? "of the whole");
}

function holdsFor(c: Criterion): string {
  return [...(c.teeth ?? []), ...(c.materials ?? [])].join(", ");
}

function entries(school: Schema["School"] | undefined, id: string): Asked[] {
  return (school?.criteria ?? [])
    .filter((c) => c.id === id)
    .map((c) => ({ holds: holdsFor(c), text: askedFor(c), why: c.why }));
}

/** A school's criteria in their order, beside another's. */
export function readingRows(school: Schema["School"], beside?: Schema["School"]): ReadingRow[] {
  const labels = new Map<string, string>();
  for (const c of [...school.criteria, ...(beside?.criteria ?? [])])
    if (!labels.has(c.id)) labels.set(c.id, c.label);
  return [...labels].map(([id, label]) => {
    const asked = entries(school, id);
    const other = entries(beside, id);
    const figures = (all: Asked[]) => JSON.stringify(all.map(({ holds, text }) => [holds, text]));
    return {
      id,
      label,
      asked,
      beside: other,
      differ: beside !== undefined && figures(asked) !== figures(other),
    };
  });
}

/** Whether a row holds every word that is looked for. */
export function holdsWords(row: ReadingRow, words: string): boolean {
  const text = [row.label, ...[...row.asked, ...row.beside].flatMap((a) => [a.holds, a.text, a.why])]
    .join(" ")
    .toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
