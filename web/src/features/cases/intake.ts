import type { CaseDocument, Choice, Finding, Schema } from "@/api/client";

/** A finding as the form holds it: sizes typed, or left empty for the usual one. */
export interface FindingAnswer {
  kind: Finding["kind"];
  site: Finding["site"];
  depth: Finding["depth"];
  height?: string;
  width?: string;
  length?: string;
  /** Height of a cervical lesion's middle above the CEJ. */
  overNeck?: string;
  /** The surface that an anterior proximal lesion shows on, "" for neither. */
  opens?: Finding["opens"] | "";
  /** What was seen of it; "" or left out where it was not entered. */
  surface?: Finding["surface"] | "";
  activity?: Finding["activity"] | "";
  fault?: Finding["fault"] | "";
  complaint?: Finding["complaint"] | "";
  /** No tooth stands beside this surface. */
  alone?: boolean;
}

export interface Answers {
  tooth: string;
  method: "count" | "universal" | "quadrant";
  answer: string;
  findings: FindingAnswer[];
  contacts: { mesial_mm: number; facial_mm: number }[];
  /** Free gingival margin above the CEJ, mm; empty takes that of the age. */
  gingivaFacial: string;
  gingivaLingual: string;
  gingivaPapilla: string;
  enamel: Schema["Enamel"] | "";
  /** "" takes what the core proposes. */
  material: Schema["Material"] | "";
  school: string;
  code: string;
  birthYear: string;
  pulp: Schema["PulpState"] | "";
  rootResorbed: boolean;
  isolation: Schema["Isolation"] | "";
  cariesRisk: Schema["Risk"] | "";
  pregnant: boolean;
  kidneyDisease: boolean;
  mercurySensitivity: boolean;
  parafunction: boolean;
  visible: boolean;
  cannotCope: boolean;
}

export const blank: Answers = {
  tooth: "",
  method: "count",
  answer: "",
  findings: [],
  contacts: [],
  gingivaFacial: "",
  gingivaLingual: "",
  gingivaPapilla: "",
  enamel: "",
  material: "",
  school: "",
  code: "",
  birthYear: "",
  pulp: "",
  rootResorbed: false,
  isolation: "",
  cariesRisk: "",
  pregnant: false,
  kidneyDisease: false,
  mercurySensitivity: false,
  parafunction: false,
  visible: false,
  cannotCope: false,
};

/** The age this year, where a birth year has been typed. */
export function ageFrom(birthYear: string): number | undefined {
  const age = new Date().getFullYear() - wholeYear(birthYear);
  return age >= 0 && age <= 120 ? age : undefined;
}

/** A year in figures alone; NaN for anything else that was typed. */
function wholeYear(text: string): number {
  return /^\d{4}$/.test(text.trim()) ? Number(text) : Number.NaN;
}

/** What can be said of a finding where it lies; nothing for one that the tooth cannot have. */
export function siteOf(kinds: Schema["KindChoice"][], f: FindingAnswer): Schema["SiteChoice"] | undefined {
  return kinds.find((k) => k.kind === f.kind)?.sites.find((s) => s.site === f.site);
}

/** Whether any finding makes a field of the case worth asking for. */
export function asksFor(kinds: Schema["KindChoice"][], a: Answers, field: Schema["FindingField"]): boolean {
  return a.findings.some((f) => siteOf(kinds, f)?.fields.includes(field));
}

/** Turns the answers into a case document; kept is what a file held beyond them. */
export function caseDocument(
  a: Answers,
  tooth: string,
  kinds: Schema["KindChoice"][],
  kept?: CaseDocument,
): CaseDocument {
  const missing = a.findings.flatMap((f) => (f.alone ? (siteOf(kinds, f)?.side ?? []) : []));
  return {
    ...kept,
    schema: "obturon.case/1",
    tooth,
    patient: {
      ...kept?.patient,
      code: a.code || undefined,
      age_years: ageFrom(a.birthYear) ?? 0,
      pregnant_or_nursing: a.pregnant,
      kidney_disease: a.kidneyDisease || undefined,
      mercury_sensitivity: a.mercurySensitivity || undefined,
      caries_risk: a.cariesRisk || undefined,
      isolation: a.isolation || undefined,
      parafunction: a.parafunction || undefined,
      visible_zone: a.visible || undefined,
      cannot_cope: a.cannotCope || undefined,
    },
    findings: a.findings.map((f) => finding(f, siteOf(kinds, f)?.fields ?? [])),
    occlusal_contacts: a.contacts.length > 0 ? a.contacts : undefined,
    gingiva: gingiva(a),
    enamel: a.enamel || undefined,
    pulp: (asksFor(kinds, a, "pulp") && a.pulp) || undefined,
    root_resorbed: a.rootResorbed || undefined,
    missing_neighbours: missing.length > 0 ? [...new Set(missing)] : undefined,
    choice: choice(a, kept?.choice),
  };
}

function choice(a: Answers, kept?: Choice): Choice | undefined {
  const own = { ...kept, material: a.material || undefined, school: a.school || undefined };
  return Object.values(own).some((v) => v !== undefined) ? own : undefined;
}

/** Turns the answers into what the server takes. */
export function newCase(a: Answers, document: CaseDocument): Schema["NewCase"] {
  const birthYear = wholeYear(a.birthYear);
  return {
    patient: { code: a.code, birth_year: Number.isNaN(birthYear) ? 0 : birthYear },
    confirmation: { method: a.method, answer: a.answer },
    document,
  };
}

/** What is asked of a patient, as a case document has it. */
function fromPatient(patient: CaseDocument["patient"]) {
  return {
    isolation: patient.isolation ?? blank.isolation,
    cariesRisk: patient.caries_risk ?? blank.cariesRisk,
    pregnant: patient.pregnant_or_nursing ?? false,
    kidneyDisease: patient.kidney_disease ?? false,
    mercurySensitivity: patient.mercury_sensitivity ?? false,
    parafunction: patient.parafunction ?? false,
    visible: patient.visible_zone ?? false,
    cannotCope: patient.cannot_cope ?? false,
  };
}

/** The answers about a patient who is known already. */
export function patientAnswers(known: Schema["KnownPatient"]) {
  return { ...fromPatient(known.patient), birthYear: String(known.birth_year) };
}

/** The answers that a case file holds; the tooth is still to be confirmed by hand. */
export function answersFrom(document: CaseDocument): Answers {
  const { patient } = document;
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
      surface: f.surface ?? "",
      activity: f.activity ?? "",
      fault: f.fault ?? (f.stays ? "margin" : ""),
      complaint: f.complaint ?? "",
      alone: document.missing_neighbours?.some((side) => f.site.startsWith(side)),
    })),
    contacts: document.occlusal_contacts ?? [],
    gingivaFacial: size(document.gingiva?.facial_mm) ?? "",
    gingivaLingual: size(document.gingiva?.lingual_mm) ?? "",
    gingivaPapilla: size(document.gingiva?.papilla_mm) ?? "",
    enamel: document.enamel ?? "",
    pulp: document.pulp ?? "",
    rootResorbed: document.root_resorbed ?? false,
    material: document.choice?.material ?? "",
    school: document.choice?.school ?? "",
    code: patient.code ?? "",
    birthYear: String(new Date().getFullYear() - Math.round(patient.age_years)),
    ...fromPatient(patient),
  };
}

function finding(f: FindingAnswer, fields: Schema["FindingField"][]): Finding {
  return {
    kind: f.kind,
    site: f.site,
    depth: f.depth,
    height_mm: millimetres(f.height),
    width_mm: millimetres(f.width),
    length_mm: millimetres(f.length),
    over_neck_mm: fields.includes("over_neck_mm") ? millimetres(f.overNeck) : undefined,
    opens: (fields.includes("opens") && f.opens) || undefined,
    surface: (fields.includes("surface") && f.surface) || undefined,
    activity: (fields.includes("activity") && f.activity) || undefined,
    fault: (fields.includes("fault") && f.fault) || undefined,
    complaint: (fields.includes("complaint") && f.complaint) || undefined,
  };
}

/** The gingiva as it was seen; nothing where none of its three figures was typed. */
function gingiva(a: Answers): CaseDocument["gingiva"] {
  const [facial, lingual, papilla] = [a.gingivaFacial, a.gingivaLingual, a.gingivaPapilla].map(millimetres);
  if (facial === undefined && lingual === undefined && papilla === undefined) return undefined;
  return { facial_mm: facial ?? 0, lingual_mm: lingual ?? 0, papilla_mm: papilla ?? 0 };
}

function millimetres(text: string | undefined): number | undefined {
  const typed = text?.trim().replace(",", ".");
  return typed ? Number(typed) : undefined;
}

/** What was typed as a figure and is none, by the field of the form, before anything is sent. */
export function figureFaults(a: Answers): Partial<Record<string, string>> {
  const faults: Partial<Record<string, string>> = {};
  const wrong = (text: string | undefined) => !Number.isFinite(millimetres(text) ?? 0);
  if (Number.isNaN(wholeYear(a.birthYear)))
    faults.birthYear = `"${a.birthYear}" is no year: give the year of birth, four figures`;
  a.findings.forEach((f, n) => {
    for (const [field, text] of [
      ["height_mm", f.height],
      ["width_mm", f.width],
      ["length_mm", f.length],
      ["over_neck_mm", f.overNeck],
    ] as const) {
      if (wrong(text)) faults[`findings[${n}].${field}`] = `"${text}" must be a number: give millimetres`;
    }
  });
  const seen = [a.gingivaFacial, a.gingivaLingual, a.gingivaPapilla];
  if (seen.some(wrong)) faults.gingiva = "must be a number: give millimetres above the CEJ";
  else if (seen.some((text) => text.trim()) && !seen.every((text) => text.trim()))
    faults.gingiva = "is missing: give all three, or none";
  return faults;
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
