import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { digestScore, readScore, type ScoreDigest } from './index.js';
import { bytesOf, head, measure, metronome, note, solo } from './testing/music-xml.js';
import { referenceEngine } from './testing/verovio.js';

function digestOf(bytes: Uint8Array): ScoreDigest {
  const read = readScore(bytes);
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return digestScore(read.value);
}

const fileOf = (name: string): Uint8Array => readFileSync(new URL(`../../testdata/${name}`, import.meta.url));

// Files in the dialect of a notation program's export, composed for the project; what they hold is known by construction.
describe('composed exports', () => {
  it('lantern-walk: clarinet in B♭, 16 measures of 4/4 at 108, with rehearsal marks A and B', () => {
    const digest = digestOf(fileOf('lantern-walk.musicxml'));
    expect([digest.title, digest.instrument, digest.partId]).toEqual([
      'Lantern Walk',
      'Clarinet in B♭',
      'P1',
    ]);
    expect(digest.transpose).toEqual({ diatonic: -1, chromatic: -2, octaveChange: 0 });
    expect(digest.measures.map(({ number }) => number)).toEqual(
      Array.from({ length: 16 }, (_, n) => String(n + 1)),
    );
    expect(
      new Set(digest.measures.map(({ time, quarters, quarterBpm }) => `${time} ${quarters} ${quarterBpm}`)),
    ).toEqual(new Set(['4/4 4 108']));
    expect(
      digest.measures.filter(({ rehearsal }) => rehearsal !== null).map(({ rehearsal }) => rehearsal),
    ).toEqual(['A', 'B']);
    expect(digest.seconds.straight).toBeCloseTo((64 * 60) / 108, 9);
    expect([digest.notes.written[0], digest.notes.sounding[0]]).toEqual(['D5', 'C5']);
    expect(digest.warnings).toEqual([]);
  });

  it('lantern-walk reads the same packed', () => {
    expect(digestOf(fileOf('lantern-walk.mxl'))).toEqual(digestOf(fileOf('lantern-walk.musicxml')));
  });

  it('ebb-and-return: 6/8 with a pickup of an eighth; measures 1–4, then 1–3 and 5', () => {
    const digest = digestOf(fileOf('ebb-and-return.musicxml'));
    expect([
      digest.measures[0]?.implicit,
      digest.measures[0]?.quarters,
      digest.measures[1]?.quarterBpm,
    ]).toEqual([true, 0.5, 99]);
    const played = digest.order.map((index) => digest.measures[index]?.number);
    expect(played.slice(0, 9)).toEqual(['0', '1', '2', '3', '4', '1', '2', '3', '5']);
  });

  it('are as long as Verovio 6.3 plays them, straight and with repeats', async () => {
    const play = await referenceEngine();
    for (const name of ['lantern-walk', 'ebb-and-return']) {
      const bytes = fileOf(`${name}.musicxml`);
      const { seconds } = digestOf(bytes);
      for (const repeats of [false, true]) {
        const endMs = play(new TextDecoder().decode(bytes), repeats).at(-1)?.tstamp ?? 0;
        // The timemap rounds to whole milliseconds.
        expect(Math.abs(endMs - ((repeats ? seconds.unrolled : seconds.straight) ?? 0) * 1000))
          .withContext(name)
          .toBeLessThanOrEqual(1);
      }
    }
  });
});

describe('any piece', () => {
  /** Measures of random rhythms in random divisions: every length is a fraction of the meter that adds up. */
  const piece = fc.array(
    fc.record({
      divisions: fc.integer({ min: 1, max: 30 }),
      parts: fc.array(fc.integer({ min: 1, max: 12 }), { minLength: 1, maxLength: 9 }),
      bpm: fc.integer({ min: 30, max: 240 }),
    }),
    { minLength: 1, maxLength: 12 },
  );

  it('lasts as long as its notes, whatever divisions they are written in', () => {
    const addsUp = fc.property(piece, (measures) => {
      const text = measures.map(({ divisions, parts, bpm }, n) =>
        measure(
          String(n + 1),
          head(divisions) +
            metronome('quarter', String(bpm)) +
            parts.map((length) => note('C4', length)).join(''),
        ),
      );
      const digest = digestOf(bytesOf(solo(text.join(''))));
      const seconds = measures.reduce(
        (sum, { divisions, parts, bpm }) =>
          sum + (parts.reduce((all, length) => all + length, 0) / divisions) * (60 / bpm),
        0,
      );
      return (
        digest.measures.length === measures.length &&
        Math.abs((digest.seconds.straight ?? -1) - seconds) < 1e-9 * Math.max(1, seconds) * 100
      );
    });
    expect(() => fc.assert(addsUp, { numRuns: 150 })).not.toThrow();
  });

  it('keeps its digest through JSON, as it is stored and sent', () => {
    const digest = digestOf(fileOf('ebb-and-return.musicxml'));
    expect(JSON.parse(JSON.stringify(digest))).toEqual(digest as never);
  });
});
