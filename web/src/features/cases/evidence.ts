import type { CaseDocument, Finding, Schema } from "@/api/client";

type Options = [string, string][];

/** What can be entered of a field that decides what is indicated; "" leaves it open. */
export const evidence: Record<string, { label: string; options: Options }> = {
  surface: {
    label: "Surface",
    options: [
      ["", "Not known"],
      ["intact", "Intact"],
      ["enamel_broken", "Enamel broken"],
      ["cavitated", "Open to dentin"],
    ],
  },
  activity: {
    label: "Activity",
    options: [
      ["", "Not known"],
      ["active", "Active"],
      ["arrested", "Arrested"],
    ],
  },
  fault: {
    label: "Fault",
    options: [
      ["", "None: sound"],
      ["margin", "Stained or open margin"],
      ["caries_beside", "Caries beside it"],
      ["broken", "Broken or loose"],
      ["open_contact", "Open contact"],
      ["painful", "Painful"],
      ["not_wanted", "Not wanted"],
    ],
  },
  complaint: {
    label: "Complaint",
    options: [
      ["", "None: a line"],
      ["pain_on_biting", "Pain on biting"],
      ["split", "Split: its parts move"],
    ],
  },
  pulp: {
    label: "Pulp",
    options: [
      ["", "Not tested"],
      ["healthy", "Healthy"],
      ["reversible", "Reversible signs"],
      ["irreversible", "Irreversible or dead"],
    ],
  },
  isolation: {
    label: "Isolation",
    options: [
      ["", "Not entered"],
      ["secure", "Secure"],
      ["doubtful", "Doubtful"],
      ["none", "None"],
    ],
  },
};

/** The fields of a single finding among them, in the order in which they are asked. */
export const ofFinding = ["surface", "activity", "fault", "complaint"] as const;

/** What stands in a case document where an assumption was made. */
export function entered(document: CaseDocument, a: Schema["Assumption"]): string {
  if (a.field === "pulp") return document.pulp ?? "";
  if (a.field === "isolation") return document.patient.isolation ?? "";
  return String(document.findings[a.finding ?? -1]?.[a.field as keyof Finding] ?? "");
}

/** The case document with what was entered instead of an assumption. */
export function enter(document: CaseDocument, a: Schema["Assumption"], value: string): CaseDocument {
  const own = value || undefined;
  if (a.field === "pulp") return { ...document, pulp: own as CaseDocument["pulp"] };
  if (a.field === "isolation")
    return { ...document, patient: { ...document.patient, isolation: own as Schema["Isolation"] } };
  return {
    ...document,
    findings: document.findings.map((f, n) => (n === a.finding ? { ...f, [a.field]: own } : f)),
  };
}
