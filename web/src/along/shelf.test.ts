import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { CACHE, KEPT, PERSON, POCKET } from "./kept";
import { Along, NoRoom } from "./shelf";

/** A browser's caches, as far as they are used: what lies in them by address. */
let lies: Map<string, Response>;
let full: boolean;
/** What the server has, by address; what it has not is answered with 404. */
let server: Map<string, unknown>;
let asked: string[];
/** Judges that lie here, by their address. */
let judges: Set<string>;
let shelf = 0;

beforeEach(() => {
  lies = new Map();
  full = false;
  asked = [];
  server = new Map<string, unknown>([
    ["/api/session", { person: { id: "me" } }],
    ["/api/words", {}],
    ["/api/wall", {}],
  ]);
  for (const id of ["a", "b"]) {
    server.set(`/api/joints/${id}`, {
      tag: id.toUpperCase(),
      title: id,
      plan: {},
      run: { photos: [{ hash: "both" }, { hash: `of-${id}` }] },
    });
    server.set(`/api/joints/${id}/bench`, { rings: [] });
    server.set(`/api/papers?joint=${id}`, { papers: [{ hash: "sheet" }] });
    server.set(`/api/joints/${id}/numbers?of=plan`, {});
    server.set(`/api/joints/${id}/along`, { Plan: { Run: `run-${id}` }, Entries: [{}, {}] });
    server.set(`/api/photos/of-${id}`, "a photograph");
  }
  server.set("/api/photos/both", "another");
  server.set("/api/papers/file/sheet", "the maker's");
  const cache = {
    match: (a: string) => Promise.resolve(lies.get(a)?.clone()),
    put: (a: string, r: Response) => {
      if (full) return Promise.reject(new DOMException("", "QuotaExceededError"));
      lies.set(a, r);
      return Promise.resolve();
    },
    delete: (a: string) => Promise.resolve(lies.delete(a)),
  };
  judges = new Set();
  const pocket = {
    match: (a: string) => Promise.resolve(judges.has(a) ? new Response("") : undefined),
    add: (a: string) => Promise.resolve(void judges.add(a)),
    keys: () => Promise.resolve([...judges].map((a) => ({ url: new URL(a, "https://dynacor.example").href }))),
    delete: (r: { url: string }) => Promise.resolve(judges.delete(new URL(r.url).pathname)),
  };
  const shelves = new Map<string, unknown>([
    [CACHE, cache],
    [POCKET, pocket],
  ]);
  vi.stubGlobal("caches", {
    open: (name: string) => (shelves.has(name) ? Promise.resolve(shelves.get(name)) : Promise.reject(new Error(name))),
  });
  vi.stubGlobal("fetch", (a: string) => {
    asked.push(a);
    return Promise.resolve(server.has(a) ? Response.json(server.get(a)) : new Response("", { status: 404 }));
  });
});

async function along() {
  const it = new Along(`along-${++shelf}`);
  await it.ready;
  it.as("me");
  return it;
}

describe("what is taken along", () => {
  it("lies there with all that its pages ask for, and says for whom and of when", async () => {
    const it = await along();
    await it.take("a");
    expect([...lies.keys()].sort()).toEqual(
      [
        "/api/joints/a",
        "/api/joints/a/along",
        "/api/joints/a/bench",
        "/api/joints/a/numbers?of=plan",
        "/api/papers/file/sheet",
        "/api/papers?joint=a",
        "/api/photos/both",
        "/api/photos/of-a",
        "/api/session",
        "/api/wall",
        "/api/words",
      ].sort(),
    );
    const [a] = it.read().taken;
    expect(a).toMatchObject({ tag: "A", person: "me" });
    expect(a!.bytes).toBeGreaterThan(100);
    const kept = lies.get("/api/joints/a")!;
    expect(kept.headers.get(PERSON)).toBe("me");
    expect(Date.parse(kept.headers.get(KEPT)!)).toBe(a!.at);
  });

  it("has the judge of this program with it, and of no other", async () => {
    judges.add("/assets/pocket-old.wasm");
    const it = await along();
    await it.take("a");
    expect(judges.size).toBe(1);
    expect([...judges][0]).toMatch(/pocket.*\.wasm/);
    expect(judges.has("/assets/pocket-old.wasm")).toBe(false);
    expect(await it.bundle("a")).toMatchObject({ run: "run-a", entries: 2 });
    expect(await it.bundle("b")).toBeUndefined();
    it.as("somebody else");
    expect(await it.bundle("a")).toBeUndefined();
  });

  it("is taken anew without what is never another, a file by its hash", async () => {
    const it = await along();
    await it.take("a");
    const { bytes } = it.read().taken[0]!;
    asked = [];
    await it.take("a");
    expect(asked).not.toContain("/api/photos/both");
    expect(asked).toContain("/api/joints/a");
    expect(it.read().taken[0]!.bytes).toBe(bytes);
  });

  it("is dropped without what another joint needs", async () => {
    const it = await along();
    await it.take("a");
    await it.take("b");
    await it.drop("a");
    expect(lies.has("/api/photos/of-a")).toBe(false);
    expect(lies.has("/api/photos/both")).toBe(true);
    expect(lies.has("/api/session")).toBe(true);
    await it.drop("b");
    expect(lies.size).toBe(0);
  });

  it("is dropped many at once", async () => {
    const it = await along();
    await Promise.all(["a", "b"].map(it.take));
    expect(it.read().taken).toHaveLength(2);
    expect(asked.filter((a) => a === "/api/wall")).toHaveLength(1);
    await Promise.all(["a", "b"].map(it.drop));
    expect(it.read().taken).toHaveLength(0);
    expect(lies.size).toBe(0);
  });

  it("stays as it was where it cannot be had anew", async () => {
    const it = await along();
    await it.take("a");
    const before = it.read().taken;
    server.delete("/api/papers?joint=a");
    await expect(it.take("a")).rejects.toThrow("404");
    expect(it.read().taken).toBe(before);
    expect(lies.has("/api/joints/a")).toBe(true);
    full = true;
    await expect(it.take("b")).rejects.toThrow(NoRoom);
    expect(it.read().taken).toBe(before);
  });

  it("is opened for nobody else", async () => {
    const it = await along();
    await it.take("a");
    it.as("me");
    await vi.waitFor(() => expect(lies.has("/api/session")).toBe(true));
    it.as("somebody else");
    await vi.waitFor(() => expect(lies.has("/api/session")).toBe(false));
  });
});
