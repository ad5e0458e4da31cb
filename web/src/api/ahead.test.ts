import { describe, expect, it } from "vitest";
import { ahead } from "./ahead";
import type { Waiting } from "./outbox";
import type { Act, NewEntry, Run } from "./types";

const pull = (bolt: number, pass: number): Act => ({ bolt, pass, round: 0 });
const check = (bolt: number, round: number): Act => ({ bolt, pass: 3, round });
const shares = [20, 60, 100];
const run = (...acts: Act[]) => ({ id: "r", ahead: acts, tape: [{ id: "stored" }] }) as unknown as Run;
const act = (kind: NewEntry["kind"], content: NewEntry["content"], id = "r"): Waiting => ({ joint: "j", run: id, person: "me", entry: { id: "e", kind, at: "", content } });

describe("ahead", () => {
  it("shows the first step when nothing is on its way", () => {
    const s = ahead(run(pull(1, 2), pull(5, 2), pull(3, 2)), shares, []);
    expect(s.next?.bolt).toBe(1);
    expect(s.after.map((a) => a.bolt)).toEqual([5, 3]);
  });

  it("goes one step on for each plain act", () => {
    const s = ahead(run(pull(1, 2), pull(5, 2), pull(3, 2)), shares, [act("pull", { bolt: 1, pass: 2 }), act("pull", { bolt: 9, pass: 1 }, "other"), act("pull", { bolt: 5, pass: 2 })]);
    expect(s.next?.bolt).toBe(3);
    expect(s.levels.get(5)).toBe(0.6);
    expect(s.waiting).toBe(2);
  });

  it("passes from the last pull into the check round", () => {
    const s = ahead(run(pull(8, 3), check(1, 1), check(2, 1)), shares, [act("pull", { bolt: 8, pass: 3 }), act("check", { bolt: 1, round: 1, moved: true })]);
    expect(s.next).toEqual(check(2, 1));
    expect(s.checked.get(1)).toBe(true);
  });

  it("waits for the server after anything that is not the next step", () => {
    expect(ahead(run(pull(1, 2), pull(5, 2)), shares, [act("trouble", { bolt: 1 })])).toMatchObject({ held: true, next: undefined, after: [] });
    expect(ahead(run(pull(1, 2)), shares, [act("pull", { bolt: 4, pass: 2 })]).held).toBe(true);
    const refused = { ...act("pull", { bolt: 1, pass: 2 }), problem: { type: "", title: "", status: 409, code: "far-reading", detail: "" } };
    expect(ahead(run(pull(1, 2)), shares, [refused]).held).toBe(true);
  });

  it("does not count an act twice that is stored already", () => {
    const w = act("pull", { bolt: 7, pass: 2 });
    w.entry.id = "stored";
    expect(ahead(run(pull(1, 2), pull(5, 2)), shares, [w])).toMatchObject({ held: false, waiting: 0, next: { bolt: 1 } });
  });

  it("is not held up by gaps", () => {
    expect(ahead(run(pull(1, 2)), shares, [act("measurement", { gaps: [] })])).toMatchObject({ held: false, next: { bolt: 1 } });
  });
});
