import { told, tr } from "../words/words";
/** Degrees as a hand turns them. */
export const turnWords = (degrees: number) =>
  ({ 90: tr("a quarter turn"), 180: tr("half a turn"), 360: tr("one full turn") })[degrees] ?? `${degrees}°`;

/** Who it is, with a or an before it. */
export const article = (who: string) => told(`${/^[aeiou]/.test(who) ? "an" : "a"} ${who}`);

export const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** What was typed, in as many fields as there are now: a sample can widen. */
export function filled(typed: string[] | undefined, fields: number) {
  return typed?.length === fields ? typed : Array.from({ length: fields }, () => "");
}
