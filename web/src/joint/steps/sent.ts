import type { Waiting } from "../../api/outbox";

/** What of a step is on its way to the server. */
export function sentOf(acts: readonly Waiting[], run: string, step: string) {
  const items = new Set<number>();
  let whole = false;
  let photo = false;
  for (const a of acts) {
    const c = a.entry.content;
    if (a.run !== run || a.problem || a.pinned) continue;
    if (c.kind === "photo" && c.step === step) photo = true;
    if (c.kind !== "done" || c.step !== step || c.tried) continue;
    if (c.photo) photo = true;
    else if (c.item) items.add(c.item);
    else if (!c.release) whole = true;
  }
  return { items, whole, photo };
}
