import { existsSync } from 'node:fs';

const executablePath = [
  '/usr/bin/chromium-headless-shell',
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
].find((path) => existsSync(path));

/**
 * How Debian's Chromium is started: without a window of its own. Every test opens the pages anew, so that machine code
 * made in the background for the engraving engine would come too late to be of use.
 */
export const CHROMIUM = {
  ...(executablePath === undefined ? {} : { executablePath }),
  args: [
    '--no-sandbox',
    '--headless',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--js-flags=--liftoff-only',
  ],
};
