// Hands out the pages of steps that were opened before, where there is no network.
var store = 'nexufix-steps';
self.addEventListener('install', function () { self.skipWaiting(); });
self.addEventListener('activate', function (e) { e.waitUntil(self.clients.claim()); });
self.addEventListener('fetch', function (e) {
  if (e.request.method !== 'GET') return;
  e.respondWith(
    fetch(e.request).then(function (answer) {
      if (answer.ok) {
        var copy = answer.clone();
        e.waitUntil(caches.open(store).then(function (c) { return c.put(e.request, copy); }));
      }
      return answer;
    }, function () {
      return caches.match(e.request).then(function (kept) { return kept || Response.error(); });
    }),
  );
});
