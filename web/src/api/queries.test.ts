import { QueryClient } from "@tanstack/react-query";
import { describe, expect, it } from "vitest";
import { keepStored, known, newer } from "./queries";
import type { Joint, Onward, Run } from "./types";

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

describe("keepStored", () => {
  const act = (bolt: number) => ({ step: "pull", bolt, share: 60, turn: 0, stroke: 0, lock: false, round: 0 });
  const begun = {
    ...run(4, [], [4, 3]),
    standing: "tighten",
    next: act(1),
    ahead: [5, 3, 7].map(act),
    bolts: [1, 2, 5].map((position) => ({ group: "bolts", position, level: 0.6 })),
    steps: [
      { id: "isolate", count: 1 },
      { id: "pull", count: 8 },
    ],
  } as unknown as Run;
  const onward = {
    after: 4,
    next: act(5),
    line: { seq: 5 },
    step: { id: "pull", count: 9, rounds: [], doneBy: "M", doneAt: "" },
    bolts: [{ group: "bolts", position: 1, level: 1 }],
  } as unknown as Onward;
  const shelf = (r: Run) => {
    const queries = new QueryClient();
    queries.setQueryData(["joint", "j"], { run: r, station: 3 } as Joint);
    return { queries, run: () => queries.getQueryData<Joint>(["joint", "j"])?.run };
  };

  it("puts one act more into the run that is there", () => {
    const s = shelf(begun);
    keepStored(s.queries, "j", { onward });
    const r = s.run();
    expect(r?.entries).toBe(5);
    expect(r?.next?.bolt).toBe(5);
    expect(bolts(r)).toEqual([3, 7]);
    expect(r?.tape.map((l) => l.seq)).toEqual([5, 4, 3]);
    expect(r?.bolts.map((b) => b.level)).toEqual([1, 0.6, 0.6]);
    expect(r?.steps.map((x) => x.count)).toEqual([1, 9]);
  });

  it("keeps the path where only the tool was set, and drops it where another act comes", () => {
    const s = shelf(begun);
    keepStored(s.queries, "j", { onward: { ...onward, step: undefined, next: begun.next! } });
    expect(bolts(s.run())).toEqual([5, 3, 7]);
    const other = shelf(begun);
    keepStored(other.queries, "j", { onward: { ...onward, next: { ...onward.next, stroke: 2 } } });
    expect(bolts(other.run())).toEqual([]);
  });

  it("asks where it has not seen what came before, and keeps what is newer", () => {
    const behind = shelf({ ...begun, entries: 3 });
    keepStored(behind.queries, "j", { onward });
    expect(behind.run()?.entries).toBe(3);
    expect(behind.queries.getQueryState(["joint", "j"])?.isInvalidated).toBe(true);
    const beyond = shelf({ ...begun, entries: 6 });
    keepStored(beyond.queries, "j", { onward });
    expect(beyond.run()?.entries).toBe(6);
    expect(beyond.queries.getQueryState(["joint", "j"])?.isInvalidated).toBe(false);
  });

  it("wants the whole run again when the path ahead is short", () => {
    const s = shelf(begun);
    expect(known(s.queries, "j")).toBeUndefined();
    s.queries.setQueryData(["joint", "j"], { run: { ...begun, ahead: Array(12).fill(act(1)) } } as unknown as Joint);
    expect(known(s.queries, "j")).toBe(4);
  });
});
