import type { Schema } from "@/api/client";

/** The dentist's words for what the documents call things and the core does not name. */
export const depths: [Schema["Depth"], string][] = [
  ["outer_enamel", "Outer enamel"],
  ["inner_enamel", "Inner enamel"],
  ["outer_dentin", "Outer dentin"],
  ["middle_dentin", "Middle dentin"],
  ["inner_dentin", "Inner dentin"],
];

export const materials: Record<Schema["Material"], string> = { amalgam: "Amalgam", composite: "Composite" };

/** A class as a record names it. */
export function className(plan: string): string {
  return plan === "rebuild" ? "Rebuild" : `Class ${plan}`;
}

export function confirmationQuestion(method: string): { label: string; hint: string } {
  switch (method) {
    case "universal":
      return { label: "Universal number", hint: "1 to 32, or A to T" };
    case "quadrant":
      return { label: "Quadrant and place", hint: "such as LR6" };
    default:
      return { label: "Arch, side and count from the midline", hint: "such as lower right 6" };
  }
}
