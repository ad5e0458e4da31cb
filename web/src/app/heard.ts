import type { Along } from "../along/shelf";
import { http, take } from "../api/client";
import type { Outbox } from "../api/outbox";

/** How often a device that is in use says what it has, ms. */
const AGAIN = 120_000;

/** How long it waits for more to change before it says so, ms. */
const SETTLE = 1500;

/** What this device said of itself last: also after a reload, so that it says when nothing waits on it any more. */
const SAID = "dynacor-device-said";

/** What is written on this device, and by what the server knows it. */
export const device = {
  id(): string {
    let id = localStorage.getItem("dynacor-device");
    if (!id) localStorage.setItem("dynacor-device", (id = crypto.randomUUID()));
    return id;
  },
  name: () => localStorage.getItem("dynacor-device-name") ?? "",
  called(name: string) {
    localStorage.setItem("dynacor-device-name", name);
    for (const f of renamed) f();
  },
};
const renamed = new Set<() => void>();

/**
 * Says what waits on this device and what it took along, as often as that changes: so the Wall can tell of one that is
 * silent with acts in it. Where nothing is, and nothing was, it says nothing.
 */
export function keepHeard(outbox: Outbox, along: Along) {
  let soon: ReturnType<typeof setTimeout> | undefined;
  const say = async (always: boolean) => {
    const { acts } = outbox.read();
    const { taken } = along.read();
    const since = acts.map((a) => a.entry.at).sort()[0];
    const waiting = [...new Set(acts.map((a) => a.joint))].map((joint) => {
      const at = acts.filter((a) => a.joint === joint).map((a) => a.entry.at);
      return { joint, acts: at.length, since: at.sort()[0]! };
    });
    const body = { name: device.name(), acts: acts.length, ...(since ? { since } : {}), joints: taken.map((t) => t.joint), waiting };
    const now = JSON.stringify(body);
    const said = localStorage.getItem(SAID) ?? "";
    const empty = acts.length === 0 && taken.length === 0;
    if (now === said ? !always || empty : empty && said === "") return;
    try {
      await take(http.PUT("/api/devices/{device}", { params: { path: { device: device.id() } }, body }));
      localStorage.setItem(SAID, now);
    } catch {
      // Without a network nobody can be told: the server knows since when it has heard nothing.
    }
  };
  const changed = () => {
    clearTimeout(soon);
    soon = setTimeout(() => void say(false), SETTLE);
  };
  const stop = [outbox.subscribe(changed), along.subscribe(changed)];
  renamed.add(changed);
  const again = setInterval(() => void say(true), AGAIN);
  changed();
  return () => {
    clearTimeout(soon);
    clearInterval(again);
    renamed.delete(changed);
    for (const f of stop) f();
  };
}
