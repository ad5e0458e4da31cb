import { describe, expect, it } from "vitest";
import { ahead } from "./ahead";
import type { Waiting } from "./outbox";
import type { Act, EntryContent, Run } from "./types";

const pull = (bolt: number, stage: number, more: Partial<Act> = {}): Act => ({
  step: "pull",
  group: "bolts",
  owner: "bolts",
  bolt,
  share: [20, 60, 100][stage - 1] ?? 100,
  turn: 0,
  stroke: 0,
  lock: false,
  round: 0,
  stage,
  stages: 3,
  words: `bolt ${bolt}`,
  name: `bolt ${bolt}`,
  place: "",
  kind: "pull",
  set: false,
  after: { level: stage / 3, mark: "none", locked: false },
  moved: { level: stage / 3, mark: "none", locked: false },
  ...more,
});
const check = (bolt: number, round: number) => pull(bolt, 3, { round, kind: "round" });
const run = (...acts: Act[]): Pick<Run, "id" | "next" | "ahead" | "tape"> => ({
  id: "r",
  ...(acts[0] ? { next: acts[0] } : {}),
  ahead: acts.slice(1),
  tape: [{ id: "stored", seq: 1, kind: "done", at: "", stored: "", by: "", what: "", outcome: "", struck: false, correctable: true }],
});
const act = (content: EntryContent, id = "r", entry = "e"): Waiting => ({
  joint: "j",
  run: id,
  person: "me",
  entry: { id: entry, at: "", content },
});
const done = (a: Act, more: { moved?: boolean } = {}): EntryContent => ({
  kind: "done",
  step: a.step,
  bolt: a.bolt,
  share: a.share,
  ...(a.round ? { round: a.round } : {}),
  ...more,
});

describe("ahead", () => {
  it("shows the first act when nothing is on its way", () => {
    const s = ahead(run(pull(1, 2), pull(5, 2), pull(3, 2)), []);
    expect(s.next?.bolt).toBe(1);
    expect(s.after.map((a) => a.bolt)).toEqual([5, 3]);
  });

  it("goes one on for each act of the path, and for none of another run", () => {
    const s = ahead(run(pull(1, 2), pull(5, 2), pull(3, 2)), [
      act(done(pull(1, 2))),
      act(done(pull(9, 1)), "other"),
      act(done(pull(5, 2))),
    ]);
    expect(s.next?.bolt).toBe(3);
    expect(s.sent.map((a) => a.act.bolt)).toEqual([1, 5]);
  });

  it("passes from the last pull into the round", () => {
    const s = ahead(run(pull(8, 3), check(1, 1), check(2, 1)), [act(done(pull(8, 3))), act(done(check(1, 1), { moved: true }))]);
    expect(s.next).toEqual(check(2, 1));
    expect(s.sent.map((a) => a.moved)).toEqual([false, true]);
  });

  it("takes no pull before its tool is set, and goes on once that is said", () => {
    const next = pull(1, 2, { set: true });
    expect(ahead(run(next, pull(5, 2)), [act(done(next))]).held).toBe(true);
    expect(ahead(run(next, pull(5, 2)), [act({ kind: "setting", group: "bolts", share: 20 })]).held).toBe(true);
    const set = ahead(run(next, pull(5, 2)), [act({ kind: "setting", group: "bolts", share: 60 })]);
    expect(set.next).toMatchObject({ bolt: 1, set: false });
  });

  it("waits for the server after anything that is not the next act", () => {
    const trouble: EntryContent = { kind: "trouble", group: "bolts", bolt: 1, what: "overshot", remedy: "replaced" };
    expect(ahead(run(pull(1, 2), pull(5, 2)), [act(trouble)])).toMatchObject({ held: true, next: undefined, after: [] });
    expect(ahead(run(pull(1, 2), pull(5, 2)), [act(done(pull(4, 2)))]).held).toBe(true);
    const refused = { ...act(done(pull(1, 2))), problem: { type: "", title: "", status: 409, code: "asked", detail: "" } };
    expect(ahead(run(pull(1, 2), pull(5, 2)), [refused]).held).toBe(true);
    expect(ahead(run(pull(1, 2), pull(5, 2)), [{ ...act(done(pull(1, 2))), lacksPin: true }]).held).toBe(true);
  });

  it("does not count an act twice that is stored already, and is not held up by a caution", () => {
    const s = ahead(run(pull(1, 2), pull(5, 2)), [act(done(pull(7, 2)), "r", "stored"), act({ kind: "caution", step: "pull" })]);
    expect(s).toMatchObject({ held: false, sent: [], next: { bolt: 1 } });
  });
});
