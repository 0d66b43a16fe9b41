import { existsSync } from 'node:fs';

const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => existsSync(path));

/** How Debian's Chromium is started. */
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
  ],
};
