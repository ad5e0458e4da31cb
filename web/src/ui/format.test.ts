import { describe, expect, it } from "vitest";
import { kilonewtons, millimetres, number, percent, readNumber, signed, torque } from "./format";

describe("readNumber", () => {
  it("takes numbers as people type them", () => {
    for (const [text, value] of [
      ["240", 240],
      [" 9.5 ", 9.5],
      ["3,15", 3.15],
      [".5", 0.5],
      ["-2", -2],
      ["+7", 7],
      ["0", 0],
    ] as const)
      expect(readNumber(text)).toBe(value);
  });

  it("takes nothing else for a number", () => {
    for (const text of ["", " ", "abc", "1 2", "1.2.3", "1,234.5", "12N", "1e3", "Infinity", "NaN", "--1", "5-", "0x10"])
      expect(readNumber(text)).toBeUndefined();
  });
});

describe("numbers on screen", () => {
  it("keep what a hand must set to the last mark", () => {
    expect(number(10.75)).toBe("10.75");
    expect(number(107)).toBe("107");
    expect(number(2.3000000000000003)).toBe("2.3");
  });

  it("are short where they are worked out", () => {
    expect(torque(749.4117647)).toBe("749.4");
    expect(kilonewtons(192157)).toBe("192");
    expect(percent(0.0640312)).toBe("6.4");
    expect(millimetres(0.2)).toBe("0.20");
  });

  it("say which way an error lies", () => {
    expect([signed(0.24), signed(-0.24), signed(0)]).toEqual(["+0.2", "-0.2", "0.0"]);
  });
});
