import { useLayoutEffect, useRef } from "react";
import { pedal } from "./pedal";

const LETTERS = "dynacor-letter-keys";

/** Whether single letters, digits and signs are keys: whoever dictates, or brushes against them, switches them off. */
export const letterKeys = {
  on: () => localStorage.getItem(LETTERS) !== "off",
  set: (on: boolean) => localStorage.setItem(LETTERS, on ? "on" : "off"),
};

export type Keys = Record<string, (e: KeyboardEvent) => void>;

/** Whether a key belongs to what is focused: a field, a dialog, or a button reached by keyboard. */
export function keyTaken(e: KeyboardEvent) {
  const t = e.target as HTMLElement | null;
  if (!t) return false;
  if (t.closest("input, textarea, select, [contenteditable], [role=dialog], [role=listbox]")) return true;
  // The space bar opens no link: on one it is the pedal's.
  if (e.key === "Enter" && t.matches("a:focus-visible")) return true;
  return (e.key === " " || e.key === "Enter") && t.matches("button:focus-visible, summary:focus-visible");
}

/** Calls a function for a key, anywhere on the screen. A key held down counts once. */
export function useKeys(keys: Keys) {
  // Before the screen is painted: whoever sees a key named can press it.
  const now = useRef(keys);
  useLayoutEffect(() => {
    now.current = keys;
  });
  useLayoutEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (e.repeat || e.ctrlKey || e.altKey || e.metaKey || keyTaken(e)) return;
      const key = e.key === pedal.key() ? " " : e.key; // a pedal of this device is the space bar
      if (key.length === 1 && key !== " " && !letterKeys.on()) return;
      const act = now.current[key.length === 1 ? key.toLowerCase() : key];
      if (!act) return;
      e.preventDefault();
      act(e);
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
