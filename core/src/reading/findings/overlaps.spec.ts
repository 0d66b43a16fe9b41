import { readMusic, soloLine } from '../index.js';
import { scoreOfStudy } from '../testing/coach.js';
import type { RawFinding } from './finding.js';
import { allFindings } from './findings.js';
import { OVERLAPS, withoutOverlaps } from './overlaps.js';

/** Music by hand in which one finding says another, pair by pair, as "dropped by saying". What is the same fact is common practice, no source. */
const MUSIC: Readonly<Record<string, readonly [instrument: string, head: string, music: string]>> = {
  'surprise by off-key': [
    'Flute',
    'M:4/4\nL:1/4\nQ:1/4=96\nK:C',
    'c e g e|f d B G|E ^F ^G A|B ^c ^d e|c e g e|c4|]',
  ],
  'rare-note by off-key': [
    'Flute',
    'M:4/4\nL:1/4\nQ:1/4=96\nK:C',
    'c e g e|f d B G|E ^F ^G A|B ^c ^d e|c e g e|c4|]',
  ],
  'surprise by rare-note': [
    'Flute',
    'M:4/4\nL:1/4\nQ:1/4=96\nK:C',
    'c e g e|f d B G|E ^G A B|G A c d|e c e g|f d B G|c4|]',
  ],
  'odd-one-out by return': [
    'Trumpet',
    'M:4/4\nL:1/16\nQ:1/4=120\nK:Bb',
    '!accent!B4 .F2.F2 !accent!B4 .d2.d2|!accent!f4 .d2.d2 B8|!accent!e4 .c2.c2 !accent!e4 .g2.g2|!accent!g4 .e2.e2 c8|!accent!B4 .F2.F2 !accent!B4 .d2.d2|f4 .d2.d2 B8|!accent!F4 .F2.F2 F8|]',
  ],
  'tie by meter': ['Marimba', 'M:3/4\nL:1/8\nQ:1/4=96\nK:C', 'c2e2g2|e4d2-|d2c4|G6|]'],
  'meter by fast-run': ['Marimba', 'M:4/4\nL:1/16\nQ:1/4=96\nK:C', 'c4e4g4e4|cdef (5:4:5gfedc c8|c16|]'],
  'feel by change': [
    'Flute',
    'M:4/4\nL:1/4\nQ:1/4=96\nK:C',
    'c e g e|f d B G|[M:3/2][Q:1/2=36]c2 e2 g2|c6|]',
  ],
  'held by tempo': ['Flute', 'M:4/4\nL:1/4\nQ:1/4=40\nK:C', 'c e g e|!fermata!f4|f d B G|c2 e2|d2 c2|]'],
  'run by off-key': [
    'Violin',
    'M:4/4\nL:1/16\nQ:1/4=100\nK:C',
    'c4e4g4e4|E^F^GAB^c^de e^d^cBA^G^FE|c4e4g4e4|c16|]',
  ],
};

function found(pair: string): RawFinding[] {
  const [instrument = '', head = '', music = ''] = MUSIC[pair] ?? [];
  const score = scoreOfStudy({ name: pair, instrument, head, music });
  const reading = readMusic(score, { instrument, bpm: null });
  return allFindings(score, soloLine(score), { reading });
}

describe('A finding that another one says', () => {
  for (const { drops, by, is, why } of OVERLAPS)
    it(`is told once: ${drops} gives way to ${by}, for ${why}`, () => {
      const all = found(`${drops} by ${by}`);
      const twice = all.filter(
        (one) => one.kind === drops && all.some((other) => other.kind === by && is(one, other)),
      );
      expect(twice.length)
        .withContext(all.map(({ kind, title }) => `${kind} ${title}`).join('\n'))
        .toBeGreaterThan(0);
      const told = withoutOverlaps(all);
      expect(told.some((one) => twice.includes(one))).toBeFalse();
      expect(told.some(({ kind }) => kind === by)).toBeTrue();
    });

  it('is no other one that only stands beside it', () => {
    const all = found('odd-one-out by return');
    const kept = withoutOverlaps(all);
    const others = all.filter(({ kind }) => !OVERLAPS.some(({ drops }) => drops === kind));
    expect(kept).toEqual(jasmine.arrayContaining(others));
  });
});
