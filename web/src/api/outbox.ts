import Dexie, { type Table } from "dexie";
import { Refused, sendEntry, Unreachable } from "./client";
import type { AnyRun, EntryContent, NewEntry, Problem } from "./types";

/** An act on its way to the server. It leaves only when the server has it, or when somebody takes it back. */
export interface Waiting {
  no?: number;
  joint: string;
  run: string;
  person: string;
  entry: NewEntry;
  /** It is of a run that a recipe leads. */
  led?: boolean;
  /** Why the server would not take it; unset while it is only waiting. */
  problem?: Problem;
}

class Shelf extends Dexie {
  acts!: Table<Waiting, number>;
  constructor(name: string) {
    super(name);
    this.version(1).stores({ acts: "++no, run" });
  }
}

type Send = (w: Waiting) => Promise<AnyRun>;

const post: Send = (w) => sendEntry(w.run, w.led ?? false, w.entry);

/**
 * Keeps every act on the device until the server has stored it. Acts of one run go in order, one at a time; one that
 * is refused holds those behind it until it is settled.
 */
export class Outbox {
  onStored: (joint: string, run: AnyRun) => void = () => {};
  onSignedOut: () => void = () => {};
  /** Who is signed in: what somebody else left waiting is not sent in their name. */
  private person?: string;
  private readonly shelf: Shelf;
  private readonly send: Send;
  private readonly retryAfter: number;
  private acts: readonly Waiting[] = [];
  private online = true;
  private storedAt?: Date;
  private listeners = new Set<() => void>();
  private sending = false;
  private retry?: ReturnType<typeof setTimeout>;
  private snapshot: Snapshot = { acts: [], online: true };
  readonly ready: Promise<void>;

  constructor(name = "dynacor", send: Send = post, retryAfter = 2000) {
    this.shelf = new Shelf(name);
    this.send = send;
    this.retryAfter = retryAfter;
    this.ready = this.shelf.acts
      .orderBy("no")
      .toArray()
      .then((acts) => {
        this.acts = acts;
        this.publish();
        void this.drain();
      });
  }

  /** Keeps an act and sends it as soon as it can be sent. Resolves once the device has it. */
  async add(joint: string, run: string, person: string, kind: NewEntry["kind"], content: EntryContent, led = false) {
    await this.ready;
    const entry: NewEntry = { id: crypto.randomUUID(), kind, at: new Date().toISOString(), content };
    const w: Waiting = { joint, run, person, entry, led };
    w.no = await this.shelf.acts.add(w);
    this.acts = [...this.acts, w];
    this.publish();
    void this.drain();
    return entry.id;
  }

  /** Sends a refused act again, changed: the answer to "is that right?". */
  async settle(no: number, content: EntryContent) {
    const w = this.acts.find((a) => a.no === no);
    if (!w) return;
    const changed: Waiting = { ...w, problem: undefined, entry: { ...w.entry, content } };
    await this.shelf.acts.put(changed);
    this.acts = this.acts.map((a) => (a.no === no ? changed : a));
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

  /** Says who is signed in now. */
  as(person: string | undefined) {
    this.person = person;
    void this.drain();
  }

  /** Tells the outbox what other parts learnt about the connection. */
  connection(online: boolean) {
    if (online !== this.online) {
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
    this.snapshot = { acts: this.acts, online: this.online, storedAt: this.storedAt };
    for (const f of this.listeners) f();
  }

  private async drain() {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.retry);
    try {
      for (;;) {
        const held = new Set(this.acts.filter((a) => a.problem).map((a) => a.run));
        const w = this.acts.find((a) => !a.problem && !held.has(a.run) && a.person === this.person);
        if (!w || !(await this.sendOne(w))) return;
      }
    } finally {
      this.sending = false;
    }
  }

  /** Sends one act; false when there is no use in sending more now. */
  private async sendOne(w: Waiting) {
    try {
      const run = await this.send(w);
      await this.shelf.acts.delete(w.no!);
      // First the run with the act in it, and only when every screen has that, the outbox without it: the other way
      // round the bolt before would show for a moment.
      this.onStored(w.joint, run);
      await new Promise((seen) => setTimeout(seen));
      this.acts = this.acts.filter((a) => a.no !== w.no);
      this.online = true;
      this.storedAt = new Date();
      this.publish();
      return true;
    } catch (e) {
      if (e instanceof Refused && e.problem.status === 401) {
        this.onSignedOut();
        return false;
      }
      if (e instanceof Refused && e.problem.status < 500) {
        const refused = { ...w, problem: e.problem };
        await this.shelf.acts.put(refused);
        this.acts = this.acts.map((a) => (a.no === w.no ? refused : a));
        this.publish();
        return true;
      }
      if (e instanceof Unreachable) this.online = false;
      this.publish();
      this.retry = setTimeout(() => void this.drain(), this.retryAfter);
      return false;
    }
  }
}

export interface Snapshot {
  acts: readonly Waiting[];
  online: boolean;
  storedAt?: Date;
}
