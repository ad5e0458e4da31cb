import { tag } from "../words/locale";

const figures = (digits: number) => new Intl.NumberFormat(tag, { maximumSignificantDigits: digits });
const four = figures(4);
const three = figures(3);
const five = figures(5);
const fixed2 = new Intl.NumberFormat(tag, { minimumFractionDigits: 2, maximumFractionDigits: 2 });
const one = new Intl.NumberFormat(tag, { minimumFractionDigits: 1, maximumFractionDigits: 1, signDisplay: "exceptZero" });

export const number = (v: number) => five.format(v);
export const torque = (v: number) => four.format(v);
export const kilonewtons = (newtons: number) => three.format(newtons / 1000);
export const millimetres = (v: number) => fixed2.format(v);
export const percent = (share: number) => three.format(share * 100);
export const signed = (v: number) => one.format(v);

const clock = new Intl.DateTimeFormat(tag, { hour: "2-digit", minute: "2-digit", second: "2-digit" });
const short = new Intl.DateTimeFormat(tag, { hour: "2-digit", minute: "2-digit" });
const dated = new Intl.DateTimeFormat(tag, { day: "numeric", month: "short", year: "numeric", hour: "2-digit", minute: "2-digit" });

const days = new Intl.DateTimeFormat(tag, { day: "numeric", month: "short", year: "numeric" });

export const time = (iso: string) => clock.format(new Date(iso));
export const hourMinute = (d: Date) => short.format(d);
/** A day without its time, as 2026-11-25. */
export const day = (iso: string) => days.format(new Date(`${iso}T12:00`));
export const dateTime = (iso: string) => dated.format(new Date(iso));

/** Reads a number as people type it, with a comma or a point. */
export function readNumber(text: string) {
  const t = text.trim().replace(",", ".");
  if (!/^[+-]?\d*\.?\d+$/.test(t)) return undefined;
  return Number(t);
}
