import type { Problem } from "../api/types";

/** What is asked of the model in the worker. */
export interface BenchQuestion {
  no: number;
  what: "begin" | "try" | "better" | "replay" | "task" | "shown" | "stood" | "judged";
  body: string;
}

/** What it says: its answer as JSON, or that it failed. */
export interface BenchReply {
  no: number;
  said?: string;
  failed?: string;
  /** How long it thought, ms. */
  took?: number;
}

/** An answer, or why there is none. */
export interface Answered<T> {
  is?: T;
  problem?: Problem;
  /** The worker died, or the module could not be had. */
  failed?: boolean;
  /** It was told to stop. */
  stopped?: boolean;
  took?: number;
}

/**
 * The model of the core, in a worker that begins with the first question. One that is told to stop, or dies, is gone, and
 * the next question begins another.
 */
export class Trier {
  private worker?: Worker;
  private asked = 0;
  private readonly waits = new Map<number, (a: Answered<never>) => void>();
  private readonly make: () => Worker;

  constructor(make = () => new Worker(new URL("./model.ts", import.meta.url), { type: "module" })) {
    this.make = make;
  }

  ask<T>(what: BenchQuestion["what"], body: unknown): Promise<Answered<T>> {
    const worker = (this.worker ??= this.begin());
    const no = ++this.asked;
    return new Promise((answered) => {
      this.waits.set(no, answered);
      worker.postMessage({ no, what, body: JSON.stringify(body) } satisfies BenchQuestion);
    });
  }

  /** Stops what is being tried. */
  stop() {
    this.end({ stopped: true });
  }

  private begin() {
    const worker = this.make();
    worker.onmessage = ({ data }: MessageEvent<BenchReply>) => {
      const answered = this.waits.get(data.no);
      this.waits.delete(data.no);
      if (data.failed !== undefined || data.said === undefined) answered?.({ failed: true });
      else answered?.({ ...(JSON.parse(data.said) as Answered<never>), took: data.took });
      if (data.failed !== undefined) this.end({ failed: true });
    };
    worker.onerror = () => this.end({ failed: true });
    return worker;
  }

  private end(why: Answered<never>) {
    this.worker?.terminate();
    this.worker = undefined;
    for (const answered of this.waits.values()) answered(why);
    this.waits.clear();
  }
}
