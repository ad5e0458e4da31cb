import { tr } from "../words/words";
const KEY = "dynacor-clock-off";

/** From how many seconds on a clock is off: less is said by nobody's watch. */
export const OFF = 120;

/** How long an answer may take to tell a clock by, ms. */
const QUICK = 5_000;

const shelf = "localStorage" in globalThis ? globalThis.localStorage : undefined;

let off = Number(shelf?.getItem(KEY) ?? 0);
/** What the device's clock and its stopwatch differ by: another number, and somebody has set the clock. */
let base = Date.now() - performance.now();
const listeners = new Set<() => void>();

function note(seconds: number) {
  off = seconds;
  base = Date.now() - performance.now();
  shelf?.setItem(KEY, String(seconds));
}

function keep(seconds: number) {
  note(seconds);
  for (const f of listeners) f();
}

/** How far this device's clock is behind the server's, as it was measured when the two last spoke. */
export const clock = {
  /** Tells the server's time, and when it was asked for and answered by this device's clock, ms. */
  measured(server: string, asked: number, answered: number) {
    if (answered < asked || answered - asked > QUICK) return;
    keep(Math.round((Date.parse(server) - (asked + answered) / 2) / 1000));
  },
  /** Seconds; 0 where it is right, or was set right since. */
  off() {
    const set = (Date.now() - performance.now() - base) / 1000;
    // Asked while a page is drawn, so nobody is told: whoever asks hears it.
    if (Math.abs(off) >= OFF && Math.abs(set - off) < OFF / 2) note(0);
    return Math.abs(off) >= OFF ? off : 0;
  },
  subscribe(f: () => void) {
    listeners.add(f);
    return () => listeners.delete(f);
  },
};

/** What is said of a clock that is off; empty where it is right. */
export function clockWords(seconds: number) {
  if (Math.abs(seconds) < OFF) return "";
  const minutes = Math.round(Math.abs(seconds) / 60);
  const much =
    minutes < 120
      ? `${minutes} min`
      : minutes < 2880
        ? `${Math.round(minutes / 60)} h`
        : tr("{count} days", { count: Math.round(minutes / 1440) });
  return seconds > 0 ? tr("this clock is {much} slow", { much }) : tr("this clock is {much} fast", { much });
}
