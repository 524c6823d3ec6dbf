/// <reference lib="webworker" />
// The service worker of the status page: where there is no network it answers with the page that checks a sheet's signature by the public keys,
// which it keeps. It never answers for the server while that can be asked.
const worker = self as unknown as ServiceWorkerGlobalScope;
const kept = 'nexufix-check-1';
const offline = new URL('offline.html', worker.location.href).pathname;
const parts = [offline, ...['check.js', 'check.css', 'keys'].map((name) => new URL(name, worker.location.href).pathname)];

worker.addEventListener('install', (e) => {
  e.waitUntil(
    caches
      .open(kept)
      .then((c) => c.addAll(parts))
      .then(() => worker.skipWaiting()),
  );
});
worker.addEventListener('activate', (e) => {
  e.waitUntil(worker.clients.claim());
});

/** What the network says, kept for when there is none. */
async function fresh(request: Request): Promise<Response> {
  const cache = await caches.open(kept);
  try {
    const answer = await fetch(request);
    if (answer.ok) await cache.put(request, answer.clone());
    return answer;
  } catch (e) {
    const have = await cache.match(request);
    if (have) return have;
    throw e;
  }
}

worker.addEventListener('fetch', (e) => {
  const { pathname } = new URL(e.request.url);
  if (parts.includes(pathname)) e.respondWith(fresh(e.request));
  else if (e.request.mode === 'navigate') e.respondWith(fetch(e.request).catch(async () => (await (await caches.open(kept)).match(offline)) ?? Response.error()));
});
