import type { Waiting } from "../../api/outbox";
import type { JobAct, JobRun } from "../../api/types";

/** A run as it will be once the acts on their way are stored. */
export interface Shown {
  /** What to do now; undefined when only the server can say. */
  next?: JobAct;
  after: JobAct[];
  /** Acts on their way that follow the path. */
  sent: { act: JobAct; moved: boolean }[];
  held: boolean;
}

const same = (a: JobAct, c: Waiting["entry"]["content"]) =>
  a.step === c.step && a.bolt === c.bolt && a.share === (c.share ?? 0) && a.turn === (c.turn ?? 0) && a.stroke === (c.stroke ?? 0) && a.lock === (c.lock ?? false) && a.round === (c.round ?? 0);

/**
 * Walks the path that the server laid out, one act for each that is on its way. Nothing is worked out here: what is not
 * the next act of that path waits for the server.
 */
export function jobAhead(run: Pick<JobRun, "id" | "next" | "ahead" | "tape">, waiting: readonly Waiting[]): Shown {
  const stored = new Set(run.tape.map((l) => l.id));
  const path = run.next ? [run.next, ...run.ahead] : [];
  const sent: Shown["sent"] = [];
  let held = false;
  for (const w of waiting) {
    if (w.run !== run.id || stored.has(w.entry.id) || w.entry.kind === "caution") continue;
    const act = path[0];
    if (w.problem || w.entry.kind !== "step" || !act || !same(act, w.entry.content)) {
      held = true;
      break;
    }
    path.shift();
    sent.push({ act, moved: w.entry.content.moved ?? false });
  }
  held = held || (sent.length > 0 && path.length === 0);
  return { next: held ? undefined : path[0], after: held ? [] : path.slice(1, 5), sent, held };
}
