import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Refused, Unreachable } from "./client";
import { Outbox, type Waiting } from "./outbox";
import type { EntryContent, Problem, Run, Stored } from "./types";

const run = { id: "r", entries: 1 } as Run;
const problem = (status: number, code: string): Problem => ({ type: "", title: "", status, code, detail: code });

let shelf = 0;
let name = "";
beforeEach(() => {
  name = `outbox-${++shelf}`;
});

function outbox(send: (w: Waiting) => Promise<Stored>) {
  const o = new Outbox(name, send, 5);
  o.as("me");
  return o;
}

const pull = (bolt: number, reading?: number): EntryContent => ({
  kind: "done",
  step: "pull",
  bolt,
  share: 20,
  ...(reading ? { reading: { value: reading, unit: "N·m" } } : {}),
});
const boltOf = ({ entry: { content } }: Waiting) => (content.kind === "done" ? content.bolt : undefined);
const bolts = (o: Outbox) => o.read().acts.map(boltOf);

describe("outbox", () => {
  it("sends in order, one at a time, and keeps nothing that is stored", async () => {
    const sent: (number | undefined)[] = [];
    let open = 0;
    const o = outbox(async (w) => {
      expect(++open).toBe(1);
      await Promise.resolve();
      sent.push(boltOf(w));
      open--;
      return { run };
    });
    for (const bolt of [1, 5, 3]) await o.add("j", "r", "me", pull(bolt));
    await vi.waitFor(() => expect(sent).toEqual([1, 5, 3]));
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
    expect(o.read().storedAt).toBeInstanceOf(Date);
  });

  it("sends again what a server that was set back does not have any more", async () => {
    let entries = 0;
    const sent: (number | undefined)[] = [];
    const send = (w: Waiting) => {
      sent.push(boltOf(w));
      return Promise.resolve({ run: { ...run, entries: ++entries } });
    };
    const o = outbox(send);
    for (const bolt of [1, 5, 3]) await o.add("j", "r", "me", pull(bolt));
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
    expect(o.expects().get("r")).toBe(3);
    entries = 1;
    await o.setBack("r", 1);
    await vi.waitFor(() => expect(sent).toEqual([1, 5, 3, 5, 3]));
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
    expect(o.expects().get("r")).toBe(3);
    // What it said it has outlives the page.
    const after = outbox(send);
    await after.ready;
    expect(after.expects().get("r")).toBe(3);
    entries = 0;
    await after.setBack("r", 0);
    await vi.waitFor(() => expect(sent).toEqual([1, 5, 3, 5, 3, 1, 5, 3]));
  });

  it("tells what it stored behind a copy of the run, and whether others did in between", async () => {
    let entries = 4;
    const o = outbox(() => Promise.resolve({ run: { ...run, entries: ++entries } }));
    for (const bolt of [1, 5]) await o.add("j", "r", "me", pull(bolt));
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
    entries++; // somebody else's
    await o.add("j", "r", "me", pull(3));
    await vi.waitFor(() => expect(o.expects().get("r")).toBe(8));
    const since = async (n: number) => {
      const { acts, gap } = await o.since("r", n);
      return [acts.map(boltOf), gap];
    };
    expect(await since(4)).toEqual([[1, 5, 3], true]);
    expect(await since(7)).toEqual([[3], false]);
    expect(await since(8)).toEqual([[], false]);
    expect(await o.since("another", 0)).toEqual({ acts: [], gap: false });
  });

  it("puts what is missing before an act that was refused for lack of it", async () => {
    let entries = 0;
    const sent: (number | undefined)[] = [];
    const o = outbox((w) => {
      if (boltOf(w) !== entries + 1) return Promise.reject(new Refused(problem(409, "not-next")));
      sent.push(boltOf(w));
      return Promise.resolve({ run: { ...run, entries: ++entries } });
    });
    for (const bolt of [1, 2]) await o.add("j", "r", "me", pull(bolt));
    await vi.waitFor(() => expect(sent).toEqual([1, 2]));
    entries = 0;
    await o.add("j", "r", "me", pull(3));
    await vi.waitFor(() => expect(o.read().acts[0]?.problem?.code).toBe("not-next"));
    await o.setBack("r", 0);
    await vi.waitFor(() => expect(sent).toEqual([1, 2, 1, 2, 3]));
  });

  it("keeps an act for whoever did it when another tab has signed in somebody else", async () => {
    let other = true;
    const signedOut = vi.fn<() => void>();
    const o = outbox(() => (other ? Promise.reject(new Refused(problem(409, "another-person"))) : Promise.resolve({ run })));
    o.onSignedOut = signedOut;
    await o.add("j", "r", "me", pull(1));
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(1));
    o.as("somebody else");
    expect(o.read().acts[0]?.problem).toBeUndefined();
    expect(signedOut).not.toHaveBeenCalled();
    other = false;
    o.as("me");
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
  });

  it("keeps an act while the server cannot be reached, and sends the same one when it can", async () => {
    let up = false;
    const ids: string[] = [];
    const o = outbox((w) => {
      ids.push(w.entry.id);
      return up ? Promise.resolve({ run }) : Promise.reject(new Unreachable());
    });
    await o.add("j", "r", "me", pull(1));
    await vi.waitFor(() => expect(o.read().online).toBe(false));
    expect(bolts(o)).toEqual([1]);
    up = true;
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
    expect(new Set(ids).size).toBe(1);
    expect(o.read().online).toBe(true);
  });

  it("does not say that all is well while the server cannot store, whatever the stream says", async () => {
    let up = false;
    const o = outbox(() => (up ? Promise.resolve({ run }) : Promise.reject(new Refused(problem(500, "internal")))));
    const said: boolean[] = [];
    await o.add("j", "r", "me", pull(1));
    await vi.waitFor(() => expect(o.read().online).toBe(false));
    o.subscribe(() => said.push(o.read().online));
    o.connection(false);
    o.connection(true);
    expect(said).toEqual([false, false]);
    expect(bolts(o)).toEqual([1]);
    up = true;
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
    expect(o.read().online).toBe(true);
  });

  it("forgets that it failed with the act that failed", async () => {
    let up = false;
    const o = outbox(() => (up ? new Promise(() => {}) : Promise.reject(new Unreachable())));
    await o.add("j", "r", "me", pull(1));
    await vi.waitFor(() => expect(o.read().online).toBe(false));
    up = true;
    await o.takeBack(o.read().acts[0]!.no!);
    await o.add("j", "r", "me", pull(5));
    expect(o.read().online).toBe(true);
  });

  it("finds what the page before it left", async () => {
    const before = outbox(() => Promise.reject(new Unreachable()));
    await before.add("j", "r", "me", pull(7));
    const after = outbox(() => new Promise(() => {}));
    await after.ready;
    expect(bolts(after)).toEqual([7]);
  });

  it("does not send in somebody else's name", async () => {
    const send = vi.fn(() => Promise.resolve({ run }));
    const o = new Outbox(name, send, 5);
    await o.add("j", "r", "somebody", pull(1));
    o.as("me");
    await o.add("j", "r", "me", pull(2));
    await vi.waitFor(() => expect(bolts(o)).toEqual([1]));
    o.as("somebody");
    await vi.waitFor(() => expect(bolts(o)).toEqual([]));
  });

  it("holds a run behind a refused act until that is settled, and no other run", async () => {
    const o = outbox((w) =>
      w.entry.content.kind === "done" && w.entry.content.reading && !w.entry.confirmed
        ? Promise.reject(new Refused(problem(409, "asked")))
        : Promise.resolve({ run }),
    );
    await o.add("j", "r", "me", pull(1, 9));
    await o.add("j", "r", "me", pull(5));
    await o.add("k", "s", "me", pull(9));
    await vi.waitFor(() => expect(bolts(o)).toEqual([1, 5]));
    const refused = o.read().acts[0]!;
    expect(refused.problem?.code).toBe("asked");
    await o.settle(refused.no!, { confirmed: true });
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
  });

  it("takes back one act and goes on with the others", async () => {
    const o = outbox((w) => (boltOf(w) === 1 ? Promise.reject(new Refused(problem(409, "not-next"))) : Promise.resolve({ run })));
    await o.add("j", "r", "me", pull(1));
    await o.add("j", "r", "me", pull(5));
    await vi.waitFor(() => expect(o.read().acts[0]?.problem).toBeDefined());
    await o.takeBack(o.read().acts[0]!.no!);
    await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
  });

  it("keeps everything when the session has ended", async () => {
    const o = outbox(() => Promise.reject(new Refused(problem(401, "not-signed-in"))));
    const out = vi.fn();
    o.onSignedOut = out;
    await o.add("j", "r", "me", pull(1));
    await vi.waitFor(() => expect(out).toHaveBeenCalled());
    expect(bolts(o)).toEqual([1]);
  });

  describe("with a PIN", () => {
    const sign: EntryContent = { kind: "signature", part: "made" };

    it("keeps the act and never the PIN", async () => {
      const before = outbox(() => new Promise(() => {}));
      await before.add("j", "r", "me", sign, { pin: "1234" });
      const send = vi.fn(() => Promise.resolve({ run }));
      const after = new Outbox(name, send, 5);
      after.as("me");
      await after.ready;
      expect(JSON.stringify(after.read())).not.toContain("1234");
      expect(after.read().acts).toMatchObject([{ lacksPin: true, entry: { content: sign } }]);
      expect(send).not.toHaveBeenCalled();
    });

    it("asks for it again when it could not be sent, and sends the same act with it", async () => {
      let up = false;
      const sent: [string, string | undefined][] = [];
      const o = new Outbox(
        name,
        (w, pin) => {
          sent.push([w.entry.id, pin]);
          return up ? Promise.resolve({ run }) : Promise.reject(new Unreachable());
        },
        5,
      );
      o.as("me");
      await o.add("j", "r", "me", sign, { pin: "1234" });
      await vi.waitFor(() => expect(o.read().acts[0]?.lacksPin).toBe(true));
      up = true;
      await o.settle(o.read().acts[0]!.no!, { pin: "1234" });
      await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
      expect(sent.map(([, pin]) => pin)).toEqual(["1234", "1234"]);
      expect(new Set(sent.map(([id]) => id)).size).toBe(1);
    });

    it("holds the run while the PIN is wrong", async () => {
      const o = new Outbox(
        name,
        (_, pin) => (pin === "1234" ? Promise.resolve({ run }) : Promise.reject(new Refused(problem(403, "wrong-pin")))),
        5,
      );
      o.as("me");
      await o.add("j", "r", "me", sign, { pin: "9" });
      await vi.waitFor(() => expect(o.read().acts[0]?.problem?.code).toBe("wrong-pin"));
      await o.settle(o.read().acts[0]!.no!, { pin: "1234" });
      await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
    });
  });

  describe("without a server", () => {
    const unreachable = () => Promise.reject(new Unreachable());

    it("has the device judge each act once, in order, and shows what it refuses", async () => {
      const judged: (number | undefined)[] = [];
      const o = outbox(unreachable);
      o.judge = (w) => {
        judged.push(boltOf(w));
        return Promise.resolve(boltOf(w) === 3 ? problem(409, "not-next") : undefined);
      };
      for (const bolt of [1, 3, 5]) await o.add("j", "r", "me", pull(bolt));
      await vi.waitFor(() => expect(o.read().acts.map((a) => a.problem?.code)).toEqual([undefined, "not-next", undefined]));
      // What is behind it waits until somebody settles it.
      expect(judged).not.toContain(5);
      await o.takeBack(o.read().acts[1]!.no!);
      await vi.waitFor(() => expect(judged).toContain(5));
    });

    it("asks the server about what the device refused, once it is there", async () => {
      let there = false;
      const sent: (number | undefined)[] = [];
      const o = outbox((w) => {
        if (!there) return unreachable();
        sent.push(boltOf(w));
        return Promise.resolve({ run });
      });
      o.connection(false);
      o.judge = () => Promise.resolve(problem(409, "not-next"));
      await o.add("j", "r", "me", pull(1));
      await vi.waitFor(() => expect(o.read().acts[0]?.problem?.code).toBe("not-next"));
      there = true;
      o.connection(true);
      await vi.waitFor(() => expect(sent).toEqual([1]));
      await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
    });

    it("keeps all that was done apart, once that is said", async () => {
      const sent: [number | undefined, boolean | undefined][] = [];
      const o = outbox((w) => {
        sent.push([boltOf(w), w.entry.apart]);
        return w.entry.apart ? Promise.resolve({ run }) : Promise.reject(new Refused(problem(409, "twice")));
      });
      for (const bolt of [1, 5]) await o.add("j", "r", "me", pull(bolt));
      await vi.waitFor(() => expect(o.read().acts[0]?.problem?.code).toBe("twice"));
      expect(sent).toEqual([[1, undefined]]);
      await o.keepApart("r");
      await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
      expect(sent.slice(1)).toEqual([
        [1, true],
        [5, true],
      ]);
    });

    it("sends what came before a signature that is prepared, and that only with its PIN", async () => {
      const sent: string[] = [];
      const o = outbox((w) => {
        sent.push(w.entry.content.kind);
        return Promise.resolve({ run });
      });
      o.connection(false);
      await o.add("j", "r", "me", pull(1));
      await o.prepare("j", "r", "me", { kind: "signature", part: "made" }, 12);
      await o.add("j", "r", "me", pull(2));
      o.connection(true);
      await vi.waitFor(() => expect(o.read().acts).toHaveLength(2));
      expect(sent).toEqual(["done"]);
      expect(o.read().acts[0]).toMatchObject({ lacksPin: true, entry: { onto: 12 } });
      await o.settle(o.read().acts[0]!.no!, { pin: "4711" });
      await vi.waitFor(() => expect(o.read().acts).toHaveLength(0));
      expect(sent).toEqual(["done", "signature", "done"]);
    });
  });
});
