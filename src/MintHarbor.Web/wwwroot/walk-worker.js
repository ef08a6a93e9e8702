// Opens the walk round the room with the line down: its page, styles, faces and scripts as they were last seen. Nothing else is kept.
"use strict";

const kept = "walk-1";
const page = /^\/courses\/\d+\/sessions\/\d+\/walk$/;
const still = /^\/(css|js|lib)\/|^\/favicon/;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (e) =>
  e.waitUntil(
    (async () => {
      for (const name of await caches.keys()) if (name !== kept) await caches.delete(name);
      await self.clients.claim();
    })(),
  ),
);

self.addEventListener("fetch", (e) => {
  const url = new URL(e.request.url);
  if (e.request.method !== "GET" || url.origin !== self.location.origin) return;
  // Whoever signs in next finds nothing of who was here before.
  if (url.pathname === "/sign-in") {
    e.waitUntil(caches.delete(kept));
    return;
  }
  if (!page.test(url.pathname) && !still.test(url.pathname)) return;
  e.respondWith(
    (async () => {
      const cache = await caches.open(kept);
      try {
        const answer = await fetch(e.request);
        if (answer.ok && !answer.redirected) await cache.put(e.request, answer.clone());
        return answer;
      } catch (down) {
        const last = await cache.match(e.request, { ignoreVary: true });
        if (last) return last;
        throw down;
      }
    })(),
  );
});
