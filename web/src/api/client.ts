import createClient from "openapi-fetch";
import { patientFetch } from "./connection";
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

/** Something has to be decided before it goes on; the message says what. */
export class Undecided extends Error {}

export const api = createClient<paths>({ baseUrl: "/api", fetch: patientFetch });

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
    ...problem,
    title: problem?.title ?? "The server gave no proper answer",
  });
}

/** Says in a line what went wrong, and what to do. */
export function inWords(error: unknown): string {
  if (error instanceof Undecided) return error.message;
  if (!(error instanceof ApiProblem)) return "The server does not answer. Check that it runs.";
  const faults = error.faults.map((f) => f.message).join(" ");
  return [`${error.message}.`, faults || error.problem.detail].filter(Boolean).join(" ");
}

/** A case document, obturon.case/1. */
export type CaseDocument = Schema["CaseContent"];

/** What the dentist decided. */
export type Choice = Schema["Choice"];

export type Finding = Schema["Finding"];
