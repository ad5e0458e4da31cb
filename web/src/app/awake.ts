import { useEffect } from "react";

/** Keeps the screen lit while something is in hand, where the browser can; let go of with it, and taken again when the page is back in sight. */
export function useAwake(on: boolean) {
  useEffect(() => {
    if (!on || !("wakeLock" in navigator)) return;
    let held: WakeLockSentinel | undefined;
    let left = false;
    const take = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock.request("screen").then(
        (w) => {
          held = w;
          if (left) void w.release();
        },
        () => undefined, // a battery that is low: the device decides
      );
    };
    take();
    document.addEventListener("visibilitychange", take);
    return () => {
      left = true;
      document.removeEventListener("visibilitychange", take);
      void held?.release();
    };
  }, [on]);
}
