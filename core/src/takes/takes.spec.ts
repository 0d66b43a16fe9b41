import { readFileSync } from 'node:fs';
import { seededRandom } from '../base/index.js';
import { readMusic } from '../reading/index.js';
import { readScore, type Score } from '../score/index.js';
import { readTake, takeSentences } from './index.js';
import {
  performed,
  quantile,
  rehearse,
  startErrors,
  tempoErrors,
  type Rehearsal,
  type RehearsalWish,
} from './testing/rehearsal.js';

// Bounds are those that the design sets; every performance is rendered by formula, with its truth beside it.

function study(name: string): Score {
  const read = readScore(readFileSync(new URL(`../../../demo/studies/${name}.musicxml`, import.meta.url)));
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return read.value;
}

/** A player who hurries a little, slows down again, stops once and goes back once. */
const HUMAN: RehearsalWish['vary'] = (even, { quarters }) => {
  const written = even.tempo(0);
  return {
    tempo: (at) => written * 0.96 * (1 + (0.06 * at) / quarters) * (1 + 0.025 * Math.sin(at / 4)),
    loud: ({ at }) => 0.55 + 0.25 * Math.sin(at / 7),
    pauses: new Map([[6, 1.8]]),
    restarts: new Map([[10, 8]]),
  };
};

/** The same without going back: the last chord of the marimba's study holds the notes of the arpeggios before it. */
const ONWARD: RehearsalWish['vary'] = (even, music, random) => ({
  ...HUMAN?.(even, music, random),
  restarts: new Map(),
});

const PLAYED: readonly (readonly [study: string, timbre: RehearsalWish['timbre']])[] = [
  ['petrel-song', 'flute'],
  ['harbor-bell', 'clarinet'],
  ['slack-water', 'trombone'],
  ['slack-water', 'bassoon'],
  ['ferry-lines', 'violin'],
  ['glass-harbour', 'marimba'],
];

describe('a take of a known performance', () => {
  const rehearsals = new Map<string, Rehearsal>();
  const of = ([name, timbre]: (typeof PLAYED)[number]): Rehearsal => {
    const key = `${name} ${timbre}`;
    const known =
      rehearsals.get(key) ??
      rehearse(study(name), { timbre, seed: 11, vary: timbre === 'marimba' ? ONWARD : HUMAN });
    rehearsals.set(key, known);
    return known;
  };

  for (const played of PLAYED)
    it(`of ${played.join(', ')} has its notes, measures, stop and restart where they were`, () => {
      const rehearsal = of(played);
      const [starts, tempos] = [startErrors(rehearsal), tempoErrors(rehearsal)];
      expect(quantile(starts, 0.5)).toBeLessThanOrEqual(0.02);
      expect(quantile(starts, 0.9)).toBeLessThanOrEqual(0.08);
      const share = (most: number): number => tempos.filter((error) => error <= most).length / tempos.length;
      expect(share(0.03)).toBeGreaterThanOrEqual(0.9);
      const { truth, read, music } = rehearsal;
      for (const { seconds, length } of truth.pauses) {
        const found = read.pauses.find((pause) => Math.abs(pause.seconds - seconds) < 0.5);
        expect(Math.abs((found?.length ?? 0) - length))
          .withContext('length of the stop')
          .toBeLessThan(0.3);
      }
      expect(read.restarts.map(({ from, to }) => [from, to])).toEqual(
        truth.restarts.map(({ from, to }) => [from, to]),
      );
      expect(music.notes.length).toBeGreaterThan(50);
    });

  it('has 90 % of all its measures within 1.5 % and 97 % within 3 %', () => {
    const errors = PLAYED.flatMap((played) => tempoErrors(of(played)));
    expect(errors.filter((error) => error <= 0.015).length / errors.length).toBeGreaterThanOrEqual(0.9);
    expect(errors.filter((error) => error <= 0.03).length / errors.length).toBeGreaterThanOrEqual(0.97);
  });

  it('has no slip where none was, but one a minute at most', () => {
    const all = PLAYED.map(of);
    const minutes = all.reduce((sum, { read }) => sum + read.seconds / 60, 0);
    expect(all.reduce((sum, { read }) => sum + read.slips.length, 0)).toBeLessThanOrEqual(
      Math.floor(minutes),
    );
  });
});

describe('a room', () => {
  // Devices and files that are compressed give nothing at all before or after what they hear (common practice, no source).
  for (const [name, timbre] of PLAYED.slice(1, 3))
    it(`that is loud before ${name} and gives nothing after it (${timbre}) is no playing`, () => {
      const score = study(name);
      const spans = [{ fromIndex: 0, endIndex: 8 }];
      const { truth, sound } = performed(score, { timbre, seed: 20, spans, vary: () => ({ before: 3 }) });
      const random = seededRandom(5);
      const samples = new Float32Array(sound.samples.length + 4 * sound.rate);
      // Evenly spread up to a: its root mean square is a / √3, here 60 dB below full scale.
      samples.set(sound.samples.map((one) => one + Math.sqrt(3) * 0.001 * (2 * random() - 1)));
      const read = readTake({ samples, rate: sound.rate }, score, { spans, withRepeats: true, bpm: null });
      if (!read.ok) throw new Error(read.issues[0]?.message);
      const [first] = read.value.notes;
      expect(Math.abs((first?.seconds ?? Infinity) - (truth.notes[0]?.start ?? 0))).toBeLessThan(0.08);
      expect(read.value.restarts).toEqual([]);
      expect(read.value.pauses).toEqual([]);
    });
});

describe('possible slips', () => {
  it('are at least three of five wrong and missing notes, and hardly one that was none', () => {
    let [found, all, invented, minutes] = [0, 0, 0, 0];
    for (const [name, timbre] of [
      ['harbor-bell', 'clarinet'],
      ['ferry-lines', 'violin'],
      ['slack-water', 'trombone'],
    ] as const) {
      const { truth, read } = rehearse(study(name), {
        ...{ timbre, seed: 5 },
        vary: () => ({
          wrong: new Map([
            [12, 1],
            [40, -2],
            [63, 2],
          ]),
          missing: new Set([25, 52]),
        }),
      });
      all += truth.slips.length;
      minutes += read.seconds / 60;
      for (const slip of truth.slips)
        if (read.slips.some(({ asked, kind }) => asked === slip.asked && kind === slip.kind)) found += 1;
      invented += read.slips.filter(
        ({ seconds }) => !truth.slips.some((slip) => Math.abs(slip.seconds - seconds) < 0.4),
      ).length;
    }
    expect(found / all).toBeGreaterThanOrEqual(0.6);
    expect(invented / minutes).toBeLessThanOrEqual(1);
  });
});

describe('what a take tells', () => {
  it('is the opening, the drift and the loudness that were played', () => {
    const { read, music } = rehearse(study('ferry-lines'), {
      ...{ timbre: 'violin', seed: 2 },
      // A tenth faster from beginning to end, and 12 dB louder.
      vary: (even, { quarters }) => ({
        tempo: (at) => even.tempo(0) * (0.95 + (0.1 * at) / quarters),
        loud: ({ at }) => 0.4 + (0.4 * at) / quarters,
      }),
    });
    const written = music.measures[0];
    const opening = ((written?.quarters ?? 0) * 60) / (written?.lasts ?? 1) / read.beatQuarters;
    expect((read.opening?.bpm ?? 0) / (opening * 0.953)).toBeCloseTo(1, 1);
    expect(Math.abs((read.drift ?? 0) - 10)).toBeLessThan(1.5);
    const [first, last] = [read.dynamics[1]?.lu ?? 0, read.dynamics.at(-2)?.lu ?? 0];
    // The synthesiser goes 30 dB from nothing to everything.
    expect(last - first).toBeGreaterThan(8);
    expect(last - first).toBeLessThan(14);
  });

  it('is how uneven running notes were (standard deviation of intervals)', () => {
    const evenness = (unsteady: number): number => {
      const { read } = rehearse(study('glass-harbour'), {
        timbre: 'marimba',
        seed: 8,
        vary: () => ({ unsteady }),
      });
      const all = read.evenness.map(({ percent }) => percent).sort((a, b) => a - b);
      return all[all.length >> 1] ?? 0;
    };
    // Sixteenths at 100 last 150 ms; intervals between places that stray by s stray by s times the root of two.
    expect(evenness(0)).toBeLessThan(2.5);
    expect(evenness(0.01) / ((100 * 0.01 * Math.SQRT2) / 0.15)).toBeCloseTo(1, 0);
  });

  it('is said in sentences: an opening faster than the deciding measure, and where it stopped', () => {
    const score = study('ferry-lines');
    const decides = readMusic(score, { instrument: null, bpm: null }).deciding?.measure;
    const { read, music } = rehearse(score, {
      ...{ timbre: 'violin', seed: 9 },
      // A fifth slower in the measure that decides, and a stop after the fourth.
      vary: (even, { measures }) => {
        const hard = measures.find(({ number }) => number === decides);
        const isHard = (at: number): boolean =>
          hard !== undefined && at >= hard.at && at < hard.at + hard.quarters;
        return { tempo: (at) => even.tempo(0) * (isHard(at) ? 0.8 : 1), pauses: new Map([[3, 2]]) };
      },
    });
    const texts = takeSentences(read, 'uk').map(({ text }) => text);
    expect(texts[0]).toMatch(new RegExp(`^Opens at \\d+, bar ${decides} at \\d+: start at \\d+\\.$`, 'u'));
    expect(
      texts.some(
        (text) =>
          /^Stops for [12]\.\d s in bar /u.test(text) && text.includes(music.measures[3]?.number ?? '?'),
      ),
    ).toBeTrue();
    // Every place stands in the music.
    const numbers = music.measures.map(({ number }) => number);
    for (const { measures } of takeSentences(read, 'us'))
      for (const one of measures) expect(numbers).toContain(one);
  });

  it('follows strokes without a pitch by their rhythm', () => {
    const score = study('glass-harbour');
    const strokes = { ...score, notes: score.notes.map((note) => ({ ...note, written: null })) };
    const rehearsal = rehearse(strokes, {
      timbre: 'snare',
      seed: 4,
      vary: () => ({ pauses: new Map([[5, 1.5]]) }),
    });
    expect(quantile(startErrors(rehearsal), 0.5)).toBeLessThan(0.02);
    expect(quantile(startErrors(rehearsal), 0.8)).toBeLessThan(0.08);
  });
});

describe('a take that tells nothing', () => {
  const score = study('harbor-bell');
  const codeOf = (samples: Float32Array, of = score): string | undefined => {
    const read = readTake({ samples, rate: 22_050 }, of, { withRepeats: true, bpm: null });
    return read.ok ? undefined : read.issues[0]?.code;
  };

  it('is silent, too short, or other music', () => {
    expect(codeOf(new Float32Array(22_050 * 5))).toBe('take-silent');
    expect(codeOf(new Float32Array(5000).fill(0.5))).toBe('take-too-short');
    const { sound } = performed(study('lee-shore'), { timbre: 'violin', seed: 3 });
    expect(codeOf(sound.samples)).toBe('take-other-music');
  });

  it('but one that lies an octave beside, or was too loud for the microphone, is read with a word', () => {
    const { sound, truth } = performed(score, { timbre: 'clarinet', seed: 6, tuning: -1200 });
    const peak = sound.samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    const loud = sound.samples.map((one) => Math.max(-1, Math.min(1, (one * 4) / peak)));
    const read = readTake({ samples: loud, rate: 22_050 }, score, { withRepeats: true, bpm: null });
    if (!read.ok) throw new Error(read.issues[0]?.message);
    expect(read.value.notices).toContain({ kind: 'shifted', semitones: -12 });
    expect(read.value.notices.some(({ kind }) => kind === 'clipped')).toBeTrue();
    const starts = truth.notes
      .map(({ asked, start }) =>
        Math.abs((read.value.notes.find((note) => note.asked === asked)?.seconds ?? 99) - (start ?? 0)),
      )
      .sort((a, b) => a - b);
    expect(quantile(starts, 0.9)).toBeLessThan(0.08);
  });
});
