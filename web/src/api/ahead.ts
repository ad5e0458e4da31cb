import type { Waiting } from "./outbox";
import type { Act, DoneContent, Run } from "./types";

/** A run as it will be once the acts on their way are stored. */
export interface Ahead {
  /** What to do now; undefined when only the server can say. */
  next?: Act;
  after: Act[];
  /** Acts on their way that follow the path. */
  sent: { act: Act; moved: boolean }[];
  /** The server must answer before it goes on. */
  held: boolean;
}

/** Whether an act is the one that was done, or another of the same. */
export const same = (a: Act, c: Pick<DoneContent, "step" | "bolt" | "share" | "turn" | "stroke" | "lock" | "round">) =>
  a.step === c.step &&
  a.bolt === c.bolt &&
  a.share === (c.share ?? 0) &&
  a.turn === (c.turn ?? 0) &&
  a.stroke === (c.stroke ?? 0) &&
  a.lock === (c.lock ?? false) &&
  a.round === (c.round ?? 0);

/**
 * Walks the path that the server laid out, one act for each that is on its way. Nothing is worked out here: what is not
 * the next act of that path waits for the server.
 */
export function ahead(run: Pick<Run, "id" | "next" | "ahead" | "tape">, waiting: readonly Waiting[]): Ahead {
  // An act that the run's tape has already is stored, though its answer may still be on the way.
  const stored = new Set(run.tape.map((l) => l.id));
  const path = run.next ? [run.next, ...run.ahead] : [];
  const sent: Ahead["sent"] = [];
  let held = false;
  for (const w of waiting) {
    const { content } = w.entry;
    if (w.run !== run.id || stored.has(w.entry.id) || content.kind === "caution") continue;
    const act = path[0];
    if (
      !w.problem &&
      !w.lacksPin &&
      act &&
      content.kind === "setting" &&
      act.set &&
      act.group === content.group &&
      act.share === content.share
    ) {
      path[0] = { ...act, set: false };
      continue;
    }
    if (w.problem || w.lacksPin || !act || act.set || content.kind !== "done" || !same(act, content)) {
      held = true;
      break;
    }
    path.shift();
    sent.push({ act, moved: content.moved ?? false });
    if (content.letGo) {
      held = true; // what is drawn off is free: what comes then only the server says
      break;
    }
  }
  held = held || (sent.length > 0 && path.length === 0);
  return { next: held ? undefined : path[0], after: held ? [] : path.slice(1, 5), sent, held };
}
