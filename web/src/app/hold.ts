import { useEffect, useLayoutEffect, useRef } from "react";
import { keyTaken } from "./keys";

/** How long a key or a button is held before it counts as held, and then how often it acts, ms. */
const FIRST = 550;
const EVERY = 380;

/**
 * An act that is done again and again while the space bar, the pedal or its button is held: ticks in a row. It stops by
 * itself where nothing is left to do, and with whatever it was for: what comes then wants a press of its own.
 */
export function useHold(act: (() => void) | undefined) {
  const now = useRef(act);
  useLayoutEffect(() => {
    now.current = act;
  });
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const held = useRef(false);
  const stop = () => {
    clearTimeout(timer.current);
    timer.current = undefined;
  };
  const go = (after: number) => {
    timer.current = setTimeout(() => {
      if (!now.current) return stop();
      held.current = true;
      now.current();
      go(EVERY);
    }, after);
  };
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (e.key !== " " || e.ctrlKey || e.altKey || e.metaKey || keyTaken(e) || !now.current) return;
      e.preventDefault();
      if (e.repeat) return;
      now.current();
      stop();
      go(FIRST);
    };
    const up = (e: KeyboardEvent) => e.key === " " && stop();
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", stop);
    return () => {
      stop();
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", stop);
    };
    // What it reads lies in refs.
  }, []);
  return {
    onPointerDown: () => {
      held.current = false;
      go(FIRST);
    },
    onPointerUp: stop,
    onPointerLeave: stop,
    onPointerCancel: stop,
    onClick: () => {
      stop();
      if (!held.current) now.current?.();
      held.current = false;
    },
  };
}
