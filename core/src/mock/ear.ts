import { fail, ok, seededRandom, upperMedian, type Random, type Result } from '../base/index.js';

/** What an ear test asks. */
export const EAR_KINDS = ['echo', 'clap', 'interval', 'cadence', 'meter', 'pulse'] as const;

/** One of EAR_KINDS. */
export type EarKind = (typeof EAR_KINDS)[number];

/** A note of a test. Units: sounding MIDI number, null for a stroke; quarters from the beginning; 0 to 1 */
export interface EarNote {
  readonly midi: number | null;
  readonly start: number;
  readonly length: number;
  readonly accent: number;
}

/**
 * An ear test: what sounds, what is asked, and what is right.
 * Shape:  `choices` where it is answered by name; `onsets` where it is tapped, in quarters; `melody` where it is sung
 * Units:  quarters a minute
 */
export interface EarTest {
  readonly kind: EarKind;
  readonly level: number;
  readonly seed: number;
  readonly quarterBpm: number;
  readonly ask: string;
  readonly notes: readonly EarNote[];
  readonly choices: readonly string[] | null;
  readonly answer: string | null;
  readonly onsets: readonly number[] | null;
  readonly melody:
    readonly { readonly midi: number; readonly start: number; readonly length: number }[] | null;
}

/** Intervals by their semitones, in the order in which levels bring them (common practice, no source). */
const INTERVALS: readonly (readonly [semitones: number, name: string])[] = [
  [12, 'octave'],
  [7, 'perfect fifth'],
  [4, 'major third'],
  [3, 'minor third'],
  [5, 'perfect fourth'],
  [2, 'major second'],
  [9, 'major sixth'],
  [1, 'minor second'],
  [8, 'minor sixth'],
  [10, 'minor seventh'],
  [11, 'major seventh'],
  [6, 'tritone'],
];

/** Cadences by the degrees of their last two chords (common practice, no source). */
const CADENCES: readonly (readonly [name: string, chords: readonly [number, number]])[] = [
  ['perfect', [5, 1]],
  ['half', [1, 5]],
  ['plagal', [4, 1]],
  ['interrupted', [5, 6]],
];

const METERS: readonly (readonly [name: string, beats: number, parts: number])[] = [
  ['two', 2, 2],
  ['three', 3, 2],
  ['four', 4, 2],
  ['six eight', 2, 3],
];

/** Semitones of a major scale above its tonic. */
export const MAJOR: readonly number[] = [0, 2, 4, 5, 7, 9, 11];
const SOFT = 0.6;

/**
 * An ear test made by rule: the same seed makes the same.
 * Shape:  levels 1 to 8, each with more to tell apart or more to keep
 * Errors: ear-level for another level
 * Source: the design; what each level brings is common practice
 */
export function earTest(
  kind: EarKind,
  { level, seed }: { readonly level: number; readonly seed: number },
): Result<EarTest, 'ear-level'> {
  if (!Number.isInteger(level) || level < 1 || level > 8)
    return fail('ear-level', 'level', `Levels go from 1 to 8; ${level} came.`);
  const random = seededRandom(seed);
  random();
  const blank = {
    ...{ kind, level, seed, quarterBpm: 66 + 4 * level },
    ...{ choices: null, answer: null, onsets: null, melody: null },
  };
  return ok({ ...blank, ...MAKERS[kind](level, random) });
}

type Made = Pick<EarTest, 'ask' | 'notes'> & Partial<EarTest>;

const MAKERS: Readonly<Record<EarKind, (level: number, random: Random) => Made>> = {
  echo: (level, random) => {
    const melody = melodyOf(level, random);
    return {
      ask: 'Listen, then sing it back in the same time.',
      ...{ melody, notes: melody.map((note) => ({ ...note, accent: 1 })) },
    };
  },
  clap: (level, random) => {
    const onsets = rhythmOf(level, random);
    return {
      ask: 'Listen, then tap the rhythm back.',
      onsets,
      notes: onsets.map((start) => stroke(start, 1)),
    };
  },
  interval: (level, random) => {
    const known = INTERVALS.slice(0, Math.min(INTERVALS.length, 2 + level + (level > 6 ? 2 : 0)));
    const [semitones, answer] = pick(known, random);
    const low = 57 + Math.floor(random() * 10);
    const isTogether = level > 4 && random() < 0.5;
    const second = isTogether ? 0 : 2;
    return {
      ask: isTogether ? 'Two notes at once: how far apart are they?' : 'Two notes: how far apart are they?',
      notes: [tone(low, 0, second === 0 ? 4 : 2), tone(low + semitones, second, second === 0 ? 4 : 2)],
      ...{ choices: known.map(([, name]) => name).sort(), answer },
    };
  },
  cadence: (level, random) => {
    const known = CADENCES.slice(0, level < 3 ? 2 : level < 5 ? 3 : 4);
    const [answer, chords] = pick(known, random);
    const tonic = 53 + Math.floor(random() * 8);
    const row = [1, 4, ...chords];
    return {
      ask: 'How does it end?',
      notes: row.flatMap((degree, n) => chord(tonic, degree, n * 2)),
      ...{ choices: known.map(([name]) => name), answer },
    };
  },
  meter: (level, random) => {
    const known = METERS.slice(0, level < 3 ? 2 : level < 5 ? 3 : 4);
    const [answer, beats, parts] = pick(known, random);
    return {
      ask: 'In what meter is it?',
      notes: measuresOf(beats, parts, level),
      ...{ choices: known.map(([name]) => name), answer },
    };
  },
  pulse: (level, random) => {
    const [, beats, parts] = METERS[level < 3 ? 0 : Math.floor(random() * METERS.length)] ??
      METERS[0] ?? ['', 2, 2];
    const all = measuresOf(beats, parts, level);
    const end = Math.max(...all.map(({ start, length }) => start + length));
    const beat = parts === 3 ? 1.5 : 1;
    return {
      ask: 'Tap the beat while it plays.',
      ...{ notes: all, onsets: Array.from({ length: Math.floor(end / beat) }, (_, n) => n * beat) },
    };
  },
};

function pick<Thing>(things: readonly Thing[], random: Random): Thing {
  return things[Math.floor(random() * things.length)] as Thing;
}

function tone(midi: number, start: number, length: number): EarNote {
  return { midi, start, length, accent: 1 };
}

function stroke(start: number, accent: number): EarNote {
  return { midi: null, start, length: 0.25, accent };
}

/** A triad on a degree of a major scale, its bass below. */
function chord(tonic: number, degree: number, start: number): EarNote[] {
  const at = (step: number): number =>
    tonic + (MAJOR[(degree - 1 + step) % 7] ?? 0) + (degree - 1 + step >= 7 ? 12 : 0);
  const root = tonic + (MAJOR[(degree - 1) % 7] ?? 0);
  return [root - 12, at(0), at(2), at(4)].map((midi) => ({ midi, start, length: 2, accent: SOFT }));
}

/** A melody that begins and ends on its tonic and moves by steps, from level 4 on by thirds too. */
function melodyOf(level: number, random: Random): NonNullable<EarTest['melody']> {
  const count = 3 + Math.ceil(level / 2);
  const tonic = 60 + Math.floor(random() * 5);
  let degree = 0;
  const degrees = [0];
  for (let n = 1; n < count - 1; n += 1) {
    const step = level >= 4 && random() < 0.35 ? 2 : 1;
    // What has strayed comes back: the last note is the tonic again, a step away.
    const isBack = Math.abs(degree) >= count - 1 - n;
    const way = isBack ? -Math.sign(degree) : random() < 0.5 ? -1 : 1;
    degree = Math.min(5, Math.max(-3, degree + way * (isBack ? 1 : step)));
    degrees.push(degree);
  }
  degrees.push(0);
  return degrees.map((one, n) => {
    const octave = Math.floor(one / 7);
    const midi = tonic + (MAJOR[((one % 7) + 7) % 7] ?? 0) + 12 * octave;
    return { midi, start: n, length: n === degrees.length - 1 ? 2 : 1 };
  });
}

/** Onsets of two measures of four: halves and quarters first, eighths from level 2, dots and offbeats from level 5. */
function rhythmOf(level: number, random: Random): number[] {
  const cells: readonly (readonly number[])[] = [
    [0],
    [0, 1],
    ...(level >= 2 ? [[0, 0.5, 1]] : []),
    ...(level >= 3 ? [[0, 1, 1.5]] : []),
    ...(level >= 5
      ? [
          [0, 1.5],
          [0.5, 1],
        ]
      : []),
    ...(level >= 7
      ? [
          [0, 0.75, 1, 1.5],
          [0.5, 1.5],
        ]
      : []),
  ];
  const count = level < 3 ? 2 : 4;
  const onsets = Array.from({ length: count }, (_, n) => pick(cells, random).map((at) => n * 2 + at)).flat();
  return [...new Set([0, ...onsets])].sort((a, b) => a - b);
}

/** Some measures whose first beat is the strongest, beats divided in two or three. */
function measuresOf(beats: number, parts: number, level: number): EarNote[] {
  const beat = parts === 3 ? 1.5 : 1;
  const divided = level >= 2 || parts === 3;
  return Array.from({ length: 4 * beats }, (_, n) => {
    const start = n * beat;
    const isFirst = n % beats === 0;
    const inner = divided
      ? Array.from({ length: parts - 1 }, (_one, k) => start + ((k + 1) * beat) / parts)
      : [];
    return [
      { midi: isFirst ? 60 : 67, start, length: 0.4, accent: isFirst ? 1 : SOFT },
      ...inner.map((at) => ({ midi: 67, start: at, length: 0.3, accent: SOFT / 2 })),
    ];
  }).flat();
}

/** What an answer came to. */
export interface EarResult {
  readonly right: number;
  readonly of: number;
  readonly text: string;
}

/** A tap may be so early or late (our own). Units: seconds */
const TAP = 0.13;

/**
 * Taps against what was to be tapped, whatever moment they began at.
 * Units:  seconds
 * Shape:  each onset is met once at most; taps too many take away
 */
export function tapResult(onsets: readonly number[], taps: readonly number[]): EarResult {
  const of = onsets.length;
  if (taps.length === 0) return { right: 0, of, text: 'Nothing was tapped.' };
  // The whole is moved by what most taps want, so that a late first tap does not spoil the others.
  const first = taps[0] ?? 0;
  const shifts = taps
    .flatMap((tap) => onsets.map((onset) => tap - onset))
    .filter((shift) => Math.abs(shift - first) < 1);
  const met = (shift: number): number =>
    onsets.filter((onset) => taps.some((tap) => Math.abs(tap - onset - shift) <= TAP)).length;
  const best = Math.max(0, ...shifts.map(met));
  const right = Math.max(0, best - Math.max(0, taps.length - of));
  const missed = of - best;
  return {
    ...{ right, of },
    text:
      right === of
        ? 'All of it in time.'
        : `${right} of ${of} in time${missed > 0 ? `, ${missed} missed` : ''}${taps.length > of ? `, ${taps.length - of} too many` : ''}.`,
  };
}

/** A sung pitch at a time. Units: seconds, MIDI number not rounded */
export interface SungPitch {
  readonly seconds: number;
  readonly midi: number;
}

/** A note is right within so much of its pitch (our own). Units: cents */
const SUNG = 50;

/**
 * A sung melody against the one that was heard, in whatever octave the voice has.
 * Units:  seconds from the first note; cents
 */
export function sungResult(
  melody: NonNullable<EarTest['melody']>,
  { sung, quarterBpm }: { readonly sung: readonly SungPitch[]; readonly quarterBpm: number },
): EarResult & { readonly cents: readonly (number | null)[] } {
  const perQuarter = 60 / quarterBpm;
  const middles = melody.map(({ midi, start, length }) => {
    const [from, to] = [(start + 0.2) * perQuarter, (start + length * 0.9) * perQuarter];
    const own = sung.flatMap((one) => (one.seconds >= from && one.seconds < to ? [one.midi - midi] : []));
    return upperMedian(own);
  });
  const known = middles.flatMap((one) => one ?? []);
  const octave = Math.round((upperMedian(known) ?? 0) / 12) * 12;
  const cents = middles.map((one) => (one === null ? null : Math.round((one - octave) * 100)));
  const right = cents.filter((one) => one !== null && Math.abs(one) < SUNG).length;
  const of = melody.length;
  const text = right === of ? 'Every note in its place.' : `${right} of ${of} notes in their place.`;
  return { right, of, text, cents };
}
