import { describe, expect, it, vi } from "vitest";
import { type BenchQuestion, type BenchReply, Trier } from "./trier";

/** A worker that answers what it is told to, when it is told to. */
function workers() {
  const made: { asked: BenchQuestion[]; onmessage?: (e: { data: BenchReply }) => void; onerror?: () => void; terminate: () => void }[] = [];
  const make = () => {
    const w = { asked: [] as BenchQuestion[], postMessage: (q: BenchQuestion) => void w.asked.push(q), terminate: vi.fn() };
    made.push(w);
    return w as unknown as Worker;
  };
  return { made, trier: new Trier(make) };
}

describe("the model in its worker", () => {
  it("begins with the first question and answers each with its own", async () => {
    const { made, trier } = workers();
    expect(made).toHaveLength(0);
    const a = trier.ask<string>("try", { runs: 1 });
    const b = trier.ask<string>("try", { runs: 2 });
    expect(made).toHaveLength(1);
    made[0]!.onmessage!({ data: { no: made[0]!.asked[1]!.no, said: '{"is":"two"}', took: 3 } });
    made[0]!.onmessage!({ data: { no: made[0]!.asked[0]!.no, said: '{"is":"one"}' } });
    expect(await b).toEqual({ is: "two", took: 3 });
    expect(await a).toMatchObject({ is: "one" });
  });

  it("says that it was stopped, and begins another", async () => {
    const { made, trier } = workers();
    const a = trier.ask("try", {});
    trier.stop();
    expect(await a).toEqual({ stopped: true });
    expect(made[0]!.terminate).toHaveBeenCalled();
    void trier.ask("try", {});
    expect(made).toHaveLength(2);
  });

  it("says that it died, and goes on with another", async () => {
    const { made, trier } = workers();
    const a = trier.ask("try", {});
    const b = trier.ask("better", {});
    made[0]!.onerror!();
    expect(await a).toEqual({ failed: true });
    expect(await b).toEqual({ failed: true });
    const c = trier.ask("try", {});
    made[1]!.onmessage!({ data: { no: made[1]!.asked[0]!.no, failed: "no module" } });
    expect(await c).toEqual({ failed: true });
  });
});
