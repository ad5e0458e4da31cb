import type { StageTool, Act, Group, Run } from "../api/types";
import { boltKey, type FigureBolt } from "../drawing/Figure";
import { tr } from "../words/words";

/** The key on the figure of the bolt that an act is on. */
export const keyOf = (a: Pick<Act, "owner" | "bolt">) => boltKey(a.owner, a.bolt);

/** What a run's bolts hold, by their key on the figure. */
export function boltsOf(run: Run, labels?: Map<string, number>) {
  const out = new Map<string, FigureBolt>();
  for (const b of run.bolts) {
    const key = boltKey(b.group, b.position);
    out.set(key, { level: b.level, mark: b.mark, locked: b.locked, label: labels?.get(key) });
  }
  return out;
}

/** Bolt key to its place in the order of its group. */
export function orderOf(groups: readonly Group[]) {
  const out = new Map<string, number>();
  for (const g of groups) if (!g.of) g.order.forEach((b, i) => out.set(boltKey(g.name, b), i + 1));
  return out;
}

/** The tools of every stage of a group: of those that work at once, the ones of a hand. */
export const handTools = (g: Group, hand = 0): StageTool[] | undefined => (hand > 0 ? g.beside?.[hand - 1] : g.tooling);

/** What the numbers of a hand's tool are filed under. */
export const ofHand = (group: string, hand = 0) => (hand > 0 ? tr("{group}, tool {hand}", { group, hand: hand + 1 }) : group);
