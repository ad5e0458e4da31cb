import type { Act, Run } from "./types";
import type { Waiting } from "./outbox";

/** A run as it will be once the acts on their way are stored. */
export interface Shown {
  /** What to do now; undefined when only the server can say. */
  next?: Act;
  after: Act[];
  /** Bolt position to the level it will have. */
  levels: Map<number, number>;
  /** Bolts checked on the way, and whether they moved. */
  checked: Map<number, boolean>;
  /** Acts on their way. */
  waiting: number;
  /** The server must answer before it goes on. */
  held: boolean;
}

/**
 * Walks the path that the server laid out, one step for each plain act on its way. Nothing is worked out here: an act
 * that is not the next step of that path waits for the server.
 */
export function ahead(run: Pick<Run, "id" | "ahead" | "tape">, shares: readonly number[], waiting: readonly Waiting[]): Shown {
  const levels = new Map<number, number>();
  const checked = new Map<number, boolean>();
  // An act that the run's tape has already is stored, though its answer may still be on the way.
  const stored = new Set(run.tape.map((l) => l.id));
  const mine = waiting.filter((w) => w.run === run.id && !stored.has(w.entry.id));
  const path = [...run.ahead];
  let held = false;
  for (const w of mine) {
    const { kind, content } = w.entry;
    const step = path[0];
    const plain = !w.problem && step && step.bolt === content.bolt && ((kind === "pull" && step.round === 0 && step.pass === content.pass) || (kind === "check" && step.round === content.round));
    if (!plain) {
      held = held || kind !== "measurement";
      break;
    }
    path.shift();
    levels.set(step.bolt, kind === "check" ? 1 : (shares[step.pass - 1] ?? 0) / 100);
    if (kind === "check") checked.set(step.bolt, content.moved ?? false);
  }
  const next = held ? undefined : path[0];
  // A round that moved something is followed by another, which only the server lays out.
  return { next, after: held ? [] : path.slice(1, 5), levels, checked, waiting: mine.length, held };
}
