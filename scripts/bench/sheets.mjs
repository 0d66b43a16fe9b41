import { readFileSync } from 'node:fs';
import { readSheet } from '../../core/dist/sheet/index.js';
import { line, median, ms, ratio, times } from './timing.mjs';

/** A sheet of so many lines, made of the demo's over and over. */
function longSheet(lineCount) {
  const files = ['archipelago-winds', 'northwater', 'skerry', 'saint-oriel', 'archipelago-percussion'];
  const lines = files.flatMap((file) =>
    readFileSync(new URL(`../../demo/sheets/${file}.txt`, import.meta.url), 'utf8')
      .replace(/\{\+\d+(?::uk)?\}/gu, 'January 16, 2027')
      .replaceAll('{year}', '2027')
      .replaceAll('{season}', '2026-27')
      .split('\n'),
  );
  return Array.from({ length: lineCount }, (_, n) => lines[n % lines.length]).join('\n');
}

/** Reading published sheets: a 300-line one, and one sixteen times as long. */
export async function benchSheets() {
  const small = longSheet(300);
  const large = longSheet(4800);
  const read300 = median(await times(20, () => readSheet(small)));
  const read4800 = median(await times(4, () => readSheet(large)));
  line('Reading a sheet of 300 lines', ms(read300), 'promise: under 50 ms');
  line('  4,800 lines against 300', ratio(read4800 / read300), `${ms(read4800)}; 16× is linear`);
}
