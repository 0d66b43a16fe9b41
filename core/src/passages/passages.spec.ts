import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { seededRandom } from '../base/index.js';
import { readMusic, soloLine } from '../reading/index.js';
import { copyOf, plainStudy, scoreOf } from '../reading/testing/planted-studies.js';
import { scoreOfStudy } from '../reading/testing/coach.js';
import { readScore, type Score, type Span } from '../score/index.js';
import { bytesOf, head, measure, note, solo } from '../score/testing/music-xml.js';
import {
  fitAround,
  mergeNext,
  moveEnd,
  seamsOf,
  splitAt,
  startAnywhere,
  suggestPassages,
  type NamedSpan,
} from '../passages/index.js';

function suggested(score: Score, range: Span = { fromIndex: 0, endIndex: score.measures.length }) {
  const reading = readMusic(score, { instrument: 'flute', bpm: 96 });
  return suggestPassages(score, soloLine(score), { reading, range });
}

function scoreOfXml(xml: string): Score {
  const read = readScore(bytesOf(xml), { partId: null });
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}

const isPartition = (spans: readonly Span[], { fromIndex, endIndex }: Span): boolean =>
  spans[0]?.fromIndex === fromIndex &&
  spans.at(-1)?.endIndex === endIndex &&
  spans.every((span, n) => n === 0 || spans[n - 1]?.endIndex === span.fromIndex);

describe('Suggested passages', () => {
  it('cover any range without gap or overlap, 2 to 8 measures each', () => {
    const covers = fc.property(
      fc.integer({ min: 1, max: 400 }),
      fc.integer({ min: 0, max: 20 }),
      fc.integer({ min: 2, max: 40 }),
      (seed, from, length) => {
        const score = scoreOf(plainStudy(seed, { measures: from + length }));
        const range = { fromIndex: from, endIndex: from + length };
        const spans = suggested(score, range);
        return (
          isPartition(spans, range) &&
          spans.every(({ fromIndex, endIndex }) => endIndex - fromIndex >= 2 && endIndex - fromIndex <= 8) &&
          new Set(spans.map(({ name }) => name).filter((name) => name !== '')).size ===
            spans.filter(({ name }) => name !== '').length
        );
      },
    );
    expect(() => fc.assert(covers, { numRuns: 60 })).not.toThrow();
  });

  it('never go through a tie or a slur', () => {
    const crossing = fc.property(
      fc.uniqueArray(fc.integer({ min: 1, max: 15 }), { maxLength: 9 }),
      (crossed) => {
        const slur = (type: string): string => `<notations><slur type="${type}" number="1"/></notations>`;
        const body = Array.from({ length: 16 }, (_, n) => {
          const starts = crossed.includes(n + 1);
          const stops = crossed.includes(n);
          const notes =
            note('C5', 4, stops ? slur('stop') : '') +
            note('D5', 8) +
            note('E5', 4, starts ? slur('start') : '');
          return measure(String(n + 1), (n === 0 ? head() : '') + notes);
        });
        return suggested(scoreOfXml(solo(body.join('')))).every(
          ({ fromIndex }) => !crossed.includes(fromIndex),
        );
      },
    );
    expect(() => fc.assert(crossing, { numRuns: 60 })).not.toThrow();
    const tied = (type: string): string => `<tie type="${type}"/>`;
    const long = Array.from({ length: 10 }, (_, n) =>
      measure(
        String(n + 1),
        (n === 0 ? head() : '') + note('C5', 16, (n > 0 ? tied('stop') : '') + (n < 9 ? tied('start') : '')),
      ),
    );
    // Nothing else is left: one note over ten measures stays whole.
    expect(suggested(scoreOfXml(solo(long.join(''))))).toHaveSize(1);
  });

  it('cut where a planted tune comes back and name its return', () => {
    for (let seed = 1; seed <= 20; seed += 1) {
      const study = plainStudy(seed, { measures: 16 });
      for (let n = 0; n < 4; n += 1) {
        const own = study.measures[n];
        if (own) study.measures[12 + n] = copyOf(own);
      }
      const back = suggested(scoreOf(study)).find(({ fromIndex }) => fromIndex === 12);
      expect(back?.name).withContext(`seed ${seed}`).toBe('return of the opening');
    }
  });

  it('call the sixteenths of lantern-walk by their name, from rehearsal mark B on', () => {
    const bytes = readFileSync(new URL('../../testdata/lantern-walk.musicxml', import.meta.url));
    const sixteenths = suggested(scoreOfXml(new TextDecoder().decode(bytes))).find(
      ({ name }) => name === 'the sixteenths',
    );
    expect(sixteenths).toEqual(
      jasmine.objectContaining({ fromIndex: 8, endIndex: 12, why: 'a rehearsal mark' }),
    );
  });
});

describe('Suggested passages of music by hand (common practice, no source)', () => {
  const of = (head: string, music: string): Score =>
    scoreOfStudy({ name: 'Case', instrument: 'Flute', head, music });
  const named = (score: Score): string[] =>
    suggested(score).map(({ fromIndex, endIndex, name }) => `${fromIndex + 1}–${endIndex} ${name}`);

  it('keep a crescendo with its arrival', () => {
    const score = of(
      'M:4/4\nL:1/8\nQ:1/4=96\nK:G',
      'G2B2d2g2|f2e2d2c2|B2d2c2A2|G2A2B2c2|!<(!(d2e2f2g2)!<)!|!f!b2a2g2f2|e2d2c2A2|G8|]',
    );
    expect(suggested(score).map(({ fromIndex, endIndex }) => [fromIndex + 1, endIndex])).toEqual([
      [1, 4],
      [5, 8],
    ]);
  });

  it('leave long rests out, put an upbeat before what it leads to, and never repeat or number a name', () => {
    const score = of(
      'M:4/4\nL:1/8\nQ:1/4=96\nK:C',
      'c2e2g2e2|f2d2B2G2|A2c2B2d2|c8|z8|z8|z8|z6 GA|B2d2g2d2|e2c2A2F2|G2B2d2f2|e8|' +
        "c2e2g2e2|f2d2B2G2|A2c2e2g2|c'8|e2c2A2E2|D2F2A2d2|c2B2A2G2|c8|]",
    );
    const all = suggested(score);
    expect(all.some(({ fromIndex, endIndex }) => fromIndex < 7 && endIndex > 4)).toBeFalse();
    expect(all.map(({ fromIndex }) => fromIndex)).toContain(7);
    expect(all.map(({ fromIndex }) => fromIndex)).toContain(12);
    const names = all.map(({ name }) => name);
    expect(new Set(names).size).withContext(named(score).join(', ')).toBe(names.length);
    expect(names.every((name) => name !== '' && !/, \d/u.test(name)))
      .withContext(names.join(', '))
      .toBeTrue();
    expect(
      names.some((name) => /^(?:return of the opening|like 1–\d|the climb to C)/u.test(name)),
    ).toBeTrue();
  });
});

describe('Seams', () => {
  it('join the last measure of a passage with the first of the next, where they meet', () => {
    const spans = [
      { fromIndex: 0, endIndex: 4 },
      { fromIndex: 4, endIndex: 8 },
      { fromIndex: 9, endIndex: 12 },
    ];
    expect(seamsOf(spans)).toEqual([{ fromIndex: 3, endIndex: 5 }]);
  });
});

describe('Cutting by hand', () => {
  const spans = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 8 }).map((lengths) => {
    let at = 0;
    return lengths.map((length, n): NamedSpan => ({
      name: `p${n}`,
      fromIndex: at,
      endIndex: (at += length),
    }));
  });

  it('split, merged and moved stretches still cover the same measures; a split merged again is as before', () => {
    const keeps = fc.property(spans, fc.nat(8), fc.integer({ min: -2, max: 80 }), (all, at, index) => {
      const range = { fromIndex: 0, endIndex: all.at(-1)?.endIndex ?? 0 };
      const split = splitAt(all, at, index);
      const moved = moveEnd(all, Math.min(at, all.length - 2), { index, limit: range.endIndex });
      return (
        isPartition(split, range) &&
        (split.length === all.length || JSON.stringify(mergeNext(split, at)) === JSON.stringify(all)) &&
        isPartition(mergeNext(all, at), range) &&
        isPartition(moved, range) &&
        moved.every(({ fromIndex, endIndex }) => endIndex > fromIndex)
      );
    });
    expect(() => fc.assert(keeps, { numRuns: 300 })).not.toThrow();
  });
});

describe('Stretches around what is taken', () => {
  it('hold every free measure once and none that is taken; a lone one joins its neighbour', () => {
    const lengths = fc.array(fc.integer({ min: 2, max: 8 }), { minLength: 1, maxLength: 8 });
    const places = fc.array(fc.tuple(fc.nat(60), fc.integer({ min: 1, max: 9 })), { maxLength: 4 });
    const fits = fc.property(lengths, places, (own, taken) => {
      let at = 0;
      const spans = own.map((length, n) => ({ name: `p${n}`, fromIndex: at, endIndex: (at += length) }));
      const busy = taken.map(([fromIndex, length]) => ({ fromIndex, endIndex: fromIndex + length }));
      const count = (all: readonly Span[], index: number): number =>
        all.filter(({ fromIndex, endIndex }) => fromIndex <= index && index < endIndex).length;
      const free = fitAround(spans, busy);
      return Array.from({ length: at }, (_, index) => index).every(
        (index) => count(free, index) === (count(busy, index) > 0 ? 0 : 1),
      );
    });
    expect(() => fc.assert(fits, { numRuns: 300 })).not.toThrow();
    const spans = [
      { name: 'a', fromIndex: 0, endIndex: 5 },
      { name: 'b', fromIndex: 5, endIndex: 9 },
    ];
    expect(fitAround(spans, [{ fromIndex: 0, endIndex: 4 }])).toEqual([
      { name: 'b', fromIndex: 4, endIndex: 9 },
    ]);
  });
});

describe('Start anywhere', () => {
  it('reaches every measure of every part, each as likely (Pearson 1900, chi-squared below its 0.1 % point)', () => {
    const parts = [
      { id: 'a', fromIndex: 4, endIndex: 12 },
      { id: 'empty', fromIndex: 3, endIndex: 3 },
      { id: 'b', fromIndex: 0, endIndex: 12 },
    ];
    const random = seededRandom(20);
    const draws = 20_000;
    const counts = new Map<string, number>();
    for (let n = 0; n < draws; n += 1) {
      const found = startAnywhere(parts, random);
      const key = `${found?.part.id ?? ''} ${found?.index ?? ''}`;
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    expect(counts.size).toBe(20);
    const expected = draws / 20;
    const chi = [...counts.values()].reduce((sum, count) => sum + (count - expected) ** 2 / expected, 0);
    // 19 degrees of freedom: 43.82 at 0.001, from any table of the distribution.
    expect(chi).toBeLessThan(43.82);
    expect(startAnywhere([], random)).toBeNull();
  });
});
