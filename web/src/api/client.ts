import createClient from "openapi-fetch";
import type { paths } from "./schema";
import type { NewEntry, Problem, Stored } from "./types";

export const http = createClient<paths>({ baseUrl: "" });

/** What the server refused, in its own words. */
export class Refused extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super([problem.detail, problem.way].filter(Boolean).join(" "));
    this.problem = problem;
  }
}

/** The server could not be reached, or did not answer as ours does. */
export class Unreachable extends Error {
  constructor() {
    super("The server cannot be reached.");
  }
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** Returns what a call answered; throws Refused or Unreachable. */
export async function take<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Unreachable();
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Problem | undefined;
  if (problem?.code && problem.status) throw new Refused(problem);
  throw new Unreachable();
}

/** Whether the same call may go through later: nobody answered, or a server in trouble. */
export const passes = (error: unknown) => !(error instanceof Refused) || error.problem.status >= 500;

export function problemOf(error: unknown): Problem | undefined {
  return error instanceof Refused ? error.problem : undefined;
}

/** Sends one entry of a run. Answers with the run as it is then, or with what differs. */
export function sendEntry(run: string, body: NewEntry): Promise<Stored> {
  return take(http.POST("/api/runs/{run}/entries", { params: { path: { run } }, body }));
}
