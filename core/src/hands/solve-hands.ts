import { groupBy, present } from '../base/index.js';
import { instrumentProfile, wholePace, type Pace } from '../reading/index.js';
import type { Bpm, QuarterBpm } from '../music/index.js';
import type { Score } from '../score/index.js';
import { bowingPath } from './bowing.js';
import { clarinetPath } from './clarinet.js';
import type { HandNote } from './hand-notes.js';
import type { HandPath, HandPin } from './hand-path.js';
import { stringsOf, valvesOf, type HandSolver } from './instrument.js';
import { slidePath } from './slide.js';
import { stickingPath, type StickingWish } from './sticking.js';
import { stringPath } from './strings.js';
import { valvePath } from './valves.js';

/** A tempo for music that states none: hands are only compared with each other. Units: beats a minute (our own) */
const USUAL_BPM = 100;

/** The pace at which hands are worked out: what is asked, else the file's own, else a usual one. Units: as wholePace */
export function handPace(score: Score, asked: Bpm | null): Pace {
  return present(wholePace(score, asked) ?? wholePace(score, USUAL_BPM));
}

/** The same for a tempo in quarters. Units: quarter notes a minute of the opening, null for the file's own tempo */
export function handPaceAt(score: Score, quarterBpm: QuarterBpm | null): Pace {
  const own = handPace(score, null);
  return quarterBpm === null ? own : handPace(score, quarterBpm / own.beatQuarters);
}

/** What a solver needs beside the notes. */
export interface HandsWish extends Partial<Pick<StickingWish, 'school' | 'leads'>> {
  readonly score: Pick<Score, 'transposition'>;
  readonly instrument: string;
  readonly hasValve?: boolean;
  readonly pins?: readonly HandPin[];
}

/**
 * The way of the hands by a solver. What comes again is played the same way: measures of the same notes take the choices of
 * the first of them, but for pins of their own.
 * Shape:  null where valves or strings are asked of an instrument whose valves or strings are not known
 */
export function solveHands(solver: HandSolver, notes: readonly HandNote[], wish: HandsWish): HandPath | null {
  const first = solved(solver, notes, wish);
  if (!first) return null;
  const { pins = [] } = wish;
  // A bow comes from wherever the one before has left it.
  const again = solver === 'bow' ? [] : sameAgain(notes, first, pins);
  if (again.length === 0) return first;
  const same = solved(solver, notes, { ...wish, pins: [...pins, ...again] });
  if (!same || !Number.isFinite(same.cost)) return first;
  // What follows from another measure was not settled by anybody.
  const settled = new Set(pins.map(placeOf));
  return {
    ...same,
    notes: same.notes.map((note) => ({ ...note, isPinned: note.isPinned && settled.has(placeOf(note)) })),
  };
}

/** Measures of so many notes are told from others (our own). */
const LEAST_NOTES = 3;

function placeOf({ measureIndex, ordinal }: Pick<HandPin, 'measureIndex' | 'ordinal'>): string {
  return `${measureIndex} ${ordinal}`;
}

/** The choices of measures that come again, as pins there. Shape: none for a note that was settled itself */
function sameAgain(
  notes: readonly HandNote[],
  { notes: choices }: HandPath,
  pins: readonly HandPin[],
): HandPin[] {
  const settled = new Set(pins.map(placeOf));
  const models = new Map<string, number>();
  const choiceAt = new Map(choices.map((one) => [placeOf(one), one.choice]));
  return [...groupBy(notes, ({ measureIndex }) => measureIndex)].flatMap(([measureIndex, own]) => {
    const figure = own.map(figureOf).join();
    const model = models.get(figure);
    if (model === undefined) models.set(figure, measureIndex);
    if (model === undefined || own.length < LEAST_NOTES) return [];
    return own.flatMap(({ ordinal }): HandPin[] => {
      const choice = choiceAt.get(placeOf({ measureIndex: model, ordinal }));
      return choice === undefined || settled.has(placeOf({ measureIndex, ordinal }))
        ? []
        : [{ measureIndex, ordinal, choice }];
    });
  });
}

/** What a note is, as far as hands tell it from another. */
function figureOf({ written, seconds, isSlurred, line }: HandNote): string {
  return [written ?? 'x', seconds.toFixed(3), isSlurred, ...line.signs.articulations].join(' ');
}

function solved(solver: HandSolver, notes: readonly HandNote[], wish: HandsWish): HandPath | null {
  const { score, instrument, pins = [], hasValve = false, school = 'doubles', leads = 'R' } = wish;
  switch (solver) {
    case 'slide':
      return slidePath(notes, { hasValve, pins });
    case 'fingers':
      return clarinetPath(notes, pins);
    case 'bow':
      return bowingPath(notes, pins);
    case 'sticking': {
      const hasKeys = instrumentProfile(instrument).family !== 'drums';
      return stickingPath(notes, { school, leads, hasKeys, pins });
    }
    case 'valves': {
      const valves = valvesOf(instrument, score);
      return valves && valvePath(notes, valves, pins);
    }
    case 'strings': {
      const strings = stringsOf(instrument);
      return strings && stringPath(notes, { ...strings, pins });
    }
  }
}
