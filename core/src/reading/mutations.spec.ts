import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { readScore } from '../score/index.js';
import { bytesOf } from '../score/testing/music-xml.js';
import { engravedNotes, findingsOf, measureFacts, readMusic, soloLine } from './index.js';

const SOURCES = ['lantern-walk.musicxml', 'ebb-and-return.musicxml', 'lantern-walk.mxl'].map((name) =>
  Uint8Array.from(readFileSync(new URL(`../../testdata/${name}`, import.meta.url))),
);
const MOST_BYTES = 300e6;

/** Reads a file to the end of its findings; what came, and a fault of ours if it is one. */
function fault(bytes: Uint8Array): string | null {
  const heapBefore = process.memoryUsage().heapUsed;
  const read = readScore(bytes);
  if (read.ok) {
    const line = soloLine(read.value);
    const found = readMusic(read.value, { instrument: null, bpm: null });
    const findings = findingsOf(read.value, line, { reading: found });
    const facts = measureFacts(read.value, line, { reading: found, bpm: null });
    const paper = engravedNotes(read.value, line);
    if (facts.length !== paper.length) return 'facts and notes of other measures';
    if (findings.some(({ places }) => places.some((index) => !facts[index])))
      return 'a finding outside the piece';
    // What is not finite would leave the text as null.
    if (found.demands.some(({ score }) => !(score >= 0 && score <= 1))) return 'a demand outside 0 to 1';
  } else if (read.issues.some(({ message }) => !/^[^\n]{20,400}[.?!]$/u.test(message)))
    return `no sentence: ${read.issues.map(({ message }) => message).join(' ')}`;
  // What other specs left on the heap is none of this file's doing.
  return process.memoryUsage().heapUsed - heapBefore > MOST_BYTES ? 'it took too much memory' : null;
}

const source = fc.nat(SOURCES.length - 1);
const bytesDamaged = fc
  .tuple(source, fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 12 }), fc.nat(20))
  .map(([which, changes, cut]) => {
    const whole = SOURCES[which] ?? new Uint8Array();
    const bytes = Uint8Array.from(cut === 0 ? whole.subarray(0, whole.length / 2) : whole);
    for (const [at, value] of changes) bytes[at % bytes.length] = value;
    return bytes;
  });

/** One change of structure: an element dropped, doubled, swapped with another, renamed, or with another number in it. */
const change = fc.record({
  kind: fc.constantFrom('drop', 'double', 'swap', 'rename', 'number'),
  at: fc.nat(),
  other: fc.nat(),
  number: fc.oneof(
    fc.integer({ min: -5, max: 400 }).map(String),
    fc.constantFrom('1e308', 'NaN', '', '0.0001', '٣', '99999999999999999999'),
  ),
});
const structureDamaged = fc
  .tuple(fc.nat(1), fc.array(change, { minLength: 1, maxLength: 6 }))
  .map(([which, changes]) => {
    let text = new TextDecoder().decode(SOURCES[which]);
    for (const { kind, at, other, number } of changes) text = changed(text, { kind, at, other, number });
    return bytesOf(text);
  });

function changed(
  text: string,
  { kind, at, other, number }: { kind: string; at: number; other: number; number: string },
): string {
  const names = [
    'note',
    'measure',
    'duration',
    'pitch',
    'attributes',
    'backup',
    'direction',
    'beam',
    'barline',
    'time',
  ];
  const name = names[other % names.length] ?? 'note';
  const found = [...text.matchAll(new RegExp(`<${name}[ >][\\s\\S]*?</${name}>`, 'gu'))];
  const [one, two] = [found[at % Math.max(1, found.length)], found[other % Math.max(1, found.length)]];
  if (!one || !two) return text;
  const around = (middle: string): string =>
    text.slice(0, one.index) + middle + text.slice(one.index + one[0].length);
  if (kind === 'drop') return around('');
  if (kind === 'double') return around(one[0] + one[0]);
  if (kind === 'swap') return around(two[0]);
  if (kind === 'rename') return around(one[0].replaceAll(name, names[at % names.length] ?? 'x'));
  return around(one[0].replace(/>-?\d+(?:\.\d+)?</u, `>${number}<`));
}

describe('Reading damaged files', () => {
  for (const [what, files, numRuns] of [
    ['250 files with damaged bytes', bytesDamaged, 250],
    ['250 files with damaged structure', structureDamaged, 250],
  ] as const)
    it(`gives findings or one sentence for ${what}, each within 300 MB`, () => {
      const calm = fc.property(files, (bytes) => {
        const found = fault(bytes);
        if (found !== null) throw new Error(found);
      });
      expect(() => fc.assert(calm, { numRuns })).not.toThrow();
    });
});
