import { describe, expect, it } from "vitest";
import { at, bolt, CIRCLE, filled, hexagon, size } from "./geometry";

const area = (points: string) => {
  const p = points.split(" ").map((s) => s.split(",").map(Number) as [number, number]);
  return Math.abs(p.reduce((sum, [x, y], i) => sum + x * p[(i + 1) % p.length]![1] - y * p[(i + 1) % p.length]![0], 0)) / 2;
};

describe("geometry", () => {
  it("puts bolt 1 to the right of the top, or at it", () => {
    expect(at(bolt(1, 8, false), 10).x).toBeGreaterThan(0);
    expect(at(bolt(1, 8, true), 10)).toEqual({ x: 0, y: -10 });
    expect(at(bolt(3, 4, true), 10).y).toBeCloseTo(10);
  });

  it("fills a hexagon like a glass", () => {
    const whole = area(hexagon(10));
    expect(area(filled(10, 1))).toBeCloseTo(whole, 1);
    expect(area(filled(10, 0.5))).toBeCloseTo(whole / 2, 1);
    expect(area(filled(10, 0))).toBeCloseTo(0, 1);
    let last = -1;
    for (let level = 0; level <= 1; level += 0.1) {
      const now = area(filled(10, level));
      expect(now).toBeGreaterThan(last);
      last = now;
    }
  });

  it("leaves neighbours room", () => {
    for (let n = 3; n <= 60; n++) expect(2 * size(n)).toBeLessThan(2 * CIRCLE * Math.sin(Math.PI / n));
  });
});
