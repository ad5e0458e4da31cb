import { useSyncExternalStore } from "react";

/** A choice of this device, remembered by it and written on the page, where the styles see it. */
class Choice {
  private readonly key: string;
  private listeners = new Set<() => void>();

  constructor(name: "contrast" | "hand" | "signals") {
    this.key = `dynacor-${name}`;
    const show = () => document.documentElement.toggleAttribute(`data-${name}`, this.read());
    this.listeners.add(show);
    show();
    // Another tab of this device.
    window.addEventListener("storage", (e) => e.key === this.key && this.tell());
  }

  read = () => localStorage.getItem(this.key) === "on";

  set(on: boolean) {
    localStorage.setItem(this.key, on ? "on" : "off");
    this.tell();
  }

  private tell() {
    for (const f of this.listeners) f();
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };
}

/** More contrast, for the sun and for the night. */
export const contrast = new Choice("contrast");

/** What the hand touches is on the left, and the stations on the right. */
export const leftHand = new Choice("hand");

/** A short sound, and a buzz where the device can, at each pull. */
export const signals = new Choice("signals");

export const useChoice = (c: Choice) => useSyncExternalStore(c.subscribe, c.read);
