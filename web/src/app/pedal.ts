import { tr } from "../words/words";
const PEDAL = "dynacor-pedal";

/** Keys that do something else, or that every screen needs: no pedal's. */
const TAKEN = [
  "Escape",
  "Tab",
  "Shift",
  "Control",
  "Alt",
  "Meta",
  "ArrowUp",
  "ArrowDown",
  "ArrowLeft",
  "ArrowRight",
  "Backspace",
  "Delete",
];

/** A pedal of this device that sends another key than the space bar. */
export const pedal = {
  key: () => localStorage.getItem(PEDAL) ?? "",
  set: (key: string) => (key ? localStorage.setItem(PEDAL, key) : localStorage.removeItem(PEDAL)),
};

/** Why a key cannot be a pedal's; empty where it can. Enter and page down are pedals without being learnt. */
export function notAPedal(key: string) {
  if (TAKEN.includes(key)) return tr("{key} is needed elsewhere.", { key });
  if (key.length === 1 && /[a-z0-9=?/]/i.test(key))
    return tr("“{key}” is a key of the screen: a pedal that sends it would do that.", { key });
  return "";
}
