import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { meterFrom, quarters, toNumber, type Meter } from '../music/index.js';
import { digestScore, readScore, type Score } from '../score/index.js';
import { lineOfFields, readToldLine, toldFields, writeToldLine } from './told-line.js';
import { toldOfScore } from './told-of-score.js';
import { scoreOfTold } from './told-score.js';
import type { ToldMusic, ToldValue } from './told.js';

function music(line: string): ToldMusic {
  const { music: read, issues } = readToldLine(line);
  if (!read) throw new Error(issues.map(({ message }) => message).join(' '));
  expect(issues).toEqual([]);
  return read;
}

describe('a told line', () => {
  // The example of the design, read as a person reads it.
  it('gives measures, meters, pickup, letters, a repeat with its endings, and the tempo', () => {
    const told = music('1–16 4/4; 17–32 6/8; pickup 1/4; A9 B17 C25; |: 1–8 :| 1. 7 2. 8; ♩=116');
    expect([told.first, told.last]).toEqual([1, 32]);
    expect(told.meters.map(({ from, meter }) => [from, meter.groups[0], meter.beatType])).toEqual([
      [1, 4, 4],
      [17, 6, 8],
    ]);
    expect(told.pickup && toNumber(told.pickup)).toBe(1);
    expect(told.letters).toEqual([
      { name: 'A', at: 9 },
      { name: 'B', at: 17 },
      { name: 'C', at: 25 },
    ]);
    const { measures, order, seconds } = digestScore(scoreOfTold(told));
    // The pickup, 1 to 7, back to 1 to 6, and on from 8: the first ending is left out the second time.
    expect(order.slice(0, 16).map((index) => measures[index]?.number)).toEqual(
      [...'01234567', ...'123456', ...'89'].map(String),
    );
    expect(measures[0]).toEqual(jasmine.objectContaining({ number: '0', implicit: true, quarters: 1 }));
    expect(measures.find(({ rehearsal }) => rehearsal === 'B')?.number).toBe('17');
    // (1 + 16 × 4 + 16 × 3) quarters at 116.
    expect(seconds.straight).toBeCloseTo((113 * 60) / 116, 9);
    expect(seconds.unrolled).toBeCloseTo(((113 + 24) * 60) / 116, 9);
  });

  it('may be as short as what is known, and in the words of people', () => {
    expect(music('32 measures of 4/4').last).toBe(32);
    expect(music('mm. 9-24 in 3/4').first).toBe(9);
    expect(music('16 x 4/4; 16 x 6/8').meters.map(({ from }) => from)).toEqual([1, 17]);
    expect(music('1-32 4/4; 6/8 from 17').meters.map(({ from }) => from)).toEqual([1, 17]);
    const upbeat = music('1-8 6/8; pickup of one').pickup;
    expect(upbeat && toNumber(upbeat)).toBe(1.5);
    expect(music('1-8 4/4; 3 flats; 5 2 sharps').keys).toEqual([
      { at: 1, fifths: -3 },
      { at: 5, fifths: 2 },
    ]);
    expect(music('1-24 4/4; densest in 18: sixteenths').dense).toEqual([
      { from: 18, to: 18, value: 'sixteenth' },
    ]);
  });

  it('says what of it is not understood, where it stands, and reads the rest', () => {
    const line = '1–16 4/4; some jolly bars; A40; ♩=116';
    const { music: read, issues } = readToldLine(line);
    expect(read?.last).toBe(16);
    expect(read?.tempos.length).toBe(1);
    expect(issues.map(({ message }) => message)).toEqual([
      jasmine.stringMatching(/^"some jolly bars" is not understood\./u),
      'Letter A stands at 40, outside of the measures 1–16.',
    ]);
    expect(line.slice(issues[0]?.start, issues[0]?.end)).toBe('some jolly bars');
    for (const wrong of [
      '16–1 4/4',
      '1-8 4/5',
      '1-9999 4/4',
      '',
      '1-8 4/4; |: 1-8 :| 1. 12',
      '1-8 4/4; pickup 1/3',
    ])
      expect(readToldLine(wrong).issues.length).withContext(wrong).toBeGreaterThan(0);
  });

  it('is written so that it reads back to the same', () => {
    const meters = ['4/4', '3/4', '6/8', '2/2', '3+2/8', '12/8'].map((text) => meterFrom(text) as Meter);
    const values: ToldValue[] = ['quarter', 'eighth', 'triplet', 'sixteenth', 'thirty-second'];
    const units = ['quarter', 'dotted-quarter', 'half', 'eighth'] as const;
    const made = fc
      .record({
        first: fc.integer({ min: 1, max: 30 }),
        runs: fc.array(fc.tuple(fc.constantFrom(...meters), fc.integer({ min: 1, max: 40 })), {
          minLength: 1,
          maxLength: 5,
        }),
        pickup: fc.option(fc.constantFrom(quarters(1, 2), quarters(1), quarters(3, 2), quarters(2))),
        places: fc.array(fc.nat({ max: 300 }), { minLength: 8, maxLength: 8 }),
        fifths: fc.integer({ min: -7, max: 7 }),
        bpm: fc.integer({ min: 30, max: 200 }),
        unit: fc.constantFrom(...units),
        value: fc.constantFrom(...values),
        times: fc.integer({ min: 2, max: 4 }),
      })
      .map(({ first, runs, pickup, places, fifths, bpm, unit, value, times }): ToldMusic => {
        const told: { from: number; meter: Meter }[] = [];
        let next = first;
        for (const [meter, count] of runs) {
          if (told.at(-1)?.meter !== meter) told.push({ from: next, meter });
          next += count;
        }
        const last = next - 1;
        const at = (n: number): number => first + ((places[n] ?? 0) % (last - first + 1));
        const [from, to] = [Math.min(at(0), at(1)), Math.max(at(0), at(1))];
        const letters = [...new Set([at(2), at(3)])].sort((a, b) => a - b);
        const mark = { beatUnit: unit, bpmMin: bpm, bpmMax: bpm, bound: 'exact' as const, words: null };
        return {
          ...{ first, last, meters: told, pickup },
          letters: letters.map((place, n) => ({ name: 'AB'.charAt(n), at: place })),
          repeats: to > from + 1 ? [{ from, to, times, endings: [] }] : [],
          tempos: [{ at: at(4), mark }],
          keys: [{ at: at(5), fifths }],
          dense: [{ from: Math.min(at(6), at(7)), to: Math.max(at(6), at(7)), value }],
        };
      });
    fc.assert(
      fc.property(made, (told) => {
        const line = writeToldLine(told);
        expect(readToldLine(line)).withContext(line).toEqual({ music: told, issues: [] });
        expect(writeToldLine(music(line))).toBe(line);
        expect(readToldLine(lineOfFields(toldFields(told)))).toEqual({ music: told, issues: [] });
      }),
      { numRuns: 300 },
    );
  });
});

describe('music told and digital', () => {
  const folder = new URL('../../../demo/studies/', import.meta.url);
  const files = readdirSync(folder).filter((name) => name.endsWith('.musicxml'));
  const digital = (name: string): Score => {
    const read = readScore(readFileSync(new URL(name, folder)));
    if (!read.ok) throw new Error(read.issues[0]?.message);
    return read.value;
  };

  it('have one map: the same measures, the same order of playing, the same seconds', () => {
    const told = files.flatMap((name) => {
      const score = digital(name);
      const own = toldOfScore(score);
      return own ? [{ name, score, own }] : [];
    });
    expect(told.length).toBeGreaterThan(3);
    for (const { name, score, own } of told) {
      const line = writeToldLine(own);
      const [a, b] = [digestScore(score), digestScore(scoreOfTold(music(line)))];
      const map = ({ measures }: typeof a): unknown =>
        measures.map(({ number, implicit, time, quarters: length, fifths, rehearsal }) => [
          ...[number, implicit, time, length, fifths, rehearsal],
        ]);
      expect(map(b)).withContext(`${name}: ${line}`).toEqual(map(a));
      expect(b.order).withContext(name).toEqual(a.order);
      expect(b.seconds.straight)
        .withContext(name)
        .toBeCloseTo(a.seconds.straight ?? -1, 6);
      expect(b.seconds.unrolled)
        .withContext(name)
        .toBeCloseTo(a.seconds.unrolled ?? -1, 6);
    }
  });
});
