import Dexie, { type Table } from "dexie";
import type { Joint, Paper } from "../api/types";
import pocket from "../pocket/pocket.wasm?url";
import { CACHE, KEPT, PERSON, POCKET } from "./kept";
import { told } from "../words/words";

/** A joint that lies on this device, to be worked at without a network. */
export interface Taken {
  joint: string;
  tag: string;
  title: string;
  /** For whom it was taken: what one person was shown is not shown to another. */
  person: string;
  /** When the server gave it, ms. */
  at: number;
  bytes: number;
  /** Where its answers lie. */
  addresses: string[];
}

class Shelf extends Dexie {
  taken!: Table<Taken, string>;
  constructor(name: string) {
    super(name);
    this.version(1).stores({ taken: "joint" });
  }
}

/** What every page asks for, whichever joint is taken. */
const SHARED = ["/api/session", "/api/words", "/api/wall"];

export interface AlongState {
  taken: readonly Taken[];
}

/** The device has no room for what was to be taken. */
export class NoRoom extends Error {}

/** Joints on this device. */
export class Along {
  private readonly shelf: Shelf;
  private all: Taken[] = [];
  private state: AlongState = { taken: [] };
  private listeners = new Set<() => void>();
  private stale?: ReturnType<typeof setTimeout>;
  private changed = new Set<string>();
  /** One at a time. */
  private turn: Promise<unknown> = Promise.resolve();
  /** The other tabs of this device are told what lies here. */
  private readonly tabs: BroadcastChannel;
  readonly ready: Promise<void>;
  private person?: string;
  /** When what every page asks for was taken last, ms, and for whom. */
  private sharedAt = 0;
  private sharedFor?: string;

  constructor(name = "dynacor-along") {
    this.shelf = new Shelf(name);
    this.tabs = new BroadcastChannel(name);
    this.tabs.onmessage = () => void this.load();
    this.ready = this.load();
  }

  /** Says who is signed in now, null for nobody: who was before is no longer told to a page without a network. */
  as(person: string | null) {
    this.person = person ?? undefined;
    this.set(this.all);
    void this.forget(person);
  }

  private async forget(person: string | null) {
    if (!("caches" in globalThis)) return; // over plain http nothing is ever kept
    const cache = await caches.open(CACHE);
    const kept = await cache.match("/api/session");
    if (!kept || kept.headers.get(PERSON) === person) return;
    await cache.delete("/api/session");
    this.sharedFor = undefined;
  }

  /** What was taken along of a joint for the judge of this device; undefined where nothing was. */
  bundle = async (joint: string) => {
    if (!this.state.taken.some((t) => t.joint === joint)) return undefined;
    const kept = await (await caches.open(CACHE)).match(`/api/joints/${joint}/along`);
    if (kept?.headers.get(PERSON) !== this.person) return undefined;
    const text = await kept!.text();
    const { Plan, Entries } = JSON.parse(text) as { Plan: { Run: string }; Entries: unknown[] | null };
    return { text, run: Plan.Run, entries: Entries?.length ?? 0 };
  };

  subscribe = (f: () => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };

  read = () => this.state;

  private load = async () => this.set(await this.shelf.taken.toArray());

  /** What lies here is shown to whom it was taken for. */
  private set(all: Taken[]) {
    this.all = all;
    this.state = { taken: all.filter((t) => t.person === this.person) };
    for (const f of this.listeners) f();
  }

  /** Takes a joint along, or anew. Throws what keeps it from being there: no network, no room. */
  take = (joint: string) => this.inTurn(() => this.fetchAll(joint));

  /** Has a joint no longer on this device, and what no other needs. */
  drop = (joint: string) => this.inTurn(() => this.forgetJoint(joint));

  private inTurn(act: () => Promise<void>): Promise<void> {
    const done = this.turn.then(act);
    this.turn = done.catch(() => undefined);
    return done;
  }

  private async fetchAll(id: string) {
    const person = this.person;
    if (!person) return;
    await this.ready;
    const before = this.all.find((t) => t.joint === id);
    const at = Date.now();
    const cache = await caches.open(CACHE);
    let bytes = 0;
    const got = new Map<string, Response>();
    const get = async (address: string) => {
      const r = await fetch(address, { headers: { [PERSON]: person } });
      if (!r.ok || r.headers.has(KEPT)) throw new Error(`${address}: ${r.status}`);
      const body = await r.blob();
      bytes += body.size;
      const headers = new Headers({
        "Content-Type": r.headers.get("Content-Type") ?? "",
        [KEPT]: new Date(at).toISOString(),
        [PERSON]: person,
      });
      got.set(address, new Response(body, { headers }));
      return body;
    };
    const read = async <T>(address: string) => JSON.parse(await (await get(address)).text()) as T;
    const joint = await read<Joint>(`/api/joints/${id}`);
    await get(`/api/joints/${id}/bench`);
    const { papers } = await read<{ papers: Paper[] }>(`/api/papers?joint=${id}`);
    if (joint.plan) {
      await get(`/api/joints/${id}/numbers?of=plan`);
      await get(`/api/joints/${id}/along`);
      await fetchJudge();
    }
    const files = new Set([
      ...(joint.run?.photos ?? []).map((p) => `/api/photos/${p.hash}`),
      ...papers.map((p) => `/api/papers/file/${p.hash}`),
    ]);
    for (const f of files) {
      // What goes by its hash is never another.
      const here = before?.addresses.includes(f) ? await cache.match(f) : undefined;
      if (here) bytes += (await here.blob()).size;
      else await get(f);
    }
    const addresses = [...new Set([...got.keys(), ...files])];
    const own = bytes;
    const shared = this.sharedFor !== person || at - this.sharedAt > FRESH;
    if (shared) await Promise.all(SHARED.map(get));
    try {
      for (const [where, answer] of got) await cache.put(where, answer);
    } catch (e) {
      if (e instanceof DOMException && e.name === "QuotaExceededError") throw new NoRoom();
      throw e;
    }
    if (shared) {
      this.sharedAt = at;
      this.sharedFor = person;
    }
    const taken = { joint: id, tag: joint.tag, title: told(joint.title), person, at, bytes: own, addresses };
    await this.shelf.taken.put(taken);
    this.set([...this.all.filter((t) => t.joint !== id), taken]);
    this.tabs.postMessage(id);
  }

  private async forgetJoint(joint: string) {
    const gone = this.all.find((t) => t.joint === joint);
    const left = this.all.filter((t) => t.joint !== joint);
    const needed = new Set(left.flatMap((t) => t.addresses));
    const cache = await caches.open(CACHE);
    for (const a of gone?.addresses ?? []) if (!needed.has(a)) await cache.delete(a);
    if (left.length === 0) {
      for (const a of SHARED) await cache.delete(a);
      this.sharedFor = undefined;
    }
    await this.shelf.taken.delete(joint);
    this.set(left);
    this.tabs.postMessage(joint);
  }

  /** What was taken has changed, a joint or, without one, anything: it is taken anew in a moment. */
  moved(joint?: string) {
    for (const t of this.all) if (!joint || t.joint === joint) this.changed.add(t.joint);
    if (this.changed.size === 0) return;
    clearTimeout(this.stale);
    this.stale = setTimeout(() => this.anew(), SETTLE);
  }

  /** Takes what has changed anew, now. What cannot be had stays as it is, and is tried at the next change. */
  private anew() {
    const which = [...this.changed];
    this.changed.clear();
    for (const joint of which) this.take(joint).catch(() => this.changed.add(joint));
  }
}

/** Has the judge of this program on this device, and of no other. */
async function fetchJudge() {
  const cache = await caches.open(POCKET);
  if (await cache.match(pocket)) return;
  try {
    await cache.add(pocket);
  } catch (e) {
    if (e instanceof DOMException && e.name === "QuotaExceededError") throw new NoRoom();
    throw e;
  }
  for (const k of await cache.keys()) if (new URL(k.url).pathname !== pocket) await cache.delete(k);
}

/** How long what every page asks for is new enough while more joints are taken, ms. */
const FRESH = 10_000;

/** How long a run is left to settle before it is taken anew, ms. */
const SETTLE = 3000;
