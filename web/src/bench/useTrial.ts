import { useEffect, useMemo, useRef, useState } from "react";
import type { BenchAnswer, BenchTried, BenchTry, Problem } from "../api/types";
import { Trier } from "./trier";

export interface Trial {
  tried?: BenchTried[];
  /** What they were tried of: a picture is of this, whatever was typed since. */
  of?: BenchTry;
  problem?: Problem;
  busy: boolean;
  failed: boolean;
  stopped: boolean;
  stop: () => void;
  again: () => void;
}

/** The worker of this page; it ends with it. */
export function useTrier() {
  const trier = useMemo(() => new Trier(), []);
  useEffect(() => () => trier.stop(), [trier]);
  return trier;
}

/**
 * Tries what is asked, whenever that changes: one question at a time, the newest next. What was tried last stays meanwhile, and
 * is not tried a second time.
 */
export function useTrial(trier: Trier, ask: BenchTry | undefined): Trial {
  const [state, setState] = useState<Omit<Trial, "stop" | "again">>({ busy: false, failed: false, stopped: false });
  const [turn, setTurn] = useState(0);
  const running = useRef(false);
  const next = useRef<BenchTry>(undefined);
  const done = useRef<BenchTry>(undefined);
  useEffect(() => {
    next.current = ask === done.current ? undefined : ask;
    if (!next.current || running.current) return;
    running.current = true;
    void (async () => {
      while (next.current) {
        const of = next.current;
        next.current = undefined;
        setState((s) => ({ ...s, busy: true, failed: false, stopped: false }));
        const a = await trier.ask<BenchAnswer>("try", of);
        setState((s) => ({
          ...s,
          busy: false,
          failed: a.failed === true,
          stopped: a.stopped === true,
          problem: a.problem,
          ...(a.is ? { tried: a.is.tried, of } : {}),
        }));
        done.current = a.failed || a.stopped ? undefined : of;
        if (a.failed || a.stopped) next.current = undefined;
      }
      running.current = false;
    })();
  }, [trier, ask, turn]);
  return { ...state, stop: () => trier.stop(), again: () => setTurn((n) => n + 1) };
}
