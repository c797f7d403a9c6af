import type { CaseDocument, Schema } from "@/api/client";

/**
 * Height lines, crests and grooves of the uncut surface, by tooth, age and view: a drag
 * does not change them, and they are a tenth of what it would send.
 */
const known = new Map<string, Map<string, Schema["Line"][]>>();
const teethKept = 12;

const unchanged = new Set(["relief", "crest", "groove"]);

const toothOf = (d: CaseDocument) => `${d.tooth} ${d.patient.age_years}`;
const viewOf = (v: Schema["View"]) => [v.id, v.origin, v.u, v.v].join(" ");

export function reliefKnown(document: CaseDocument): boolean {
  return known.has(toothOf(document));
}

/** Keeps the lines of the uncut surface that came, and puts in those that were left out. */
export function withRelief(document: CaseDocument, answer: Schema["Evaluation"]): Schema["Evaluation"] {
  const tooth = toothOf(document);
  let lines = known.get(tooth);
  if (!lines) {
    lines = new Map();
    known.set(tooth, lines);
    for (const oldest of known.keys()) {
      if (known.size <= teethKept) break;
      known.delete(oldest);
    }
  }
  const views = answer.views.map((view) => ({
    ...view,
    layers: view.layers.map((layer) => {
      if (!unchanged.has(layer.kind)) return layer;
      const key = `${viewOf(view)} ${layer.kind}`;
      if (layer.lines.length > 0) lines.set(key, layer.lines);
      const kept = lines.get(key);
      if (kept) return { ...layer, lines: kept };
      known.delete(tooth); // another view than before: ask for all of them next time
      return layer;
    }),
  }));
  return { ...answer, views };
}
