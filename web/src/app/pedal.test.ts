import { beforeEach, describe, expect, it } from "vitest";
import { notAPedal, pedal } from "./pedal";

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  Object.assign(globalThis, {
    localStorage: {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, v: string) => kept.set(k, v),
      removeItem: (k: string) => kept.delete(k),
    },
  });
});

describe("a pedal", () => {
  it("is learnt once, and forgotten", () => {
    expect(pedal.key()).toBe("");
    pedal.set("F13");
    expect(pedal.key()).toBe("F13");
    pedal.set("");
    expect(pedal.key()).toBe("");
  });
  it.each(["s", "S", "7", "=", "Escape", "Tab", "ArrowUp"])("is not %s", (key) => expect(notAPedal(key)).not.toBe(""));
  it.each([" ", "Enter", "PageDown", "F13", "AudioVolumeUp", "MediaPlayPause"])("may be %s", (key) => expect(notAPedal(key)).toBe(""));
});
