import { describe, expect, it } from "vitest";
import { newer } from "./queries";
import type { Run } from "./types";

const run = (entries: number, ahead: number[], tape: number[], id = "r") =>
  ({ id, entries, ahead: ahead.map((bolt) => ({ bolt, pass: 1, round: 0 })), tape: tape.map((seq) => ({ seq })) }) as unknown as Run;
const bolts = (r: Run | undefined) => r?.ahead.map((a) => a.bolt);

describe("newer", () => {
  it("does not go back to an answer that was overtaken", () => {
    const now = run(9, [4], [9]);
    expect(newer(now, run(8, [3, 4], [8]))).toBe(now);
  });

  it("takes another run as it is", () => {
    const next = run(0, [1], [], "s");
    expect(newer(run(9, [4], [9]), next)).toBe(next);
  });

  it("keeps the far end of the tape and of the path while they agree", () => {
    const r = newer(run(8, [1, 5, 3, 7, 2], [8, 7, 6]), run(9, [5, 3], [9, 8]));
    expect(bolts(r)).toEqual([5, 3, 7, 2]);
    expect(r?.tape.map((l) => l.seq)).toEqual([9, 8, 7, 6]);
  });

  it("takes the new path where it is another", () => {
    expect(bolts(newer(run(8, [1, 5, 3, 7], []), run(9, [3, 7, 5], [])))).toEqual([3, 7, 5]);
    expect(bolts(newer(run(8, [1, 5], []), run(9, [], [])))).toEqual([]);
  });
});
