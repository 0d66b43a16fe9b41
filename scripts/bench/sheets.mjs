import { readSheet } from '../../core/dist/sheet/index.js';
import { line, median, ms, ratio, times } from './timing.mjs';

const INSTRUMENTS = [
  ...['FLUTE', 'OBOE', 'CLARINET', 'BASSOON', 'ALTO SAXOPHONE'],
  ...['HORN IN F', 'TRUMPET', 'TROMBONE', 'TUBA', 'PERCUSSION'],
];

/** A document for ten instruments, nine etudes each, so many times over; each `edition` has other numbers and names. */
export function longSheet(copies, edition = 0) {
  const etude = (_, n) => [
    `${n + 1}. ETUDE ${n + 1} [20 points]`,
    `   Study No. ${n + 4 + edition}, “Evening over the Weir ${n} ${edition}”, p. ${n + 22 + edition}`,
    `   ♩ = ${60 + n * 4}–${64 + n * 4 + (edition % 40)}, mm. ${n + 1}–${n + 40 + edition}, omit the repeats.`,
  ];
  const section = (name) => [name, ...Array.from({ length: 9 }, etude).flat(), ''];
  const head = ['HARBOR BAND ASSOCIATION', '2027 Audition Requirements', 'All scales from memory.', ''];
  return [...head, ...Array.from({ length: copies }, () => INSTRUMENTS.flatMap(section)).flat()].join('\n');
}

/** Reading published sheets: 300 lines with ten instruments, and eight times as many. */
export async function benchSheets() {
  const small = longSheet(1);
  const large = longSheet(8);
  const lines = (text) => text.split('\n').length;
  // What was read before is remembered, so every reading is of a text of its own.
  let edition = 0;
  const fresh = (copies) => longSheet(copies, (edition += 1));
  const readSmall = median(await times(20, () => readSheet(fresh(1))));
  const readLarge = median(await times(4, () => readSheet(fresh(8))));
  line(
    `Reading a sheet of ${lines(small)} lines, ten instruments`,
    ms(readSmall),
    'promise: under 60 ms, warm',
  );
  const at = { line: 'HARBOR BAND ASSOCIATION', nth: 0 };
  const told = [{ kind: 'line', at, role: 'nothing' }];
  const readTold = median(await times(20, () => readSheet(small, undefined, told)));
  line('  read again with one line told what it is', ms(readTold), 'promise: shown within 100 ms');
  const longer = ratio(lines(large) / lines(small));
  line(
    `  ${lines(large)} lines against ${lines(small)}`,
    ratio(readLarge / readSmall),
    `${ms(readLarge)}; ${longer} is linear`,
  );
}
