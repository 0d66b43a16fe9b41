// Keeps a student's desk on the device, so that it opens without a connection. File names change with their content, so
// that what is kept is never old; only the page itself is asked for anew whenever the server answers.
const CACHE = 'vivid-cue-desk-1';

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

self.addEventListener('message', (event) => {
  const { keep } = event.data ?? {};
  if (Array.isArray(keep)) event.waitUntil(keepFiles(keep));
});

/** More files than two versions of the application have; the oldest go first. */
const MOST_FILES = 400;

/** Fetches what is not kept yet, and the page itself anew. */
async function keepFiles(paths) {
  const cache = await caches.open(CACHE);
  const kept = new Set((await cache.keys()).map(({ url }) => new URL(url).pathname));
  for (const path of paths)
    if (path === '/index.html' || !kept.has(path)) await cache.add(path).catch(() => undefined);
  const all = await cache.keys();
  for (const request of all.slice(0, Math.max(0, all.length - MOST_FILES))) await cache.delete(request);
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== self.location.origin || url.pathname.startsWith('/api/'))
    return;
  if (request.mode === 'navigate') {
    // Only the desk works without a connection; every other page is the browser's own affair.
    if (/^\/desk(?:\/|$)/u.test(url.pathname)) event.respondWith(page(request));
  } else if (/-[A-Z0-9]{8}\.\w+$/u.test(url.pathname)) event.respondWith(hashedFile(request));
  else if (
    /^\/(?:verovio\/|flac\/|(?:flac-worker|take-worklet)\.js$|mark\.svg$|desk\.webmanifest$)/u.test(
      url.pathname,
    )
  )
    event.respondWith(plainFile(request));
});

async function page(request) {
  try {
    const answer = await fetch(request);
    if (answer.ok) return answer;
  } catch {
    // Without a connection the page that was kept is shown.
  }
  return (await caches.match('/index.html')) ?? Response.error();
}

/** A file whose name changes with its content is never old. */
async function hashedFile(request) {
  return (await caches.match(request)) ?? fetched(request);
}

/** A file that keeps its name is asked for while there is a connection. */
async function plainFile(request) {
  try {
    return await fetched(request);
  } catch {
    return (await caches.match(request)) ?? Response.error();
  }
}

async function fetched(request) {
  const answer = await fetch(request);
  if (answer.ok) {
    const cache = await caches.open(CACHE);
    await cache.put(request, answer.clone());
  }
  return answer;
}
