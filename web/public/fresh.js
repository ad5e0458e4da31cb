// The way out of a release that does not work: no page of it is needed for this.
(async () => {
  for (const r of (await navigator.serviceWorker?.getRegistrations()) ?? []) await r.unregister();
  for (const name of await caches.keys()) if (name.startsWith("workbox-")) await caches.delete(name);
  location.replace("/");
})().catch((e) => {
  document.getElementById("said").textContent = `That did not work: ${e}. Close every page of Dynacor in this browser and open this one again.`;
});
