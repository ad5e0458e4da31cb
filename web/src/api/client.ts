import createClient from "openapi-fetch";
import type { paths } from "./schema";
import { KEPT, PERSON } from "../along/kept";
import type { NewEntry, Problem, Stored } from "./types";
import { tr } from "../words/words";

/** Who answers where the server does not; undefined for what nobody here can. */
export const withoutServer: { answer?: (request: Request) => Promise<Response | undefined> } = {};

export const http = createClient<paths>({
  baseUrl: "",
  fetch: async (request) => {
    const again = withoutServer.answer && request.method === "POST" ? request.clone() : undefined;
    try {
      return await fetch(request);
    } catch (e) {
      const answer = again && (await withoutServer.answer?.(again));
      if (answer) return answer;
      throw e;
    }
  },
});

let believed: string | undefined;

/** Whom this tab believes to be signed in: what it asks for is refused where another tab has signed in somebody else. */
export const believe = (person: string | undefined) => {
  believed = person;
};

/** Called when somebody else than this tab believes is signed in. */
export const onAnother: { call: () => void } = { call: () => {} };

/** How many acts wait on this device, and for how many seconds the oldest has: the server tells whoever watches over it. */
export const waiting: { read: () => string } = { read: () => "" };

http.use({
  onRequest({ request }) {
    if (believed) request.headers.set(PERSON, believed);
    const acts = waiting.read();
    if (acts) request.headers.set("X-Dynacor-Waiting", acts);
    return request;
  },
});

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
    super(tr("The server cannot be reached."));
  }
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** Returns what a call answered; throws Refused or Unreachable. */
export const take = async <T>(call: Promise<Answer<T>>): Promise<T> => (await takeKept(call)).data;

/** The same, and when the server gave it, where it is one that was taken along and the server cannot be reached. */
export async function takeKept<T>(call: Promise<Answer<T>>): Promise<{ data: T; kept?: string }> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Unreachable();
  }
  if (answer.response.ok) return { data: answer.data as T, kept: answer.response.headers.get(KEPT) ?? undefined };
  const problem = answer.error as Problem | undefined;
  if (problem?.code === ANOTHER) onAnother.call();
  if (problem?.code && problem.status) throw new Refused(problem);
  throw new Unreachable();
}

/** Whether the same call may go through later: nobody answered, or a server in trouble. */
export const passes = (error: unknown) => !(error instanceof Refused) || error.problem.status >= 500;

/** The code of what is refused because somebody else is signed in. */
export const ANOTHER = "another-person";

export function problemOf(error: unknown): Problem | undefined {
  return error instanceof Refused ? error.problem : undefined;
}

/** Sends a photograph, in base64; the same sent again is kept once. */
export function sendPhoto(file: string) {
  return take(http.POST("/api/photos", { body: { file } }));
}

/** Sends one entry of a run. Answers with the run as it is then, or with what differs. */
export function sendEntry(run: string, body: NewEntry): Promise<Stored> {
  return take(http.POST("/api/runs/{run}/entries", { params: { path: { run } }, body }));
}
