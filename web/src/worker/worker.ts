/// <reference lib="webworker" />
import { clientsClaim } from "workbox-core";
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { BENCH, CACHE, isBench, isPocket, mayBeKept, PERSON, POCKET, TAKE_OVER } from "../along/kept";

declare const self: ServiceWorkerGlobalScope;

/** How long the server is given where an answer lies here too, ms: in a pit a question may hang for a minute. */
const PATIENCE = 4000;

clientsClaim();
cleanupOutdatedCaches();
precacheAndRoute(self.__WB_MANIFEST);
// Every page is the one page; what the server makes itself is not, nor is the way out of a broken version.
registerRoute(new NavigationRoute(createHandlerBoundToURL("/index.html"), { denylist: [/^\/api\//, /^\/fresh/] }));
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && mayBeKept(url.pathname),
  ({ request }) => answer(request),
);

registerRoute(
  ({ url, sameOrigin }) => sameOrigin && isPocket(url.pathname),
  async ({ request }) => (await (await caches.open(POCKET)).match(request.url)) ?? fetch(request),
);

registerRoute(
  ({ url, sameOrigin }) => sameOrigin && isBench(url.pathname),
  ({ request }) => model(request),
);

self.addEventListener("message", (e) => {
  if (e.data === TAKE_OVER) void self.skipWaiting();
});

/** The model of the Bench: the one that lies here, else the server's, which then lies here in place of any other. */
async function model(request: Request) {
  const cache = await caches.open(BENCH);
  const here = await cache.match(request.url);
  if (here) return here;
  const fresh = await fetch(request);
  if (fresh.ok) {
    for (const other of await cache.keys()) await cache.delete(other);
    // A device without room has it from the server the next time, too.
    await cache.put(request.url, fresh.clone()).catch(() => undefined);
  }
  return fresh;
}

/** The server's answer, and where that cannot be had, the one that was taken along by the same person. */
async function answer(request: Request): Promise<Response> {
  const kept = await find(request);
  try {
    const fresh = await (kept ? fetch(request, { signal: AbortSignal.timeout(PATIENCE) }) : fetch(request));
    if (fresh.status === 401 && isSession(request)) await (await caches.open(CACHE)).delete(request.url);
    // A proxy whose server is gone answers too.
    return kept && fresh.status >= 502 ? kept : fresh;
  } catch (e) {
    if (kept) return kept;
    throw e;
  }
}

const isSession = (request: Request) => new URL(request.url).pathname === "/api/session";

/** What was taken along for who asks. A picture does not say who asks: whoever is signed in here. */
async function find(request: Request) {
  const cache = await caches.open(CACHE);
  const kept = await cache.match(request.url);
  if (!kept || isSession(request)) return kept;
  const asks = request.headers.get(PERSON) ?? (await cache.match("/api/session"))?.headers.get(PERSON);
  return asks === kept.headers.get(PERSON) ? kept : undefined;
}
