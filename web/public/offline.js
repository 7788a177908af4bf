/**
 * Where the machine that runs the program does not answer, a page that says so and what is kept, in place of the browser's
 * own. Nothing else is kept here: figures come from the library or not at all.
 */
const KEPT = 'alluvium-offline-1';
const PAGE = '/offline.html';

addEventListener('install', (event) => {
  event.waitUntil(caches.open(KEPT).then((cache) => cache.add(PAGE)));
  self.skipWaiting();
});
addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter((name) => name !== KEPT).map((name) => caches.delete(name)))),
  );
});
addEventListener('fetch', (event) => {
  if (event.request.mode !== 'navigate') return;
  event.respondWith(fetch(event.request).catch(() => caches.match(PAGE)));
});
