/** Once everything of a desk was loaded, so long after. Units: milliseconds */
const SETTLED_MS = 3000;
/** Nobody waits longer for what only a later visit needs. Units: milliseconds */
const LONGEST_WAIT_MS = 2500;

let kept: Promise<void> | null = null;

/**
 * Lets the desk open without a connection: a service worker keeps the page and the files that this visit uses.
 * Shape:  done when it keeps what is fetched from here on, or after a short while; browsers without service workers go on
 *         as they are
 */
export function keepDeskOffline(): Promise<void> {
  kept ??= keep();
  return kept;
}

async function keep(): Promise<void> {
  if (!('serviceWorker' in navigator) || !isSecureContext) return;
  const { serviceWorker } = navigator;
  const isKeeping = new Promise<void>((done) => {
    if (serviceWorker.controller) done();
    else serviceWorker.addEventListener('controllerchange', () => done(), { once: true });
  });
  void serviceWorker
    // Workers of the page lie outside of its folder; the whole address is kept, but only the desk opens from it.
    .register('/desk-worker.js', { scope: '/' })
    .then(() => serviceWorker.ready)
    .then(({ active }) => {
      setTimeout(() => active?.postMessage({ keep: usedFiles() }), SETTLED_MS);
    })
    .catch(() => undefined);
  await Promise.race([isKeeping, new Promise((done) => setTimeout(done, LONGEST_WAIT_MS))]);
}

/** What a take is recorded and packed with: fetched when it is first recorded, which may be without a connection. */
const RECORDING = [
  '/take-worklet.js',
  '/flac-worker.js',
  '/flac/libflac.min.wasm.js',
  '/flac/libflac.min.wasm.wasm',
];

/** The files of this page that it has loaded, the page itself and what installs it. */
function usedFiles(): string[] {
  const loaded = performance
    .getEntriesByType('resource')
    .map(({ name }) => new URL(name))
    .filter(({ origin, pathname }) => origin === location.origin && !pathname.startsWith('/api/'))
    .map(({ pathname }) => pathname);
  return [...new Set(['/index.html', '/desk.webmanifest', '/mark.svg', ...RECORDING, ...loaded])];
}
