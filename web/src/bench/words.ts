import type { BenchLikely, BenchOutcome, BenchShare, BenchWay } from "../api/types";
import { kilonewtons, number, percent } from "../ui/format";
import { told, tr } from "../words/words";

const whole = (v: number) => number(Math.round(v));

/** The stages of a way, in short. */
export const stagesOf = (w: BenchWay) => (w.school ? told(w.school) : w.shares.map((s) => number(s)).join("-"));

/** A way in a line, below its stages. */
export function wayLine({ way: w, order }: BenchOutcome) {
  return [
    order ? tr("{order}, from bolt {start}", { order: told(order), start: w.start }) : tr("from bolt {start}", { start: w.start }),
    w.tools > 1 && tr("{tools} tools at once", { tools: w.tools }),
    w.rounds === 0
      ? tr("no check round")
      : w.every > 1
        ? w.every === 2
          ? tr("up to {rounds} rounds of every second bolt", { rounds: w.rounds })
          : tr("up to {rounds} rounds of every fourth bolt", { rounds: w.rounds })
        : tr("up to {count} rounds", { count: w.rounds }),
  ]
    .filter(Boolean)
    .join(" · ");
}

/** A number with the range it lies in, where that is not the number itself. */
const ranged = (of: (v: number) => string, l: BenchLikely) => ({
  middle: of(l.middle),
  range: of(l.low) === of(l.high) ? "" : tr("{low} to {high}", { low: of(l.low), high: of(l.high) }),
});

export const pulls = (l: BenchLikely) => ranged(whole, l);
export const minutes = (l: BenchLikely) => ranged(whole, l);
export const load = (l: BenchLikely) => ranged(kilonewtons, l);
export const spread = (l: BenchLikely) => ranged((v) => whole(100 * v), l);
export const share = (s: BenchShare | undefined) => {
  if (!s) return { middle: tr("not known"), range: "" };
  return ranged(percentOf, { low: s.low, middle: s.all, high: s.high });
};

/** Which figure whether a joint seats rests most on. */
export const restsOn = (s: BenchShare | undefined) => (s ? mostly[s.mostly] : "");

/** A share of joints: none and all are said only where it is none and all. */
function percentOf(v: number) {
  if (v > 0 && v < 0.001) return percent(0.001);
  if (v < 1 && v > 0.999) return percent(0.999);
  return percent(v);
}

const mostly: Record<BenchShare["mostly"], string> = {
  "": "",
  gasket: tr("Whether it seats rests most on the gasket’s stiffness."),
  flange: tr("Whether it seats rests most on the flange’s stiffness."),
  friction: tr("Whether it seats rests most on the scatter of friction."),
  kept: tr("Whether it seats rests most on the creep."),
};

/** Whether two ways make a ring alike. */
export const same = (a: BenchWay, b: BenchWay | undefined) =>
  b !== undefined &&
  a.school === b.school &&
  String(a.shares) === String(b.shares) &&
  a.order === b.order &&
  a.start === b.start &&
  a.tools === b.tools;
