import { describe, expect, it, vi } from "vitest";
import { clock, clockWords } from "./clock";

describe("clock", () => {
  it("says how far it is off, and not what is no matter", () => {
    expect(clockWords(90)).toBe("");
    expect(clockWords(420)).toBe("this clock is 7 min slow");
    expect(clockWords(-7200)).toBe("this clock is 2 h fast");
    expect(clockWords(-5 * 86_400)).toBe("this clock is 5 days fast");
  });

  it("is measured against the server, but for an answer that took long", () => {
    const now = Date.now();
    clock.measured(new Date(now + 600_000).toISOString(), now - 100, now + 100);
    expect(clock.off()).toBe(600);
    clock.measured(new Date(now).toISOString(), now - 9_000, now);
    expect(clock.off()).toBe(600);
  });

  it("is right again once somebody sets it, also before the server is reached", () => {
    const now = Date.now();
    clock.measured(new Date(now + 600_000).toISOString(), now, now);
    vi.spyOn(Date, "now").mockReturnValue(now + 603_000);
    expect(clock.off()).toBe(0);
    vi.restoreAllMocks();
  });

  it("is not taken for set where the device slept", () => {
    const now = Date.now();
    clock.measured(new Date(now + 600_000).toISOString(), now, now);
    vi.spyOn(Date, "now").mockReturnValue(now + 3_600_000);
    expect(clock.off()).toBe(600);
    vi.restoreAllMocks();
  });
});
