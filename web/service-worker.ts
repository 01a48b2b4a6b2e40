/** The service worker's source: it keeps the shell of the application, so that it opens without a connection. Answers of the server are never kept. */
export const serviceWorkerSource = (shell: string[], name: string) => `
const SHELL = ${JSON.stringify(shell)};
const NAME = ${JSON.stringify(name)};

self.addEventListener("install", (event) => {
  event.waitUntil(
    caches
      .open(NAME)
      .then((cache) => cache.addAll(SHELL))
      .then(() => self.skipWaiting()),
  );
});

self.addEventListener("activate", (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter((name) => name !== NAME).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  );
});

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin || url.pathname.startsWith("/api/")) return;
  if (request.mode === "navigate") {
    // The server's own page first: it may be a newer one.
    event.respondWith(fetch(request).catch(() => caches.match("/")));
    return;
  }
  if (!url.pathname.startsWith("/assets/")) return;
  // Their names carry what is in them: one that is kept is the right one.
  event.respondWith(
    caches.match(request).then(
      (kept) =>
        kept ??
        fetch(request).then((answer) => {
          if (answer.ok) {
            const copy = answer.clone();
            caches.open(NAME).then((cache) => cache.put(request, copy));
          }
          return answer;
        }),
    ),
  );
});
`;
