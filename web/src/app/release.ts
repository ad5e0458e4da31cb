import { TAKE_OVER } from "../along/kept";

/** How long after it was opened a page lets its worker fetch what it keeps, ms: the work on the screen comes first. */
const SETTLED = 5_000;

/** How often a page that stays open looks for a newer release, ms. */
const AGAIN = 3600_000;

/**
 * The service worker that opens pages without a network, and the newer release of all this that may wait behind it. A
 * release never takes over by itself: a hand may be in the middle of a ring.
 */
class Release {
  private waiting?: ServiceWorker;
  private listeners = new Set<() => void>();
  private began?: Promise<ServiceWorkerRegistration | undefined>;

  /** Begins in a while, where that has not been done. */
  look() {
    if (!this.began) setTimeout(() => void this.begin(), SETTLED);
  }

  private begin() {
    this.began ??= this.register().catch(() => {
      this.began = undefined; // it is tried again when it is wanted
      return undefined;
    });
    return this.began;
  }

  /** Whether pages open without a network from now on: waits until all they need is on this device. */
  async there() {
    const r = await this.begin();
    const w = r?.installing;
    if (!r || r.active || !w) return Boolean(r?.active ?? r?.waiting);
    return new Promise<boolean>((done) =>
      w.addEventListener("statechange", () => {
        if (w.state === "activated") done(true);
        if (w.state === "redundant") done(false);
      }),
    );
  }

  private async register() {
    if (!("serviceWorker" in navigator) || !import.meta.env.PROD) return undefined;
    const r = await navigator.serviceWorker.register("/worker.js");
    const found = (w: ServiceWorker | null) => {
      if (!w || !navigator.serviceWorker.controller) return;
      if (w.state === "installed") this.set(w);
      else w.addEventListener("statechange", () => w.state === "installed" && this.set(w));
    };
    found(r.waiting ?? r.installing);
    r.addEventListener("updatefound", () => found(r.installing));
    setInterval(() => void r.update().catch(() => undefined), AGAIN);
    return r;
  }

  private set(w: ServiceWorker) {
    this.waiting = w;
    for (const f of this.listeners) f();
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };

  /** Whether a newer release waits. */
  read = () => this.waiting !== undefined;

  /** Opens the page anew with the release that waits. */
  takeOver() {
    navigator.serviceWorker.addEventListener("controllerchange", () => location.reload(), { once: true });
    this.waiting?.postMessage(TAKE_OVER);
  }
}

export const release = new Release();
