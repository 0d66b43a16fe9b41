import { CANDIDATES } from '../hear/yin.js';
import type { Heard } from '../hear/heard.js';
import type { AskedNote } from './asked-notes.js';
import type { Ground, Likelihood } from './ground.js';
import { localPace } from './local-pace.js';
import { strokeWay } from './strokes.js';
import { turnsOf } from './turns.js';
import { openedWindows } from './windows.js';
import { beginningWorth, summed } from './worth.js';

// What is heard is set frame by frame, and where the notes were played is known: common practice, no source.

const HOP = 0.01;
const BEAT = 0.5;

/** One stroke as it was played. Units: seconds; `pitch` 0 or 1, the two drums */
interface Struck {
  readonly at: number;
  readonly pitch?: number;
  readonly strength?: number;
}

/** What comes anew with a stroke of each drum, over four bands: neither is at the pitch that is written. */
const COLOURS = [
  [0.9, 0.3, 0.1, 0],
  [0.2, 0.3, 0.9, 0.1],
] as const;

/** Two drums: what each stroke sounds like for a while, and how clearly it begins; by its pitch, or only by its colour. */
function groundOf(
  asked: readonly AskedNote[],
  strokes: readonly Struck[],
  { seconds, by = 'pitch' }: { readonly seconds: number; readonly by?: 'pitch' | 'colour' },
): Ground {
  const frames = Math.round(seconds / HOP);
  const flux = new Float32Array(frames);
  const rise = new Float32Array(frames * 4);
  const tables = [new Float32Array(frames).fill(-3), new Float32Array(frames).fill(-3)];
  for (const { at, pitch = 0, strength = 1 } of strokes) {
    const frame = Math.round(at / HOP);
    flux[frame] = strength;
    if (by === 'colour') {
      rise.set(COLOURS[pitch] ?? [], frame * 4);
      continue;
    }
    tables[pitch]?.fill(-0.1, frame, frame + 40);
    tables[1 - pitch]?.fill(-3, frame, frame + 40);
  }
  const pitches = [...new Set(asked.map(({ midis }) => midis[0] ?? 0))];
  const likelihood: Likelihood = {
    tableOf: Int32Array.from(asked, ({ midis }) => pitches.indexOf(midis[0] ?? 0)),
    tables,
    sums: tables.map((table) => summed(frames, (frame) => table[frame] ?? 0)),
    rises: tables,
  };
  const salience = { lowest: 40, count: 4, strength: rise, rise };
  return {
    heard: { frames, hop: HOP, flux, salience, isSilent: new Uint8Array(frames) } as unknown as Heard,
    notes: asked,
    likelihood,
  };
}

/** Measures of notes in beats: [beat, length, drum, roll]. */
type Written = readonly (readonly [at: number, length: number, midi: number, isRoll?: boolean])[];

function askedOf(measures: readonly Written[]): AskedNote[] {
  return measures.flatMap((notes, pass) =>
    notes.map(([at, length, midi, isRoll = false], n): AskedNote => ({
      ...{ measureIndex: pass, ordinal: n + 1, pass, at: 4 * pass + at, length },
      ...{ clock: (4 * pass + at) * BEAT, lasts: length * BEAT, midis: [midi] },
      ...{ isSlurred: false, isOrnamented: isRoll, isStaccato: false, hasFermata: false },
    })),
  );
}

const LOW = 41;
const HIGH = 48;
const drumOf = (midi: number): number => (midi === LOW ? 0 : 1);

/** Plays measures in an order, in tempo; a roll beats on softly. */
function played(measures: readonly Written[], order: readonly number[]): Struck[] {
  return order.flatMap((pass, n) =>
    (measures[pass] ?? []).flatMap(([at, length, midi, isRoll]): Struck[] => {
      const begun = 0.5 + (4 * n + at) * BEAT;
      const beats = isRoll ? Math.floor((length * BEAT - 0.1) / 0.08) : 0;
      const rolled = Array.from({ length: beats }, (_, k): Struck => ({
        at: begun + 0.08 * (k + 1),
        pitch: drumOf(midi),
        strength: 0.35,
      }));
      return [{ at: begun, pitch: drumOf(midi) }, ...rolled];
    }),
  );
}

function jumpsOf(ground: Ground, measures: readonly Written[]): { at: number; note: number }[] {
  const starts = measures.map((_, pass) => ground.notes.findIndex((note) => note.pass === pass));
  const { reached } = strokeWay(ground, { pace: 1, heads: new Set(starts) });
  return reached.filter(({ isJump }) => isJump).map(({ frame, note }) => ({ at: frame * HOP, note }));
}

describe('a way by strokes', () => {
  const eighths: Written = [0, 0.5, 1, 1.5, 2, 2.5, 3].map((at) => [at, 0.5, LOW] as const);
  const dotted: Written = [
    [0, 1.5, LOW],
    [1.5, 0.5, LOW],
    [2, 1, LOW],
    [3, 1, LOW],
  ];
  const even: Written = [0, 1, 2, 3].map((at) => [at, 1, LOW] as const);
  const roll: Written = [[0, 4, LOW, true]];

  it('goes back after a roll has passed, whose strokes are no notes', () => {
    const measures = [dotted, eighths, roll, even, dotted, even, even];
    const asked = askedOf(measures);
    const order = [0, 1, 2, 3, 1, 2, 3, 4, 5, 6];
    const ground = groundOf(asked, played(measures, order), { seconds: 0.5 + order.length * 4 * BEAT + 0.5 });
    const jumps = jumpsOf(ground, measures);
    expect(jumps.length).toBe(1);
    expect(jumps[0]?.at).toBeCloseTo(0.5 + 16 * BEAT, 1);
    expect(asked[jumps[0]?.note ?? 0]?.pass).toBe(1);
  });

  it('takes no strokes for a roll that stand alone', () => {
    // Back at the measure before the roll, the player hesitates: within a roll that would cost nothing.
    const halves: Written = [
      [0, 2, LOW],
      [2, 2, LOW],
    ];
    const long: Written = [[0, 8, LOW, true]];
    const measures = [dotted, eighths, halves, even, long, [], dotted, even];
    const asked = askedOf(measures);
    const order = [0, 1, 2, 3, 2, 3, 4, 5, 6, 7];
    const late = 0.5 + 17 * BEAT;
    const strokes = played(measures, order).map((stroke) =>
      stroke.at > late ? { ...stroke, at: stroke.at + 0.12 } : stroke,
    );
    const ground = groundOf(asked, strokes, { seconds: 0.8 + order.length * 4 * BEAT + 0.5 });
    expect(jumpsOf(ground, measures).map(({ note }) => asked[note]?.pass)).toEqual([2]);
  });

  for (const [strength, name] of [
    [0.7, 'clear'],
    [0.4, 'soft'],
  ] as const)
    it(`takes a stroke for a note rather than for nothing, where all are ${name}`, () => {
      // The same but for the stroke on the fourth beat: only that tells where the player went back to.
      const three: Written = even.slice(0, 3);
      const measures = [dotted, three, dotted, even, eighths, three, dotted, even];
      const asked = askedOf(measures);
      const order = [0, 1, 2, 3, 4, 3, 4, 5, 6, 7];
      const strokes = played(measures, order).map((stroke) => ({ ...stroke, strength }));
      const ground = groundOf(asked, strokes, { seconds: 0.5 + order.length * 4 * BEAT + 0.5 });
      expect(jumpsOf(ground, measures).map(({ note }) => asked[note]?.pass)).toEqual([3]);
    });

  it('follows a roll that is longer than any other interval', () => {
    const long: Written = [[0, 4, LOW, true]];
    const silent: Written = [];
    const measures = [dotted, eighths, long, silent, silent, even, dotted];
    const asked = askedOf(measures).map((note) => (note.isOrnamented ? { ...note, lasts: 12 * BEAT } : note));
    const strokes = played(
      [dotted, eighths, [[0, 12, LOW, true]], [], [], even, dotted],
      [0, 1, 2, 3, 4, 5, 6],
    );
    const ground = groundOf(asked, strokes, { seconds: 0.5 + 28 * BEAT + 0.5 });
    const { reached } = strokeWay(ground, { pace: 1, heads: new Set([0]) });
    expect(reached.map(({ note }) => note)).toEqual(asked.map((_, note) => note));
  });

  for (const by of ['pitch', 'colour'] as const)
    it(`tells measures of one rhythm apart by the drum they are played on, as its ${by} tells`, () => {
      const of = (...drums: readonly number[]): Written => drums.map((midi, at) => [at, 1, midi] as const);
      const measures = [
        dotted,
        of(HIGH, LOW, LOW, LOW),
        of(LOW, HIGH, LOW, LOW),
        of(LOW, LOW, HIGH, HIGH),
        of(HIGH, HIGH, LOW, HIGH),
        dotted,
      ];
      for (const [from, to] of [
        [4, 2],
        [3, 1],
        [4, 3],
      ] as const) {
        const passes = [...measures.keys()];
        const whole = [...passes.slice(0, from + 1), ...passes.slice(to)];
        const seconds = 0.5 + whole.length * 4 * BEAT + 0.5;
        const ground = groundOf(askedOf(measures), played(measures, whole), { seconds, by });
        const jumps = jumpsOf(ground, measures);
        expect(jumps.map(({ note }) => ground.notes[note]?.pass)).toEqual([to]);
        expect(jumps[0]?.at).toBeCloseTo(0.5 + 4 * (from + 1) * BEAT, 1);
      }
    });
});

describe('a way that is looked at anew', () => {
  const measures: Written[] = Array.from({ length: 20 }, () =>
    [0, 1, 2, 3].map((at) => [at, 1, LOW] as const),
  );
  const asked = askedOf(measures);
  const ground = groundOf(asked, [], { seconds: 45 });
  const reached = asked.map((_, note) => ({
    note,
    frame: Math.round((0.5 + note * BEAT) / HOP),
    isJump: false,
  }));
  const opened = (dear: number | null): ReturnType<typeof openedWindows> => {
    let worth = 0;
    const each = reached.map((_, n) => (worth -= n === dear ? 30 : 2));
    return openedWindows(ground, { reached, end: 4400, worth: each });
  };

  it('may have missed a jump where one step costs more than one, for the notes around it and nowhere else', () => {
    expect(opened(null)).toEqual([]);
    const windows = opened(40);
    const notes = windows.map(({ note }) => note);
    expect(notes).toEqual(jasmine.arrayContaining([28, 36, 40, 44, 52]));
    expect(Math.min(...notes)).toBeGreaterThan(12);
    expect(Math.max(...notes)).toBeLessThan(68);
    for (const { from, to } of windows) {
      expect(from).toBeLessThan(reached[39]?.frame ?? 0);
      expect(to).toBeGreaterThan(reached[40]?.frame ?? Infinity);
      expect(to - from).toBeLessThan(1200);
    }
  });
});

describe('turns of a pitch', () => {
  const track = (midis: readonly number[]): Pick<Heard, 'frames' | 'pitch'> => {
    const midi = new Float32Array(midis.length * CANDIDATES);
    const chance = new Float32Array(midis.length * CANDIDATES);
    midis.forEach((one, n) => {
      midi[n * CANDIDATES] = one;
      chance[n * CANDIDATES] = one === 0 ? 0 : 0.9;
    });
    return { frames: midis.length, pitch: { midi, chance } };
  };
  const held = (midi: number, frames: number): number[] => Array.from({ length: frames }, () => midi);
  const count = (midis: readonly number[]): number =>
    turnsOf(track(midis)).reduce((sum, one) => sum + one, 0);

  it('are new notes, by a semitone or more, with a gap between them or none', () => {
    expect(count([...held(60, 20), ...held(61, 20), ...held(60, 20), ...held(64, 20)])).toBe(3);
    expect(count([...held(60, 20), ...held(0, 6), ...held(62, 20)])).toBe(1);
  });

  it('are no vibrato of half a semitone, no octave that a machine mistakes, and not the same note again', () => {
    const vibrato = Array.from({ length: 120 }, (_, n) => 60 + 0.25 * Math.sin(n / 2.5));
    expect(count(vibrato)).toBe(0);
    expect(count([...held(60, 20), ...held(72, 10), ...held(60, 20)])).toBe(0);
    expect(count([...held(60, 20), ...held(0, 20), ...held(60, 20)])).toBe(0);
  });
});

describe('the beginning of a note', () => {
  it('is not looked for within a silence that goes on, and is at its end', () => {
    const ground = groundOf(askedOf([[[0, 4, LOW]]]), [{ at: 0.5 }], { seconds: 1 });
    ground.heard.isSilent.fill(1, 0, 48);
    const before = beginningWorth(ground, 20, 1);
    const anew = beginningWorth(ground, 50, 1);
    expect(anew - before).toBeGreaterThan(8);
    ground.heard.isSilent.fill(0);
    expect(beginningWorth(ground, 20, 1) - before).toBeGreaterThan(5);
  });
});

describe('the pace around a stop', () => {
  it('is that of the notes around it, where they are slow and few', () => {
    const clocks = [0, 0.7, 1.4, 2.1, 4.9, 5.6, 6.3, 7.0, 7.7];
    const times = clocks.map((clock) => 0.93 * clock + (clock > 2.1 ? 1.2 : 0));
    for (const pace of localPace(clocks, times)) expect(pace).toBeCloseTo(0.93, 2);
  });
});
