import { useCallback, useEffect, useState } from "react";

const AFTER = "dynacor-lock-after";
const LOCKED = "dynacor-locked";
const PEOPLE = "dynacor-people";

/** After how many minutes without a touch the screen of this device is locked; 0: never. */
export const lockAfter = {
  minutes: () => Number(localStorage.getItem(AFTER) ?? 60),
  set: (minutes: number) => localStorage.setItem(AFTER, String(minutes)),
};

export interface Known {
  login: string;
  name: string;
}

/** How many people a device remembers. */
const MOST = 6;

/** Who signed in on this device last, for a quick change of person. */
export const knownPeople = {
  list: (): Known[] => {
    try {
      return JSON.parse(localStorage.getItem(PEOPLE) ?? "[]") as Known[];
    } catch {
      return [];
    }
  },
  add: (p: Known) =>
    localStorage.setItem(PEOPLE, JSON.stringify([p, ...knownPeople.list().filter((x) => x.login !== p.login)].slice(0, MOST))),
};

/** Whether the screen is locked: by hand, or because nobody touched it for a while. A page that is loaded anew stays locked. */
export function useLock(active: boolean) {
  const [locked, setLocked] = useState(() => localStorage.getItem(LOCKED) === "1");
  const set = useCallback((on: boolean) => {
    if (on) localStorage.setItem(LOCKED, "1");
    else localStorage.removeItem(LOCKED);
    setLocked(on);
  }, []);
  useEffect(() => {
    const other = (e: StorageEvent) => {
      if (e.key === LOCKED) setLocked(e.newValue === "1");
    };
    window.addEventListener("storage", other);
    return () => window.removeEventListener("storage", other);
  }, []);
  useEffect(() => {
    if (!active || locked) return;
    let touched = Date.now();
    const touch = () => {
      touched = Date.now();
    };
    const events = ["pointerdown", "keydown", "wheel", "touchstart"] as const;
    for (const e of events) window.addEventListener(e, touch, { passive: true });
    const look = setInterval(() => {
      const minutes = lockAfter.minutes();
      if (minutes > 0 && Date.now() - touched > minutes * 60_000) set(true);
    }, 5_000);
    return () => {
      clearInterval(look);
      for (const e of events) window.removeEventListener(e, touch);
    };
  }, [active, locked, set]);
  return [locked && active, set] as const;
}
