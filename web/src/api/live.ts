import type { QueryClient } from "@tanstack/react-query";
import type { Outbox } from "./outbox";
import type { Joint } from "./types";

/** A stream that has been silent for so long has broken off. The server shows itself every ten seconds. */
const SILENT = 25_000;

/** How long an answer to this device's own act may take before the change is asked for, ms. */
const ECHO = 400;

/** What the stream says, as the tabs of a browser tell it to one another. */
type Said = { what: "open" | "ping" | "broken" } | { what: "joint"; data: string };

/**
 * Follows the server's stream of changes until stopped, and says what has moved: a joint, or all there is. The tabs of a
 * browser share one stream: the one that holds the lock keeps it and tells the others. A page that is left lets go of
 * it, also when the browser keeps that page.
 */
export function follow(queries: QueryClient, outbox: Outbox, moved: (joint?: string) => void) {
  const tabs = new BroadcastChannel("dynacor-stream");
  let letGo: (() => void) | undefined;
  let watchdog: ReturnType<typeof setTimeout> | undefined;

  const hear = (said: Said) => {
    clearTimeout(watchdog);
    if (said.what === "broken") return outbox.connection(false);
    outbox.connection(true);
    watchdog = setTimeout(() => outbox.connection(false), SILENT);
    if (said.what === "open") {
      void queries.invalidateQueries({ queryKey: ["session"] }); // and with it the clock
      void queries.invalidateQueries({ queryKey: ["joint"] });
      void queries.invalidateQueries({ queryKey: ["wall"] });
      moved();
    }
    if (said.what === "joint") changed(queries, outbox, said.data, moved);
  };
  tabs.onmessage = (e: MessageEvent<Said>) => hear(e.data);

  const show = () => {
    if (letGo) return;
    const leave = new AbortController();
    letGo = () => leave.abort();
    const tell = (said: Said) => {
      hear(said);
      tabs.postMessage(said);
    };
    // Without the right to lock, where a page came over plain http, each tab keeps a stream of its own.
    if (!("locks" in navigator)) return keep(hear, leave.signal);
    navigator.locks
      .request(
        "dynacor-stream",
        { signal: leave.signal },
        () =>
          new Promise<void>((done) => {
            keep(tell, leave.signal);
            leave.signal.addEventListener("abort", () => done());
          }),
      )
      .catch(() => undefined); // left before its turn came
  };
  const hide = () => {
    letGo?.();
    letGo = undefined;
    clearTimeout(watchdog);
  };
  const shown = (e: PageTransitionEvent) => {
    show();
    // A page that the browser kept has missed what happened meanwhile.
    if (e.persisted) hear({ what: "open" });
  };
  const offline = () => outbox.connection(false);
  window.addEventListener("offline", offline);
  window.addEventListener("pagehide", hide);
  window.addEventListener("pageshow", shown);
  show();
  return () => {
    hide();
    tabs.close();
    window.removeEventListener("offline", offline);
    window.removeEventListener("pagehide", hide);
    window.removeEventListener("pageshow", shown);
  };
}

/** Keeps the stream open until it is left, and opens it again when it breaks off. */
function keep(tell: (said: Said) => void, left: AbortSignal) {
  let source: EventSource | undefined;
  let silent: ReturnType<typeof setTimeout> | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  const close = () => {
    clearTimeout(silent);
    clearTimeout(again);
    source?.close();
  };
  const broken = () => {
    close();
    tell({ what: "broken" });
    again = setTimeout(open, 1000);
  };
  const heard = (said: Said) => {
    clearTimeout(silent);
    silent = setTimeout(broken, SILENT);
    tell(said);
  };
  const open = () => {
    source = new EventSource("/api/stream");
    source.addEventListener("open", () => heard({ what: "open" }));
    source.addEventListener("ping", () => heard({ what: "ping" }));
    source.addEventListener("joint", (e: MessageEvent<string>) => heard({ what: "joint", data: e.data }));
    source.addEventListener("error", broken);
  };
  left.addEventListener("abort", close);
  open();
}

/** Asks for what changed: a joint, or everything. */
function changed(queries: QueryClient, outbox: Outbox, data: string, moved: (joint?: string) => void) {
  void queries.invalidateQueries({ queryKey: ["wall"] });
  const [id = "all", entries = "-1"] = data.split(" ");
  moved(id === "all" ? undefined : id);
  if (id === "all") return void queries.invalidateQueries({ queryKey: ["joint"] });
  // Word of what this device did itself comes back too; its own answer brings that, so it is given the time to.
  const own = outbox.read().acts.some((a) => a.joint === id);
  setTimeout(
    () => {
      const known = queries.getQueryData<Joint>(["joint", id])?.run?.entries ?? -1;
      if (Number(entries) < 0 || known < Number(entries)) void queries.invalidateQueries({ queryKey: ["joint", id] });
    },
    own ? ECHO : 0,
  );
}
