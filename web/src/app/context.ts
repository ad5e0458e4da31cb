import { createContext, useContext, useEffect, useMemo, useState, useSyncExternalStore } from "react";
import type { Along } from "../along/shelf";
import type { Outbox, With } from "../api/outbox";
import { type Shown, useSession } from "../api/queries";
import type { EntryContent, Run } from "../api/types";
import type { Pocket } from "../pocket/pocket";

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

/** The judge of this device. */
export const PocketContext = createContext<Pocket | undefined>(undefined);

function usePocket() {
  const pocket = useContext(PocketContext);
  if (!pocket) throw new Error("no judge above this component");
  return pocket;
}

/**
 * A joint as this device judges it where the server cannot be reached and the joint was taken along, and until what was done
 * meanwhile is stored; else as it is.
 */
export function useJudged(joint: Shown | undefined): Shown | undefined {
  const pocket = usePocket();
  const judged = useSyncExternalStore(pocket.subscribe, pocket.read);
  const { taken } = useAlongState();
  const { online, acts } = useOutboxState();
  const id = joint?.id;
  const run = joint?.run?.id;
  const seen = joint?.run?.entries ?? 0;
  const alone = run !== undefined && taken.some((t) => t.joint === id) && (!online || joint?.kept !== undefined);
  const here = judged && judged.joint === id && judged.run.id === run ? judged : undefined;
  const mine = acts.filter((a) => a.run === run);
  // While what was done is on its way it stays on the screen, but for what the server would not take.
  const onItsWay = here !== undefined && !mine.some((a) => a.problem) && mine.some((a) => here.has.has(a.entry.id));
  const over = alone || onItsWay ? here : undefined;
  useEffect(() => {
    if (alone && id) pocket.open(id, seen);
    else if (!onItsWay) pocket.close();
  }, [pocket, alone, onItsWay, id, seen]);
  return useMemo(() => joint && (over ? { ...joint, run: over.run, station: over.run.station, judged: over.has } : joint), [joint, over]);
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
  const { kept, judged } = joint;
  const all = kept ? [...kept.acts, ...acts] : acts;
  return judged ? all.filter((a) => !judged.has(a.entry.id)) : all;
}

/** Records an act of a run, as whoever is signed in. */
export function useRecord(joint: string, run: string) {
  const outbox = useOutbox();
  const person = useSession()?.person.id;
  return (content: EntryContent, more?: With) => {
    if (person) void outbox.add(joint, run, person, content, more);
  };
}

/** Keeps an act that needs a PIN until the server is there to look at it. */
export function usePrepare(joint: string, run: Run) {
  const outbox = useOutbox();
  const person = useSession()?.person.id;
  return (content: EntryContent) => {
    if (person) void outbox.prepare(joint, run.id, person, content, run.entries);
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
