import { describe, expect, it } from "vitest";
import type { Waiting } from "../../api/outbox";
import type { JobAct } from "../../api/types";
import { jobAhead } from "./ahead";

const act = (bolt: number, more: Partial<JobAct> = {}): JobAct => ({ step: "pull", group: "bolts", bolt, share: 100, turn: 0, stroke: 0, lock: false, round: 0, words: "", ...more });
const run = { id: "run", next: act(1), ahead: [act(1, { lock: true, share: 0 }), act(2)], tape: [] };
const waiting = (a: JobAct, more: Partial<Waiting> = {}): Waiting => ({
  joint: "joint",
  run: "run",
  person: "p",
  led: true,
  entry: { id: `${a.bolt}${a.lock}`, kind: "step", at: "", content: { step: a.step, bolt: a.bolt, share: a.share, lock: a.lock, round: a.round, moved: false } },
  ...more,
});

describe("jobAhead", () => {
  it("goes one act on for each that is on its way, its lock among them", () => {
    expect(jobAhead(run, []).next).toEqual(act(1));
    const shown = jobAhead(run, [waiting(act(1))]);
    expect(shown.next?.lock).toBe(true);
    expect(shown.sent).toHaveLength(1);
    expect(jobAhead(run, [waiting(act(1)), waiting(act(1, { lock: true, share: 0 }))]).next).toEqual(act(2));
  });

  it("waits for the server at an act that is not the next, at a refused one and at the end of the path", () => {
    expect(jobAhead(run, [waiting(act(2))]).held).toBe(true);
    const problem = { type: "", title: "", status: 409, code: "not-next", detail: "" };
    expect(jobAhead(run, [waiting(act(1), { problem })])).toMatchObject({ held: true, next: undefined });
    expect(jobAhead({ ...run, ahead: [] }, [waiting(act(1))]).held).toBe(true);
  });

  it("leaves other runs, cautions and what is stored already alone", () => {
    const caution = { ...waiting(act(1)), entry: { ...waiting(act(1)).entry, kind: "caution" as const } };
    expect(jobAhead(run, [waiting(act(2), { run: "other" }), caution]).next).toEqual(act(1));
    const stored = { ...run, tape: [{ id: "1false", seq: 1, kind: "step", at: "", by: "", what: "", outcome: "", struck: false }] };
    expect(jobAhead(stored, [waiting(act(1))]).next).toEqual(act(1));
  });
});
