import type { CaseDocument, Finding, Schema } from "@/api/client";

/** A finding as the form holds it: sizes typed, or left empty for the usual one. */
export interface FindingAnswer {
  kind: string;
  site: string;
  depth: string;
  height?: string;
  width?: string;
  length?: string;
  /** Height of a cervical lesion's middle over the neck. */
  overNeck?: string;
  /** The face that an anterior proximal lesion shows on, "" for neither. */
  opens?: string;
  /** An old filling that is not replaced. */
  stays?: boolean;
  /** No tooth stands beside this face. */
  alone?: boolean;
}

export interface Answers {
  tooth: string;
  method: "count" | "universal" | "quadrant";
  answer: string;
  findings: FindingAnswer[];
  contacts: { mesial_mm: number; facial_mm: number }[];
  /** Free gingival margin over the neck, mm; empty takes that of the age. */
  gingivaFacial: string;
  gingivaLingual: string;
  gingivaPapilla: string;
  enamel: string;
  material: string;
  school: string;
  code: string;
  birthYear: string;
  isolation: string;
  cariesRisk: string;
  pregnant: boolean;
  parafunction: boolean;
  visible: boolean;
}

export const blank: Answers = {
  tooth: "",
  method: "count",
  answer: "",
  findings: [{ kind: "fissure_caries", site: "central", depth: "outer_dentin" }],
  contacts: [],
  gingivaFacial: "",
  gingivaLingual: "",
  gingivaPapilla: "",
  enamel: "",
  material: "amalgam",
  school: "board",
  code: "",
  birthYear: "",
  isolation: "secure",
  cariesRisk: "moderate",
  pregnant: false,
  parafunction: false,
  visible: false,
};

/** The age this year, where a birth year has been typed. */
export function ageFrom(birthYear: string): number | undefined {
  const age = new Date().getFullYear() - Number.parseInt(birthYear, 10);
  return age >= 0 && age <= 120 ? age : undefined;
}

/** Turns the answers into what the server takes; kept is what a file held beyond them. */
export function newCase(a: Answers, tooth: string, kept?: CaseDocument): Schema["NewCase"] {
  const birthYear = Number.parseInt(a.birthYear, 10);
  const missing = a.findings.filter((f) => f.alone && f.kind === "proximal_caries").map((f) => f.site);
  const document: CaseDocument = {
    ...kept,
    schema: "obturon.case/1",
    tooth,
    patient: {
      ...kept?.patient,
      code: a.code,
      age_years: Math.max(new Date().getFullYear() - birthYear, 0) || 0,
      pregnant_or_nursing: a.pregnant,
      caries_risk: a.cariesRisk,
      isolation: a.isolation,
      parafunction: a.parafunction || undefined,
      visible_zone: a.visible || undefined,
    },
    findings: a.findings.map(finding),
    occlusal_contacts: a.contacts.length > 0 ? a.contacts : undefined,
    gingiva: gingiva(a),
    enamel: a.enamel || undefined,
    missing_neighbours: missing.length > 0 ? [...new Set(missing)] : undefined,
    choice: a.material === "" ? undefined : { ...kept?.choice, material: a.material, school: a.school },
  };
  return {
    patient: { code: a.code, birth_year: Number.isNaN(birthYear) ? 0 : birthYear },
    confirmation: { method: a.method, answer: a.answer },
    document: document as unknown as Schema["CaseDocument"],
  };
}

/** The answers that a case file holds; the tooth is still to be confirmed by hand. */
export function answersFrom(document: CaseDocument): Answers {
  const { patient, choice } = document;
  const size = (mm: number | undefined) => (mm === undefined ? undefined : String(mm));
  return {
    ...blank,
    tooth: document.tooth,
    findings: document.findings.map((f) => ({
      kind: f.kind,
      site: f.site,
      depth: f.depth,
      height: size(f.height_mm),
      width: size(f.width_mm),
      length: size(f.length_mm),
      overNeck: size(f.over_neck_mm),
      opens: f.opens ?? "",
      stays: f.stays ?? false,
      alone: document.missing_neighbours?.includes(f.site),
    })),
    contacts: document.occlusal_contacts ?? [],
    gingivaFacial: size(document.gingiva?.facial_mm) ?? "",
    gingivaLingual: size(document.gingiva?.lingual_mm) ?? "",
    gingivaPapilla: size(document.gingiva?.papilla_mm) ?? "",
    enamel: document.enamel ?? "",
    material: choice?.material ?? "",
    school: choice?.school ?? blank.school,
    code: patient.code ?? "",
    birthYear: String(new Date().getFullYear() - Math.round(patient.age_years)),
    isolation: patient.isolation ?? blank.isolation,
    cariesRisk: patient.caries_risk ?? blank.cariesRisk,
    pregnant: patient.pregnant_or_nursing ?? false,
    parafunction: patient.parafunction ?? false,
    visible: patient.visible_zone ?? false,
  };
}

function finding(f: FindingAnswer): Finding {
  return {
    kind: f.kind,
    site: f.site,
    depth: f.depth,
    height_mm: millimetres(f.height),
    width_mm: millimetres(f.width),
    length_mm: millimetres(f.length),
    over_neck_mm: f.kind === "cervical_caries" ? millimetres(f.overNeck) : undefined,
    opens: f.kind === "proximal_caries" ? f.opens || undefined : undefined,
    stays: f.kind === "old_restoration" ? f.stays || undefined : undefined,
  };
}

/** The gingiva as it was seen; what was left empty goes on as nothing, so that the server can name it. */
function gingiva(a: Answers): CaseDocument["gingiva"] {
  const typed = [a.gingivaFacial, a.gingivaLingual, a.gingivaPapilla].map(millimetres);
  if (typed.every((mm) => mm === undefined)) return undefined;
  const [facial_mm, lingual_mm, papilla_mm] = typed as [number, number, number];
  return { facial_mm, lingual_mm, papilla_mm };
}

/** What is no figure goes on as it is, so that the server can name it. */
function millimetres(text: string | undefined): number | undefined {
  const typed = text?.trim().replace(",", ".");
  if (!typed) return undefined;
  const value = Number(typed);
  return Number.isNaN(value) ? (typed as unknown as number) : value;
}

/** Which fault belongs to which field of the form. */
const faultFields: [RegExp, string][] = [
  [/^\$\.confirmation/, "answer"],
  [/^\$(\.document)?\.tooth/, "tooth"],
  [/code$/, "code"],
  [/birth_year$|age_years$/, "birthYear"],
  [/gingiva(\.\w+)?$/, "gingiva"],
];

/** Puts each fault beside its field; what has no field is listed apart. */
export function sortFaults(faults: Schema["Fault"][]) {
  const placed: Partial<Record<string, string>> = {};
  const other: Schema["Fault"][] = [];
  for (const f of faults) {
    const field = /findings\[\d+\]\.\w+$/.exec(f.path)?.[0] ?? faultFields.find(([p]) => p.test(f.path))?.[1];
    if (field && !placed[field]) placed[field] = f.message;
    else other.push(f);
  }
  return { placed, other };
}
