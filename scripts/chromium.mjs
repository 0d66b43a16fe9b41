import { existsSync } from 'node:fs';

/** Debian's Chromium, for what scripts look at; undefined where there is none. */
export const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) =>
  existsSync(path),
);
