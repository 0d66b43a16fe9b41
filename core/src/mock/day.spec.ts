import { readScore } from '../score/index.js';
import { bytesOf } from '../score/testing/music-xml.js';
import { framePitch } from '../takes/index.js';
import {
  auralQuestions,
  accompaniment,
  dayResults,
  drawnFor,
  EAR_KINDS,
  earTest,
  mockItems,
  panelSlips,
  shuffled,
  splitPoints,
  sungResult,
  tapResult,
  USUAL_CRITERIA,
  type GivenScore,
  type PartForMock,
} from './index.js';

let made = 0;
const newId = (): string => `item-${(made += 1)}`;

describe('a mock day', () => {
  const part = (kind: PartForMock['kind'], title: string, points: number | null): PartForMock => ({
    ...{ id: title, kind, title, points },
  });

  it('keeps the order and the points of the sheet, draws one of several scales, and times what is read at sight', () => {
    const items = mockItems(
      [
        part('scale', 'D major', 10),
        part('etude', 'Etude 1', 60),
        part('scale', 'B minor', 10),
        part('chromatic', 'Chromatic', 10),
        part('sight-reading', 'Sight-reading', 20),
      ],
      { criteria: USUAL_CRITERIA, newId },
    );
    expect(items.map(({ title, call }) => [title, call])).toEqual([
      ['A scale, drawn', 'drawn'],
      ['Etude 1', 'as-asked'],
      ['Sight-reading', 'sight'],
    ]);
    expect(items[0]?.partIds).toEqual(['D major', 'B minor', 'Chromatic']);
    expect(items.map(({ studySeconds }) => studySeconds > 0)).toEqual([false, false, true]);
    for (const [n, points] of [10, 60, 20].entries())
      expect(items[n]?.criteria.reduce((sum, one) => sum + one.points, 0)).toBe(points);
  });

  it('splits points so that none is lost', () => {
    const shares = [1, 1, 1].map((share, n) => ({ name: String(n), share }));
    for (const points of [1, 7, 10, 20, 33.5]) {
      const split = splitPoints(points, shares);
      expect(split.reduce((sum, one) => sum + one.points, 0)).toBeCloseTo(points, 9);
      for (const one of split) expect(Math.abs(one.points - points / 3)).toBeLessThan(1);
    }
  });

  it('draws the same by the same seed, everything sooner or later, and shuffles without losing anybody', () => {
    const item = { call: 'drawn', partIds: ['a', 'b', 'c'] } as const;
    const drawn = Array.from({ length: 200 }, (_, seed) => drawnFor(item, { seed, starts: [] })?.partId);
    expect([...new Set(drawn)].sort()).toEqual(['a', 'b', 'c']);
    expect(drawnFor(item, { seed: 7, starts: [] })).toEqual(drawnFor(item, { seed: 7, starts: [] }));
    const starts = [0, 8, 16];
    const from = { call: 'from-a-start', partIds: ['a'] } as const;
    const places = Array.from({ length: 100 }, (_, seed) => drawnFor(from, { seed, starts })?.start ?? -1);
    expect([...new Set(places)].sort((a, b) => a - b)).toEqual(starts);
    expect(drawnFor({ call: 'drawn', partIds: [] }, { seed: 1, starts: [] })).toBeNull();
    expect([...shuffled([1, 2, 3, 4, 5], 3)].sort()).toEqual([1, 2, 3, 4, 5]);
  });

  it('adds up what listeners gave, leaves out who has not scored everything, and counts taps once a listener', () => {
    const criteria = [
      { name: 'Tone', points: 10 },
      { name: 'Rhythm', points: 10 },
    ];
    const players = [
      {
        id: 'p',
        items: [
          { id: 'a', criteria },
          { id: 'b', criteria },
        ],
      },
    ];
    const given = (
      listenerId: string,
      itemId: string,
      points: (number | null)[],
      taps: number[],
    ): GivenScore => ({
      ...{ listenerId, playerId: 'p', itemId, points, taps },
    });
    const { players: results, agreement } = dayResults(players, [
      given('1', 'a', [8, 6], [3, 3, 4]),
      given('1', 'b', [9, 9], []),
      given('2', 'a', [6, 6], [3]),
      given('2', 'b', [7, 9], []),
      given('3', 'a', [7, null], [5]),
    ]);
    expect(results[0]?.most).toBe(40);
    // 32 and 28: mean 30, the third listener has not scored everything.
    expect([results[0]?.panel?.mean, results[0]?.panel?.listeners]).toEqual([30, 2]);
    expect(results[0]?.items[0]?.criteria.map(({ mean }) => mean)).toEqual([7, 6]);
    const [first] = results[0]?.items ?? [];
    expect(first && panelSlips(first)).toEqual([3]);
    expect(agreement).toBeNull();
  });

  // Three who give one order agree fully: W = 1 by its definition (Kendall and Babington Smith 1939).
  it('tells full agreement where three listeners hear one order', () => {
    const criteria = [{ name: 'All', points: 10 }];
    const players = [{ id: 'p', items: ['a', 'b', 'c'].map((id) => ({ id, criteria })) }];
    const scores = ['1', '2', '3'].flatMap((listenerId, n) =>
      ['a', 'b', 'c'].map((itemId, k) => ({
        ...{ listenerId, playerId: 'p', itemId, points: [3 + 2 * k + n * 0.5], taps: [] },
      })),
    );
    expect(dayResults(players, scores).agreement).toBeCloseTo(1, 9);
  });
});

/** A beat as it is written, counted from 0. */
function beatOf(text: string): number {
  const part = { '¼': 0.25, '½': 0.5, '¾': 0.75 }[text.slice(1)] ?? 0;
  return Number(text[0]) - 1 + part;
}

describe('ear tests', () => {
  const test = (kind: (typeof EAR_KINDS)[number], level: number, seed: number) => {
    const made = earTest(kind, { level, seed });
    if (!made.ok) throw new Error(made.issues[0]?.message);
    return made.value;
  };

  it('are the same by the same seed, answerable, and right about themselves, over all levels and 40 seeds', () => {
    for (const kind of EAR_KINDS)
      for (let level = 1; level <= 8; level += 1)
        for (let seed = 0; seed < 40; seed += 1) {
          const one = test(kind, level, seed);
          const where = `${kind}, level ${level}, seed ${seed}`;
          expect(one)
            .withContext(where)
            .toEqual(test(kind, level, seed));
          expect(one.notes.length).withContext(where).toBeGreaterThan(1);
          if (one.choices)
            expect(one.choices)
              .withContext(where)
              .toContain(one.answer ?? '');
          if (kind === 'interval') {
            const [low, high] = one.notes.map(({ midi }) => midi ?? 0);
            // Semitones of intervals: common practice, no source.
            const semitones = { octave: 12, 'perfect fifth': 7, 'major third': 4, tritone: 6 }[
              one.answer ?? ''
            ];
            if (semitones !== undefined)
              expect((high ?? 0) - (low ?? 0))
                .withContext(where)
                .toBe(semitones);
          }
          if (one.melody) {
            expect(one.melody[0]?.midi)
              .withContext(where)
              .toBe(one.melody.at(-1)?.midi ?? -1);
            const leaps = one.melody
              .slice(1)
              .map(({ midi }, n) => Math.abs(midi - (one.melody?.[n]?.midi ?? 0)));
            expect(Math.max(...leaps))
              .withContext(where)
              .toBeLessThanOrEqual(5);
          }
        }
    expect(earTest('echo', { level: 9, seed: 1 }).ok).toBeFalse();
  });

  it('are scored question by question on a day, by the points of the sheet', () => {
    const [item] = mockItems([{ id: 'a', kind: 'aural', title: 'Aural tests', points: 18 }], {
      ...{ criteria: USUAL_CRITERIA, newId },
    });
    expect(item?.call).toBe('aural');
    const asked = auralQuestions({ level: item?.level ?? 0, seed: 1 });
    expect(item?.criteria.length).toBe(asked.length);
    expect(item?.criteria.reduce((sum, { points }) => sum + points, 0)).toBe(18);
    expect(item?.criteria.map(({ name }) => name)).not.toContain('Tone');
  });

  it('ask five things on a day, the same by the same seed, each with what is right as a listener reads it', () => {
    // Degrees of a major scale and their semitones: common practice, no source.
    const semitones = [0, 2, 4, 5, 7, 9, 11];
    for (let level = 1; level <= 8; level += 1)
      for (let seed = 0; seed < 40; seed += 1) {
        const asked = auralQuestions({ level, seed });
        expect(asked).toEqual(auralQuestions({ level, seed }));
        expect(asked.map(({ test: { kind } }) => kind)).toEqual([
          'clap',
          'interval',
          'echo',
          'cadence',
          'meter',
        ]);
        for (const { test: one, right } of asked) {
          if (one.choices) expect(one.choices).toContain(right);
          if (one.onsets) {
            const read = right
              .replace('beats ', '')
              .split(' | ')
              .flatMap((measure, n) => measure.split(' ').map((beat) => 4 * n + beatOf(beat)));
            expect(read)
              .withContext(right)
              .toEqual([...one.onsets]);
          }
          if (one.melody) {
            const tonic = one.melody[0]?.midi ?? 0;
            const read = [...(right.split(' in ')[0] ?? '').matchAll(/(low )?([1-7])/gu)].map(
              ([, low, degree]) => tonic + (semitones[Number(degree) - 1] ?? 0) - (low ? 12 : 0),
            );
            expect(read)
              .withContext(right)
              .toEqual(one.melody.map(({ midi }) => midi));
          }
        }
      }
    expect(auralQuestions({ level: 9, seed: 1 })).toEqual([]);
  });

  it('hear taps wherever they begin, and what is missing or too many', () => {
    const onsets = [0, 0.5, 1, 2];
    expect(
      tapResult(
        onsets,
        onsets.map((at) => at + 3.2),
      ).right,
    ).toBe(4);
    expect(
      tapResult(
        onsets,
        [0, 0.55, 1, 2.05].map((at) => at + 1),
      ).right,
    ).toBe(4);
    expect(tapResult(onsets, [1, 1.5, 2]).right).toBe(3);
    expect(tapResult(onsets, [0, 0.25, 0.5, 1, 2]).right).toBe(3);
    expect(tapResult(onsets, []).right).toBe(0);
  });

  it('hear what is sung in another octave, and how far it is off', () => {
    const { melody, quarterBpm } = test('echo', 3, 5);
    const sung = (melody ?? []).flatMap(({ midi, start, length }, n) =>
      Array.from({ length: 10 }, (_, k) => ({
        seconds: ((start + (length * (k + 0.5)) / 10) * 60) / quarterBpm,
        midi: midi - 12 + (n === 1 ? 0.7 : 0.05),
      })),
    );
    const { right, of, cents } = sungResult(melody ?? [], { sung, quarterBpm });
    expect(right).toBe(of - 1);
    expect(cents[1]).toBe(70);
  });

  // a' = 440 Hz is MIDI 69; a quarter tone above c' is 60.5: arithmetic.
  it('hear the pitch of a stretch of sound, and none in silence', () => {
    for (const midi of [69, 60.5, 48, 76]) {
      const hertz = 440 * 2 ** ((midi - 69) / 12);
      const samples = Float32Array.from({ length: 4096 }, (_, n) => {
        const phase = (2 * Math.PI * hertz * n) / 44_100;
        return 0.2 * Math.sin(phase) + 0.1 * Math.sin(2 * phase) + 0.05 * Math.sin(3 * phase);
      });
      expect(framePitch(samples, 44_100)?.midi).withContext(String(midi)).toBeCloseTo(midi, 1);
    }
    expect(framePitch(new Float32Array(4096), 44_100)).toBeNull();
  });
});

describe('an accompaniment', () => {
  const measure = (pitch: string, number: number): string =>
    `<measure number="${number}">${number === 1 ? '<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>' : ''}<note><pitch><step>${pitch}</step><octave>4</octave></pitch><duration>4</duration><type>whole</type></note></measure>`;
  const file = bytesOf(`<?xml version="1.0"?><score-partwise version="4.0"><part-list>
    <score-part id="P1"><part-name>Flute</part-name></score-part>
    <score-part id="P2"><part-name>Piano</part-name></score-part></part-list>
    <part id="P1">${measure('C', 1)}${measure('D', 2)}</part>
    <part id="P2">${measure('E', 1)}${measure('F', 2)}</part></score-partwise>`);
  const pitches = (own: 'silent' | 'soft' | 'alone', fromIndex = 0): number[] => {
    const read = accompaniment(file, { partId: 'P1', span: { fromIndex, endIndex: 2 }, own });
    return read.ok ? read.value.map(({ midi }) => midi) : [];
  };

  // MIDI 60 is c', the middle C: common practice, no source.
  it('sounds the other parts, with the own one silent, soft or alone, from the beginning of a span', () => {
    expect(readScore(file).ok).toBeTrue();
    expect(pitches('silent')).toEqual([64, 65]);
    expect(pitches('soft').sort()).toEqual([60, 62, 64, 65]);
    expect(pitches('alone')).toEqual([60, 62]);
    expect(pitches('silent', 1)).toEqual([65]);
    const read = accompaniment(file, { partId: 'P1', span: { fromIndex: 1, endIndex: 2 }, own: 'silent' });
    expect(read.ok && read.value[0]?.start).toBe(0);
  });
});
