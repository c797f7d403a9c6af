import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schema = components["schemas"];
export type Problem = Schema["Problem"];
export type Fault = Schema["Fault"];

/** The server's refusal: what is wrong, where, and what to do. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }

  get faults(): Fault[] {
    return this.problem.faults ?? [];
  }
}

export const api = createClient<paths>({ baseUrl: "/api" });

/** Names a check among those of a plan: boxes have some of their own each. */
export function checkKey(check: { id: string; side?: string }): string {
  return check.side ? `${check.id} ${check.side}` : check.id;
}

/** Returns the data of an answer, or throws its problem. */
export function unwrap<T>(answer: { data?: T; error?: unknown; response: Response }): T {
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Partial<Problem> | undefined;
  throw new ApiProblem({
    status: answer.response.status,
    title: problem?.title ?? "The server gave no proper answer",
    detail: problem?.detail,
    faults: problem?.faults,
  });
}

/** A case document, obturon.case/1, as far as the screens know it. */
export interface CaseDocument {
  schema: "obturon.case/1";
  tooth: string;
  patient: {
    code?: string;
    age_years: number;
    pregnant_or_nursing?: boolean;
    caries_risk?: string;
    isolation?: string;
    parafunction?: boolean;
    visible_zone?: boolean;
  };
  findings: Finding[];
  occlusal_contacts?: { mesial_mm: number; facial_mm: number }[];
  missing_neighbours?: string[];
  /** How much light the enamel lets through. */
  enamel?: string;
  /** The free gingival margin over the cervical line; left out, that of the age. */
  gingiva?: { facial_mm: number; lingual_mm: number; papilla_mm: number };
  choice?: Choice;
  overrides?: Record<string, number>;
}

/** What the dentist decided. */
export interface Choice {
  material?: string;
  school?: string;
  /** Of a Class II; left out, the school decides. */
  form?: string;
  /** Style of the enamel margin, of a Class III or IV. */
  finish?: string;
  /** A lingual lock at a broken corner. */
  lock?: boolean;
  reason?: string;
  treatment?: string;
}

export interface Finding {
  kind: string;
  site: string;
  depth: string;
  width_mm?: number;
  length_mm?: number;
  height_mm?: number;
  /** Of a cervical lesion's middle, over the cervical line. */
  over_neck_mm?: number;
  /** The face that an anterior proximal lesion shows on. */
  opens?: string;
  /** An old filling that is not replaced: its margin is sealed. */
  stays?: boolean;
}
