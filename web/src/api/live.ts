import type { QueryClient } from "@tanstack/react-query";
import type { Outbox } from "./outbox";
import type { Joint } from "./types";

/** A stream that has been silent for so long has broken off. The server shows itself every ten seconds. */
const SILENT = 25_000;

/** How long an answer to this device's own act may take before the change is asked for, ms. */
const ECHO = 400;

/** Follows the server's stream of changes until stopped. */
export function follow(queries: QueryClient, outbox: Outbox) {
  let source: EventSource | undefined;
  let watchdog: ReturnType<typeof setTimeout> | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  let stopped = false;

  const alive = () => {
    outbox.connection(true);
    clearTimeout(watchdog);
    watchdog = setTimeout(broken, SILENT);
  };
  const broken = () => {
    outbox.connection(false);
    clearTimeout(watchdog);
    source?.close();
    clearTimeout(again);
    if (!stopped) again = setTimeout(open, 1000);
  };
  const open = () => {
    source = new EventSource("/api/stream");
    source.addEventListener("open", () => {
      alive();
      void queries.invalidateQueries({ queryKey: ["joint"] });
      void queries.invalidateQueries({ queryKey: ["wall"] });
    });
    source.addEventListener("ping", alive);
    source.addEventListener("joint", (e: MessageEvent<string>) => {
      alive();
      void queries.invalidateQueries({ queryKey: ["wall"] });
      const [id = "all", entries = "-1"] = e.data.split(" ");
      if (id === "all") return void queries.invalidateQueries({ queryKey: ["joint"] });
      // Word of what this device did itself comes back too; its own answer brings that, so it is given the time to.
      const own = outbox.read().acts.some((a) => a.joint === id);
      setTimeout(() => {
        const joint = queries.getQueryData<Joint>(["joint", id]);
        const known = (joint?.job?.run ?? joint?.run)?.entries ?? -1;
        if (Number(entries) < 0 || known < Number(entries)) void queries.invalidateQueries({ queryKey: ["joint", id] });
      }, own ? ECHO : 0);
    });
    source.addEventListener("error", broken);
  };
  const offline = () => outbox.connection(false);
  window.addEventListener("offline", offline);
  open();
  return () => {
    stopped = true;
    clearTimeout(watchdog);
    clearTimeout(again);
    window.removeEventListener("offline", offline);
    source?.close();
  };
}
