import { readFileSync } from 'node:fs';
import { levels } from '../air/index.js';
import { readScore, type Score } from '../score/index.js';
import { levelWord, takesBeside, tappedPulse, tendencies, toldTake, type ToldTake } from './index.js';
import { rehearse, type Rehearsal, type RehearsalWish } from './testing/rehearsal.js';

function study(name: string): Score {
  const read = readScore(readFileSync(new URL(`../../../demo/studies/${name}.musicxml`, import.meta.url)));
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return read.value;
}

const played = (name: string, wish: RehearsalWish): Rehearsal => rehearse(study(name), wish);

/** How loud each printed level is played, 0 to 1: about 4 LU a step. */
const LOUD: Readonly<Record<string, number>> = { pp: 0.12, p: 0.2, mp: 0.3, mf: 0.45, f: 0.7, ff: 1 };

describe('what a take tells beside its tempo', () => {
  const score = study('ferry-lines');
  const levelAt = levels(score);
  const asPrinted = (): RehearsalWish => ({
    ...{ timbre: 'violin', seed: 5 },
    vary: () => ({ loud: ({ at }) => LOUD[levelAt(at + 1e-3)] ?? 0.45 }),
  });
  const oneLevel = (): RehearsalWish => ({ timbre: 'violin', seed: 5, vary: () => ({ loud: () => 0.5 }) });

  it('hears printed contrasts where they are played, and says so where they are one level', () => {
    const [shaped, flat] = [asPrinted(), oneLevel()].map((wish) => played('ferry-lines', wish).read);
    const went = (of: typeof shaped): readonly number[] =>
      (of?.contrasts ?? []).map(({ fromLevel, toLevel, changeLu }) =>
        (LOUD[toLevel] ?? 0) > (LOUD[fromLevel] ?? 0) ? changeLu : -changeLu,
      );
    expect(went(shaped).length).toBeGreaterThan(0);
    for (const change of went(shaped)) expect(change).toBeGreaterThan(3);
    for (const change of went(flat)) expect(change).toBeLessThan(3);
    expect(shaped?.loudest?.isAsPrinted).toBeTrue();
    const texts = (of: typeof shaped): string =>
      of
        ? toldTake(of)
            .sentences.map(({ text }) => text)
            .join(' ')
        : '';
    expect(texts(shaped)).not.toContain('as one level');
    expect(texts(flat)).toContain('as one level');
  });

  it('hears a pitch that is played beside its place, and only that one', () => {
    const bent = new Map([[74, 22]]);
    const { read } = played('petrel-song', { timbre: 'flute', seed: 3, bent });
    expect(read.pitches.length).toBeGreaterThan(4);
    for (const { midi, cents } of read.pitches)
      expect(Math.abs(cents - (bent.get(midi) ?? 0)))
        .withContext(String(midi))
        .toBeLessThan(8);
    const three = [1, 2, 3].map(() => read.pitches);
    expect(tendencies(three).map(({ midi }) => midi)).toEqual([74]);
    expect(tendencies(three.slice(1))).toEqual([]);
  });

  it('has the measures into which its last note is tied, without a tempo of their own', () => {
    const { read } = played('petrel-song', { timbre: 'flute', seed: 3 });
    expect(read.measures.slice(-2).map(({ number, quarterBpm }) => [number, quarterBpm])).toEqual([
      ['23', null],
      ['24', null],
    ]);
  });

  it('lays two takes beside each other and says what got steadier', () => {
    let sounding = 0;
    const told = (vary: RehearsalWish['vary']): ToldTake => {
      const { read, music } = played('petrel-song', { timbre: 'flute', seed: 9, ...(vary && { vary }) });
      sounding = music.measures.length;
      return toldTake(read);
    };
    const before = told((even) => ({
      tempo: (at) => even.tempo(at) * (1 + 0.05 * Math.sin(at / 3)),
      pauses: new Map([[6, 1.8]]),
    }));
    const after = told((even) => ({ tempo: (at) => even.tempo(at) * 1.1 }));
    const { measures, sentences } = takesBeside(before, after);
    const text = sentences.join(' ');
    expect(text).toContain('Steadier:');
    expect(text).toContain('Played through; before it stopped once.');
    expect(text).toMatch(/The opening goes at \d+, before at \d+\./u);
    const both = measures.filter((one) => one.before && one.after);
    expect(both.length).toBe(sounding);
    expect(takesBeside(after, after).sentences.join(' ')).toContain('As steady as before');
  });
});

describe('a take without notes', () => {
  // 60 × 4 beats / 2 s = 120 a minute: arithmetic.
  it('has the pulse of its tapped downbeats, and no more than they tell', () => {
    const even = tappedPulse([2, 4, 6, 8, 10], 4);
    expect(even.measures.map(({ bpm }) => bpm)).toEqual([120, 120, 120, 120]);
    expect([even.opening, even.drift, even.spread]).toEqual([120, 0, 0]);
    const hurried = tappedPulse([0, 2, 3.9, 5.7, 7.4, 9], 4);
    expect(hurried.drift ?? 0).toBeGreaterThan(15);
    expect(tappedPulse([2, 4], 4).opening).toBeNull();
    expect(tappedPulse([], 4).measures).toEqual([]);
  });
});

describe('the level of a microphone', () => {
  // A peak of half of full scale is −6.02 dB: arithmetic; the bounds are common practice, no source.
  it('has a plain word', () => {
    expect([0, 0.0005, 0.01, 0.5, 0.999].map(levelWord)).toEqual([
      'silent',
      'silent',
      'too soft',
      'good',
      'too loud',
    ]);
  });
});
