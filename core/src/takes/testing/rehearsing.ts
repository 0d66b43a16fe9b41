import type { Random } from '../../base/index.js';
import type { AskedMusic } from '../follow/asked-notes.js';
import type { Manner, Performance, PlayedNote } from './performer.js';
import type { Rehearsal } from './rehearsal.js';

/**
 * How somebody rehearses: at a tempo of one's own that wanders and drifts, with a stop and a way back; with slips, three
 * wrong notes, two left out and one put in.
 */
export function rehearsing(music: AskedMusic, random: Random, { withSlips }: SlipWish): Partial<Manner> {
  const [share, phase, wandering, drift] = [
    ...[0.85 + 0.25 * random(), 6 * random(), 0.02 + 0.03 * random(), 0.12 * (random() - 0.5)],
  ] as [number, number, number, number];
  const writtenAt = (at: number): number => {
    const measure = music.measures.findLast((one) => one.at <= at + 1e-9) ?? music.measures[0];
    return measure ? (measure.quarters * 60) / measure.lasts : 96;
  };
  return {
    tempo: (at) =>
      writtenAt(at) *
      share *
      (1 + (drift * at) / music.quarters) *
      (1 + wandering * Math.sin(at / 5 + phase)),
    unsteady: 0.008 + 0.008 * random(),
    loud: ({ at }) => 0.55 + 0.25 * Math.sin(at / 7),
    length: 0.85 + 0.1 * random(),
    before: 0.4 + 1.5 * random(),
    ...(withSlips ? slipsIn(music, random) : {}),
    ...stopIn(music, random),
    ...wayBackIn(music, random),
  };
}

interface SlipWish {
  readonly withSlips: boolean;
}

function slipsIn({ notes }: AskedMusic, random: Random): Partial<Manner> {
  const free = notes.flatMap((note, n) => (n > 2 && n < notes.length - 2 && !note.isOrnamented ? [n] : []));
  const some = (count: number): number[] =>
    Array.from({ length: count }, () => free.splice(Math.floor(random() * free.length), 1)).flat();
  const isSingle = (n: number): boolean => notes[n]?.midis.length === 1;
  const interval = (): number => pick([1, -1, 2, -2, 3], random) ?? 1;
  return {
    wrong: new Map(
      some(3)
        .filter(isSingle)
        .map((n) => [n, interval()]),
    ),
    missing: new Set(some(2)),
    added: new Map(
      some(1)
        .filter((n) => isSingle(n) && (notes[n]?.lasts ?? 0) > 0.4)
        .map((n) => [n, pick([2, -2, 4], random) ?? 2]),
    ),
  };
}

/** Stops between two measures of which one ends and the next begins with a note. */
function stopIn(music: AskedMusic, random: Random): Partial<Manner> {
  const places = music.measures.flatMap((_, pass) => {
    const last = notesOf(music, pass).at(-1);
    const [next, measure] = [notesOf(music, pass + 1)[0], music.measures[pass + 1]];
    if (pass === 0 || !last || !next || !measure || last.hasFermata) return [];
    return Math.abs(next.at - measure.at) < 1e-6 && measure.at - last.at - last.length < 1.1 ? [pass] : [];
  });
  const at = pick(places, random);
  return at === undefined ? {} : { pauses: new Map([[at, 1.1 + 1.5 * random()]]) };
}

/** Goes back one to three measures, where that can be heard at all. */
function wayBackIn(music: AskedMusic, random: Random): Partial<Manner> {
  const signOf = (pass: number): string =>
    notesOf(music, pass)
      .map(({ midis, at }) => `${midis.join()}@${at - (music.measures[pass]?.at ?? 0)}`)
      .join(' ');
  const ways: [from: number, to: number][] = [];
  for (let from = 3; from < music.measures.length - 1; from += 1)
    for (let to = from - 1; to >= Math.max(0, from - 3); to -= 1) {
      const [first] = notesOf(music, to);
      if (!first || notesOf(music, from).length === 0) continue;
      const isAtOnce = Math.abs(first.at - (music.measures[to]?.at ?? 0)) < 1e-6;
      const isHeard = signOf(to) !== signOf(from + 1) && !(to > 0 && signOf(to - 1) === signOf(from));
      if (isAtOnce && isHeard) ways.push([from, to]);
    }
  const way = pick(ways, random);
  return way ? { restarts: new Map([way]) } : {};
}

function notesOf({ notes }: AskedMusic, pass: number): readonly AskedMusic['notes'][number][] {
  return notes.filter((note) => note.pass === pass);
}

function pick<T>(all: readonly T[], random: Random): T | undefined {
  return all[Math.floor(random() * all.length)];
}

/** What a drum plays where a roll is written: strokes that beat on more softly. Shape: in order */
export function rolled(
  { played, notes: trueNotes }: Performance,
  { notes }: AskedMusic,
  random: Random,
): PlayedNote[] {
  const beats = trueNotes.flatMap(({ asked, start }) => {
    if (start === null || !notes[asked]?.isOrnamented) return [];
    return played
      .filter((note) => Math.abs(note.start - start) < 1e-9)
      .flatMap((note) => beatsOf(note, random));
  });
  return [...played, ...beats].sort((a, b) => a.start - b.start);
}

function beatsOf(note: PlayedNote, random: Random): PlayedNote[] {
  const beats: PlayedNote[] = [];
  for (let start = note.start + 0.06; start < note.end - 0.03; start += 0.05 + 0.02 * random())
    beats.push({
      ...note,
      ...{ start, end: Math.min(note.end, start + 0.06), loud: note.loud * (0.6 + 0.2 * random()) },
    });
  return beats;
}

/** Stops that were told: anywhere between the notes that were played around them. */
export function stopsFound({ truth, read }: Rehearsal): boolean[] {
  const starts = truth.notes.flatMap(({ start }) => (start === null ? [] : [start]));
  return truth.pauses.map(({ seconds, length }) => {
    const before = Math.max(0, ...starts.filter((start) => start < seconds - 0.03));
    const after = Math.min(truth.seconds, ...starts.filter((start) => start > seconds + length - 0.1));
    return read.pauses.some(
      (told) =>
        Math.abs(told.seconds - seconds) < 0.6 ||
        (told.length >= length / 2 &&
          told.seconds >= before - 0.1 &&
          told.seconds + told.length <= after + 0.1),
    );
  });
}

/**
 * Ways back that were told: within a second of their moment and to their measure, or up to where they can first be heard,
 * where what was played would have come next as well.
 */
export function waysBackFound({ truth, read, music }: Rehearsal): boolean[] {
  return truth.restarts.map((way) => {
    const [until, furthest] = heardBy(way, truth, music);
    return read.restarts.some(
      ({ seconds, to }) => seconds > way.seconds - 1 && seconds < until + 1 && to >= way.to && to <= furthest,
    );
  });
}

/** Until when, and up to which measure, what was played after a way back is what would have come next. */
function heardBy(
  { seconds, from, to }: Performance['restarts'][number],
  { notes: played }: Performance,
  { notes, measures }: AskedMusic,
): [seconds: number, to: number] {
  const [landed, next] = [measures[to]?.at ?? 0, measures[from + 1]?.at];
  let [until, furthest] = [seconds, to];
  for (const { asked, start } of played) {
    const note = notes[asked];
    if (start === null || start < seconds - 0.1 || !note) continue;
    [until, furthest] = [start, Math.max(furthest, note.pass)];
    const twin = notes.find(
      ({ at }) => next !== undefined && Math.abs(at - next - (note.at - landed)) < 1e-6,
    );
    if (twin?.midis.join() !== note.midis.join()) break;
  }
  return [until, furthest];
}
