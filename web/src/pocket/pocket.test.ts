import { describe, expect, it, vi } from "vitest";
import type { Waiting } from "../api/outbox";
import type { Problem, Run } from "../api/types";
import { Pocket, type Answer, type Question } from "./pocket";

const base = { id: "r", entries: 2, ahead: [] as unknown, tape: [] as unknown } as Run;
const problem = { type: "", title: "", status: 409, code: "not-next", detail: "Bolt 3 is not next." } satisfies Problem;
const act = (id: string, more: Partial<Waiting> = {}): Waiting => ({
  joint: "j",
  run: "r",
  person: "me",
  entry: { id, at: "2026-11-26T10:00:00Z", content: { kind: "resume" } },
  ...more,
});

/** A pocket whose worker answers with what is asked of it, and what was asked. */
function pocket({ since = [] as Waiting[], gap = false, waiting = [] as Waiting[], refuses = "" } = {}) {
  const asked: Question[] = [];
  let entries = base.entries;
  const workers: { onmessage?: (e: { data: Answer }) => void; onerror?: () => void; terminate: () => void }[] = [];
  const worker = () => {
    const w = {
      onmessage: undefined as ((e: { data: Answer }) => void) | undefined,
      onerror: undefined as (() => void) | undefined,
      terminate: vi.fn(),
      postMessage(q: Question) {
        asked.push(q);
        const id = q.what === "add" || q.what === "try" ? (JSON.parse(q.body) as { entry: { id: string } }).entry.id : "";
        const refused = id !== "" && id === refuses;
        if (q.what === "add" && !refused) entries++;
        const is =
          q.what === "run"
            ? { ...base, entries }
            : q.what === "add"
              ? { run: { ...base, entries } }
              : q.what === "ways"
                ? { ways: [] }
                : undefined;
        queueMicrotask(() => w.onmessage?.({ data: refused ? { no: q.no, problem } : { no: q.no, is } }));
      },
    };
    workers.push(w);
    return w as unknown as Worker;
  };
  const p = new Pocket({
    bundle: (joint) => Promise.resolve(["j", "k"].includes(joint) ? { text: "{}", run: "r", entries: 2 } : undefined),
    since: () => Promise.resolve({ acts: since, gap }),
    waiting: () => waiting,
    worker,
  });
  return { p, asked, workers, what: () => asked.map((q) => q.what) };
}

describe("the judge of a device", () => {
  it("counts what was stored since, and what waits, in order", async () => {
    const { p, what } = pocket({ since: [act("a")], waiting: [act("b"), act("other", { run: "another" })] });
    p.open("j", 2);
    await vi.waitFor(() => expect(p.read()?.has).toEqual(new Set(["a", "b"])));
    expect(p.read()).toMatchObject({ joint: "j", run: { entries: 4 } });
    expect(what()).toEqual(["open", "run", "add", "add"]);
  });

  it("judges nothing where others went on, or the screen has seen more", async () => {
    const apart = pocket({ gap: true });
    apart.p.open("j", 2);
    const behind = pocket();
    behind.p.open("j", 3);
    const nothing = pocket();
    nothing.p.open("unknown", 0);
    await new Promise((done) => setTimeout(done));
    for (const { p, asked } of [apart, behind, nothing]) {
      expect(asked).toEqual([]);
      expect(p.read()).toBeUndefined();
      expect(await p.judge(act("a"))).toBeUndefined();
    }
  });

  it("judges at neither joint while it goes from one to another", async () => {
    const { p } = pocket();
    p.open("j", 2);
    await vi.waitFor(() => expect(p.read()).toBeDefined());
    const seen: (string | undefined)[] = [];
    p.subscribe(() => seen.push(p.read()?.joint));
    p.open("k", 2);
    await vi.waitFor(() => expect(p.read()?.joint).toBe("k"));
    expect(seen).toEqual([undefined, "k"]);
  });

  it("says why an act would be refused, and counts it in no more than one that needs a PIN", async () => {
    const { p, what } = pocket({ refuses: "bad" });
    p.open("j", 2);
    await vi.waitFor(() => expect(p.read()).toBeDefined());
    expect(await p.judge(act("bad"))).toEqual(problem);
    expect(await p.judge(act("signed", { pinned: true, lacksPin: true }))).toBeUndefined();
    expect(p.read()?.has.size).toBe(0);
    expect(await p.judge(act("good"))).toBeUndefined();
    expect(await p.judge(act("good"))).toBeUndefined();
    expect(p.read()?.has).toEqual(new Set(["good"]));
    expect(what()).toEqual(["open", "run", "add", "try", "add"]);
  });

  it("answers for the server at its own joint alone", async () => {
    const { p } = pocket();
    p.open("j", 2);
    await vi.waitFor(() => expect(p.read()).toBeDefined());
    const ask = (path: string) => p.answer(new Request(`https://dynacor.example${path}`, { method: "POST", body: "{}" }));
    expect(await (await ask("/api/joints/j/ways"))?.json()).toEqual({ ways: [] });
    expect((await ask("/api/runs/r/rig"))?.status).toBe(204);
    expect(await ask("/api/joints/k/ways")).toBeUndefined();
    expect(await ask("/api/runs/r/entries")).toBeUndefined();
  });

  it("goes on by the server where its worker dies, and begins anew", async () => {
    const { p, workers } = pocket();
    p.open("j", 2);
    await vi.waitFor(() => expect(p.read()).toBeDefined());
    workers[0]!.onerror!();
    expect(p.read()).toBeUndefined();
    expect(await p.judge(act("a"))).toBeUndefined();
    p.open("j", 2);
    await vi.waitFor(() => expect(p.read()).toBeDefined());
    expect(workers).toHaveLength(2);
  });
});
