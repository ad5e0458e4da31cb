import { createContext, useContext, useEffect, useState, useSyncExternalStore } from "react";
import type { Along } from "../along/shelf";
import type { Outbox, With } from "../api/outbox";
import { type Shown, useSession } from "../api/queries";
import type { EntryContent } from "../api/types";

export const OutboxContext = createContext<Outbox | undefined>(undefined);

/** What was taken along onto this device. */
export const AlongContext = createContext<Along | undefined>(undefined);

export function useAlong() {
  const along = useContext(AlongContext);
  if (!along) throw new Error("nothing can be taken along above this component");
  return along;
}

export function useAlongState() {
  const along = useAlong();
  return useSyncExternalStore(along.subscribe, along.read);
}

/** Locks the screen of this device. */
export const LockContext = createContext<() => void>(() => {});

export function useOutbox() {
  const outbox = useContext(OutboxContext);
  if (!outbox) throw new Error("no outbox above this component");
  return outbox;
}

export function useOutboxState() {
  const outbox = useOutbox();
  return useSyncExternalStore(outbox.subscribe, outbox.read);
}

/** What this device did at a joint that the run on the screen may lack: what waits, and what was stored after it was taken along. */
export function useActs(joint: Shown) {
  const { acts } = useOutboxState();
  return joint.kept ? [...joint.kept.acts, ...acts] : acts;
}

/** Records an act of a run, as whoever is signed in. */
export function useRecord(joint: string, run: string) {
  const outbox = useOutbox();
  const person = useSession()?.person.id;
  return (content: EntryContent, more?: With) => {
    if (person) void outbox.add(joint, run, person, content, more);
  };
}

/**
 * One act that is watched until the server has it, like one that needs a PIN. What was refused or could not be sent is
 * sent again under the same identity.
 */
export function useWatched(joint: string, run: string, onStored: () => void) {
  const outbox = useOutbox();
  const { acts } = useOutboxState();
  const person = useSession()?.person.id;
  const [id, setID] = useState<string>();
  const act = acts.find((a) => a.entry.id === id);
  const stored = id !== undefined && act === undefined;
  useEffect(() => {
    if (!stored) return;
    setID(undefined);
    onStored();
  }, [stored, onStored]);
  return {
    busy: act !== undefined && !act.problem && !act.lacksPin,
    problem: act?.problem,
    unsent: act !== undefined && Boolean(act.lacksPin) && !act.problem,
    send(content: EntryContent, more: With) {
      if (act?.no !== undefined) void outbox.settle(act.no, { content, ...more });
      else if (person) void outbox.add(joint, run, person, content, more).then(setID);
    },
    takeBack() {
      if (act?.no !== undefined) void outbox.takeBack(act.no);
      setID(undefined);
    },
  };
}
