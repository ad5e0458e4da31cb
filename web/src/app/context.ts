import { createContext, useContext, useSyncExternalStore } from "react";
import type { Outbox } from "../api/outbox";

export const OutboxContext = createContext<Outbox | undefined>(undefined);

export function useOutbox() {
  const outbox = useContext(OutboxContext);
  if (!outbox) throw new Error("no outbox above this component");
  return outbox;
}

export function useOutboxState() {
  const outbox = useOutbox();
  return useSyncExternalStore(outbox.subscribe, outbox.read);
}
