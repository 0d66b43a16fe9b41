// Presses the built web application, so that the server hands out small files and presses none of them again and again:
// the engraving engine alone has seven megabytes.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';

const press = promisify(brotliCompress);
const folder = fileURLToPath(new URL('../web/dist/browser', import.meta.url));
/** Smaller ones do not get through sooner. Units: bytes */
const LEAST = 1024;
/** Nearly as small as the best, in a twentieth of its time. */
const QUALITY = 9;

for (const name of readdirSync(folder, { recursive: true })) {
  if (!/\.(?:m?js|css|svg|json|webmanifest)$/u.test(name)) continue;
  const bytes = readFileSync(join(folder, name));
  if (bytes.length < LEAST) continue;
  const params = {
    [constants.BROTLI_PARAM_QUALITY]: QUALITY,
    [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length,
  };
  writeFileSync(join(folder, `${name}.br`), await press(bytes, { params }));
}
