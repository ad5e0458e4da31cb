import { clock } from "../api/clock";
import type { Waiting } from "../api/outbox";
import { enough, goOn, newer, type Since } from "../api/queries";
import type { Problem, Run, Stored } from "../api/types";

/** What is asked of the judge in the worker. */
export interface Question {
  no: number;
  what: "open" | "run" | "add" | "try" | "readings" | "rig" | "ways";
  body: string;
  /** When it is asked, by the server's clock as far as this device knows it. */
  at: string;
}

/** What it says: one of the three. */
export interface Answer {
  no: number;
  is?: unknown;
  problem?: Problem;
  failed?: string;
  /** How long it thought, ms. */
  took?: number;
}

/** A run as it is judged on this device, with what waits here counted in. */
export interface Judged {
  joint: string;
  run: Run;
  /** The acts of this device that are in it. */
  has: ReadonlySet<string>;
}

interface Needs {
  /** What was taken along of a joint; undefined where nothing was. */
  bundle: (joint: string) => Promise<{ text: string; run: string; entries: number } | undefined>;
  /** What this device stored of a run after so many entries. */
  since: (run: string, entries: number) => Promise<Since>;
  /** What waits here, in order, of whoever is signed in. */
  waiting: () => readonly Waiting[];
  worker: () => Worker;
}

/**
 * The judge of this device: the core itself, in a worker. It is at one joint at a time, and says of what is done there what
 * the server would say of what was taken along. The server judges again when it has it, and is the one that counts.
 */
export class Pocket {
  private readonly needs: Needs;
  private worker?: Worker;
  private asked = 0;
  private readonly waits = new Map<number, (a: Answer) => void>();
  private judged?: Judged;
  /** The joint that it is being opened at. */
  private at?: string;
  private turn: Promise<unknown> = Promise.resolve();
  private readonly listeners = new Set<() => void>();

  constructor(needs: Needs) {
    this.needs = needs;
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };

  read = () => this.judged;

  private set(judged: Judged | undefined) {
    this.judged = judged;
    for (const f of this.listeners) f();
  }

  private ask(what: Question["what"], body: string): Promise<Answer> {
    const worker = (this.worker ??= this.begin());
    const no = ++this.asked;
    return new Promise((answered) => {
      this.waits.set(no, answered);
      const at = new Date(Date.now() + 1000 * clock.off()).toISOString();
      worker.postMessage({ no, what, body, at } satisfies Question);
    });
  }

  private begin() {
    const worker = this.needs.worker();
    worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      this.waits.get(data.no)?.(data);
      this.waits.delete(data.no);
    };
    // One that dies is begun anew at the next question; what it was asked waits for the server.
    worker.onerror = () => {
      worker.terminate();
      this.worker = undefined;
      this.at = undefined;
      for (const [no, answered] of this.waits) answered({ no, failed: "the judge of this device stopped" });
      this.waits.clear();
      this.set(undefined);
    };
    return worker;
  }

  private inTurn<T>(act: () => Promise<T>): Promise<T> {
    const done = this.turn.then(act);
    this.turn = done.catch(() => undefined);
    return done;
  }

  /**
   * Goes to a joint: what was taken along of it, then what this device did since. Where others did something in between,
   * of which it knows nothing, or the screen has seen more entries, it judges nothing.
   */
  open = (joint: string, seen: number) => {
    if (this.at === joint) return;
    this.at = joint;
    void this.inTurn(async () => {
      if (this.at !== joint) return;
      const bundle = await this.needs.bundle(joint);
      if (!bundle) return;
      const since = await this.needs.since(bundle.run, bundle.entries);
      if (since.gap || bundle.entries + since.acts.length < seen) return;
      this.set(undefined); // from here on the module is no longer at the joint before
      const start = performance.now();
      const opened = await this.ask("open", bundle.text);
      performance.measure("opened to judge", { start });
      const run = (await this.ask("run", "null")).is as Run | undefined;
      if (opened.problem || opened.failed || !run) return;
      let judged: Judged = { joint, run, has: new Set() };
      for (const w of [...since.acts, ...this.needs.waiting()]) {
        if (w.run !== run.id || w.problem) continue;
        if (w.pinned || w.lacksPin) break;
        const { judged: after } = await this.counted(judged, w);
        if (!after) break;
        judged = after;
      }
      if (this.at === joint) this.set(judged);
    });
  };

  /** Leaves the joint: the server is there. */
  close = () => {
    this.at = undefined;
    if (this.judged) this.set(undefined);
  };

  /** Judges an act that waits here, and says why it would be refused. One that needs a PIN is not counted in. */
  judge = (w: Waiting): Promise<Problem | undefined> =>
    this.inTurn(async () => {
      const before = this.judged;
      if (!before || before.run.id !== w.run || before.has.has(w.entry.id)) return undefined;
      if (w.pinned || w.lacksPin) return (await this.ask("try", await body(w))).problem;
      const { judged, problem } = await this.counted(before, w);
      if (judged && this.judged === before) this.set(judged);
      return problem;
    });

  private async counted(before: Judged, w: Waiting): Promise<{ judged?: Judged; problem?: Problem }> {
    const entry = await body(w, enough(before.run) ? before.run.entries : undefined);
    const start = performance.now();
    const { is, problem, took } = await this.ask("add", entry);
    performance.measure("judged", { start, detail: took });
    const stored = is as Stored | undefined;
    if (!stored) return { problem };
    const run = stored.onward ? goOn(before.run, stored.onward) : newer(before.run, stored.run)!;
    return { judged: { ...before, run, has: new Set([...before.has, w.entry.id]) } };
  }

  /** What the server would have answered; undefined where it is not asked about the joint that the judge is at. */
  answer = async (request: Request): Promise<Response | undefined> => {
    const what = this.questionOf(new URL(request.url).pathname);
    if (!what) return undefined;
    const { is, problem, failed } = await this.ask(what, await request.text());
    if (failed) return undefined;
    if (problem) return Response.json(problem, { status: problem.status, headers: { "Content-Type": "application/problem+json" } });
    return is === undefined ? new Response(null, { status: 204 }) : Response.json(is);
  };

  private questionOf(path: string): Question["what"] | undefined {
    const [, kind, id, what] = /^\/api\/(joints|runs)\/([^/]+)\/(ways|readings|rig)$/.exec(path) ?? [];
    const at = kind === "joints" ? this.judged?.joint : this.judged?.run.id;
    return id && id === at ? (what as "ways" | "readings" | "rig") : undefined;
  }
}

/** An act as the judge is told of it. */
async function body(w: Waiting, known?: number) {
  const photo = w.photo ? await sizeOf(w.photo) : { width: 0, height: 0, size: 0 };
  return JSON.stringify({ entry: { ...w.entry, ...(w.pinned || w.lacksPin ? { pin: "-" } : {}), known }, photo });
}

async function sizeOf(base64: string) {
  const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
  const picture = await createImageBitmap(new Blob([bytes]));
  return { width: picture.width, height: picture.height, size: bytes.length };
}
