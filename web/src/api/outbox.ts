import Dexie, { type Table } from "dexie";
import { clock } from "./clock";
import { ANOTHER, passes, Refused, sendEntry, sendPhoto } from "./client";
import type { EntryContent, NewEntry, Problem, Stored } from "./types";

/** An act on its way to the server. It leaves only when the server has it, or when somebody takes it back. */
export interface Waiting {
  no?: number;
  joint: string;
  run: string;
  person: string;
  /** As it is sent, but for the PIN, which is never kept. */
  entry: Omit<NewEntry, "pin" | "known">;
  /** The photograph that it names, in base64: sent before it. */
  photo?: string;
  /** It goes with a PIN, in a dialog that stays until it is stored. */
  pinned?: boolean;
  /** Its PIN is not known any more, and has to be asked for again. */
  lacksPin?: boolean;
  /** Why the server would not take it; unset while it is only waiting. */
  problem?: Problem;
  /** It was this device that refused it, without the server. */
  byDevice?: boolean;
}

/** What goes with an act besides its content. */
export interface With {
  confirmed?: boolean;
  pin?: string;
  /** Whose PIN it is, where that is not who is signed in. */
  as?: string;
  /** Readings of instruments that are among what was read. */
  from?: string[];
  /** The photograph that it names, in base64. */
  photo?: string;
}

/** An act that the server said it has stored: kept for a while, should its database be set back to an older state. */
interface Sent {
  id: string;
  run: string;
  /** Its number in the run, by the server. */
  seq: number;
  /** When that was, ms. */
  at: number;
  act: Waiting;
}

/** How long what was stored is kept on the device, ms: longer than a site takes to notice that it lives on a backup. */
const KEEP = 7 * 24 * 3600_000;

class Shelf extends Dexie {
  acts!: Table<Waiting, number>;
  sent!: Table<Sent, string>;
  constructor(name: string) {
    super(name, { chromeTransactionDurability: "strict" }); // on the disk before it counts as kept: a battery may end
    this.version(1).stores({ acts: "++no, run" });
    this.version(2).stores({ sent: "id, run, at" });
  }
}

type Send = (w: Waiting, pin?: string, known?: number) => Promise<Stored>;

const post: Send = async (w, pin, known) => {
  if (w.photo) await sendPhoto(w.photo);
  return sendEntry(w.run, { ...w.entry, ...(pin ? { pin } : {}), ...(known === undefined ? {} : { known }) });
};

/**
 * Keeps every act on the device until the server has stored it, under one identity however often it is sent. Acts of
 * one run go in order, one at a time; one that is refused, or waits for its PIN, holds those behind it until it is settled.
 */
export class Outbox {
  onStored: (joint: string, stored: Stored) => void = () => {};
  /** How many entries of a joint's run its screens have seen; undefined where they want to hear of the whole run. */
  knows: (joint: string) => number | undefined = () => undefined;
  /** What the server would not take may rest on something that has changed meanwhile. */
  onRefused: (joint: string) => void = () => {};
  onSignedOut: () => void = () => {};
  /** Judges an act on this device, where the server cannot be reached; undefined: nothing speaks against it, or nobody knows. */
  judge: (w: Waiting) => Promise<Problem | undefined> = () => Promise.resolve(undefined);
  /** Who is signed in: what somebody else left waiting is not sent in their name. */
  private person?: string;
  private readonly shelf: Shelf;
  private readonly send: Send;
  private readonly retryAfter: number;
  private acts: readonly Waiting[] = [];
  /** The highest number of an entry of each run that the server said it has from this device. */
  private readonly acknowledged = new Map<string, number>();
  /** PINs of acts that are being sent, by the act's identity: in memory, and no longer than one try. */
  private readonly pins = new Map<string, string>();
  private online = true;
  /** The last try was answered by nobody, or by a server that could not store it. */
  private failing = false;
  private storedAt?: Date;
  private listeners = new Set<() => void>();
  private sending = false;
  /** The act that is on its way. */
  private underway?: number;
  private judging: Promise<unknown> = Promise.resolve();
  private retry?: ReturnType<typeof setTimeout>;
  /** How many acts are on their way to the disk. */
  private keeping = 0;
  private snapshot: Snapshot = { acts: [], online: true, keeping: 0 };
  readonly ready: Promise<void>;

  constructor(name = "dynacor", send: Send = post, retryAfter = 2000) {
    this.shelf = new Shelf(name);
    this.send = send;
    this.retryAfter = retryAfter;
    this.ready = this.load();
  }

  private async load() {
    const [acts, sent] = await Promise.all([this.shelf.acts.orderBy("no").toArray(), this.shelf.sent.toArray()]);
    this.acts = acts;
    for (const s of sent) this.acknowledge(s.run, s.seq);
    this.publish();
    void this.drain();
    await this.shelf.sent
      .where("at")
      .below(Date.now() - KEEP)
      .delete();
  }

  private acknowledge(run: string, seq: number) {
    this.acknowledged.set(run, Math.max(seq, this.acknowledged.get(run) ?? 0));
  }

  /** How many entries of each run the server must have, by what it said until now. */
  expects(): ReadonlyMap<string, number> {
    return new Map(this.acknowledged);
  }

  /** What the server stored from this device of a run behind so many entries, in order: a copy of the run lacks it. */
  async since(run: string, entries: number): Promise<{ acts: Waiting[]; gap: boolean }> {
    await this.ready;
    const sent = (await this.shelf.sent.where("run").equals(run).toArray()).filter((s) => s.seq > entries).sort((a, b) => a.seq - b.seq);
    return { acts: sent.map((s) => s.act), gap: sent.some((s, i) => s.seq !== entries + 1 + i) };
  }

  /**
   * The server has fewer entries of a run than it said it stored: its database was set back. What it does not have any
   * more is sent again, before what is still waiting.
   */
  async setBack(run: string, entries: number) {
    await this.ready;
    this.acknowledged.set(run, entries);
    const lost = (await this.shelf.sent.where("run").equals(run).toArray()).filter((s) => s.seq > entries).sort((a, b) => a.seq - b.seq);
    if (lost.length === 0) return;
    let no = Math.min(0, ...this.acts.map((a) => a.no ?? 0)) - lost.length;
    const again = lost.map(({ act }) => ({ ...act, no: no++, problem: undefined, ...(act.pinned ? { lacksPin: true } : {}) }));
    // Those that were refused meanwhile may have been so for what is missing.
    const waiting = this.acts.map((a) => (a.run === run && a.problem ? { ...a, problem: undefined } : a));
    await this.shelf.transaction("rw", this.shelf.acts, this.shelf.sent, async () => {
      await this.shelf.acts.bulkPut([...again, ...waiting]);
      await this.shelf.sent.bulkDelete(lost.map((s) => s.id));
    });
    this.acts = [...again, ...waiting];
    this.publish();
    void this.drain();
  }

  /** Keeps an act and sends it as soon as it can be sent. Resolves with its identity once the device has it. */
  async add(joint: string, run: string, person: string, content: EntryContent, more: With = {}) {
    this.keeping++;
    this.publish();
    try {
      return await this.keep(joint, run, person, content, more);
    } finally {
      this.keeping--;
      this.publish();
      if (!this.snapshot.online) this.judgeInTurn();
      void this.drain();
    }
  }

  /**
   * Keeps an act that needs a PIN where there is no server to look at it: it is asked for when there is one. seen is how many
   * entries the run had on the screen, and what is signed is that.
   */
  async prepare(joint: string, run: string, person: string, content: EntryContent, seen: number) {
    await this.ready;
    const w = { ...this.waiting(joint, run, person, content, {}), pinned: true, lacksPin: true };
    w.entry = { ...w.entry, onto: seen };
    const no = await this.shelf.acts.add(w);
    this.acts = [...this.acts, { ...w, no }];
    this.publish();
    if (!this.snapshot.online) this.judgeInTurn();
  }

  private waiting(joint: string, run: string, person: string, content: EntryContent, rest: Omit<With, "pin" | "photo">): Waiting {
    const off = clock.off();
    const entry = { id: crypto.randomUUID(), at: new Date().toISOString(), ...(off ? { off } : {}), content, ...rest };
    return { joint, run, person, entry };
  }

  private judgeInTurn() {
    this.judging = this.judging.then(() => this.judgeAll()).catch(() => undefined);
  }

  /** Has this device judge what waits here, in order; behind one that is refused or waits for its PIN nothing of its run. */
  private async judgeAll() {
    const held = new Set<string>();
    for (const w of this.acts) {
      if (w.person !== this.person || held.has(w.run)) continue;
      const problem = w.problem ?? (await this.judge(w));
      if (problem && !w.problem && this.underway !== w.no && this.acts.includes(w)) await this.replace({ ...w, problem, byDevice: true });
      if (problem || w.pinned || w.lacksPin) held.add(w.run);
    }
  }

  private async keep(joint: string, run: string, person: string, content: EntryContent, more: With) {
    await this.ready;
    const { pin, photo, ...rest } = more;
    const w: Waiting = {
      ...this.waiting(joint, run, person, content, rest),
      ...(pin ? { pinned: true } : {}),
      ...(photo ? { photo } : {}),
    };
    // What is on the shelf outlives this page, and the PIN does not.
    w.no = await this.shelf.acts.add(pin ? { ...w, lacksPin: true } : w);
    if (pin) this.pins.set(w.entry.id, pin);
    this.acts = [...this.acts, w];
    return w.entry.id;
  }

  /** Sends a refused act again, changed: the answer to "is that right?", or its PIN. */
  async settle(no: number, change: With & { content?: EntryContent }) {
    const w = this.acts.find((a) => a.no === no);
    if (!w) return;
    const { pin, photo: _, ...rest } = change;
    if (pin) this.pins.set(w.entry.id, pin);
    await this.replace({ ...w, problem: undefined, byDevice: undefined, lacksPin: w.lacksPin && !pin, entry: { ...w.entry, ...rest } });
    void this.drain();
  }

  /**
   * Keeps what waits here of a run also where somebody else has done it meanwhile: as done a second time. Said once, for all
   * that was done apart.
   */
  async keepApart(run: string) {
    const apart = (a: Waiting) =>
      a.run === run && a.person === this.person ? { ...a, problem: undefined, byDevice: undefined, entry: { ...a.entry, apart: true } } : a;
    const acts = this.acts.map(apart);
    await this.shelf.acts.bulkPut(acts.filter((a, i) => a !== this.acts[i]));
    const changed = new Map(acts.map((a) => [a.no, a]));
    this.acts = this.acts.map((a) => changed.get(a.no) ?? a);
    this.publish();
    void this.drain();
  }

  /** Takes a refused act back, and with it nothing else. */
  async takeBack(no: number) {
    await this.shelf.acts.delete(no);
    this.acts = this.acts.filter((a) => a.no !== no);
    this.publish();
    void this.drain();
  }

  /** What waits here of whoever is signed in, in order. */
  mine = () => this.acts.filter((a) => a.person === this.person);

  /** Says who is signed in now. */
  as(person: string | undefined) {
    this.person = person;
    void this.drain();
  }

  /** Tells the outbox what other parts learnt about the connection. */
  connection(online: boolean) {
    // What this device would not have taken the server is asked about: it is the one that counts.
    const ask = online && this.acts.some((a) => a.byDevice);
    if (ask) this.acts = this.acts.map((a) => (a.byDevice ? { ...a, problem: undefined, byDevice: undefined } : a));
    if (ask || online !== this.online) {
      this.online = online;
      this.publish();
    }
    if (online) void this.drain();
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };

  read = () => this.snapshot;

  private publish() {
    const reached = this.online && !(this.failing && this.acts.length > 0);
    this.snapshot = { acts: this.acts, online: reached, storedAt: this.storedAt, keeping: this.keeping };
    for (const f of this.listeners) f();
  }

  private async replace(w: Waiting) {
    await this.shelf.acts.put(this.pins.has(w.entry.id) ? { ...w, lacksPin: true } : w);
    this.acts = this.acts.map((a) => (a.no === w.no ? w : a));
    this.publish();
  }

  private async drain() {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.retry);
    try {
      for (;;) {
        // What is refused, or waits for its PIN, holds what comes behind it in its run, not what is before it.
        const held = new Set<string>();
        const w = this.acts.find((a) => {
          if (a.problem || a.lacksPin) held.add(a.run);
          return !held.has(a.run) && a.person === this.person;
        });
        if (!w) this.failing = false; // what failed was taken back
        if (!w || !(await this.sendOne(w))) return;
      }
    } finally {
      this.sending = false;
    }
  }

  /** Sends one act; false when there is no use in sending more now. */
  private async sendOne(w: Waiting) {
    const pin = this.pins.get(w.entry.id);
    this.pins.delete(w.entry.id);
    this.underway = w.no;
    try {
      const stored = await this.send(w, pin, this.knows(w.joint));
      const seq = stored.run?.entries ?? (stored.onward ? stored.onward.after + 1 : 0);
      await this.shelf.transaction("rw", this.shelf.acts, this.shelf.sent, async () => {
        await this.shelf.acts.delete(w.no!);
        await this.shelf.sent.put({ id: w.entry.id, run: w.run, seq, at: Date.now(), act: w });
      });
      this.acknowledge(w.run, seq);
      // First the run with the act in it, and only when every screen has that, the outbox without it: the other way
      // round the bolt before would show for a moment.
      this.onStored(w.joint, stored);
      await new Promise((seen) => setTimeout(seen));
      this.acts = this.acts.filter((a) => a.no !== w.no);
      this.online = true;
      this.failing = false;
      this.storedAt = new Date();
      this.publish();
      return true;
    } catch (e) {
      const refused = e instanceof Refused && !passes(e);
      this.failing = !refused;
      // It stays for whoever did it, until they are signed in again.
      const out = e instanceof Refused && (e.problem.status === 401 || e.problem.code === ANOTHER);
      if (pin || (refused && !out))
        await this.replace({ ...w, lacksPin: pin !== undefined, ...(refused && !out ? { problem: e.problem } : {}) });
      if (out) {
        if (e.problem.status === 401) this.onSignedOut();
        return false;
      }
      if (refused) {
        this.onRefused(w.joint);
        return true;
      }
      this.publish();
      this.judgeInTurn();
      this.retry = setTimeout(() => void this.drain(), this.retryAfter);
      return false;
    } finally {
      this.underway = undefined;
    }
  }
}

export interface Snapshot {
  acts: readonly Waiting[];
  online: boolean;
  storedAt?: Date;
  /** Acts that are not even on this device's disk yet: for some thousandths of a second. */
  keeping: number;
}
