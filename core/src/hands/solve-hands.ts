import { present } from '../base/index.js';
import { instrumentProfile, wholePace, type Pace } from '../reading/index.js';
import type { Bpm } from '../music/index.js';
import type { Score } from '../score/index.js';
import { bowingPath } from './bowing.js';
import { clarinetPath } from './clarinet.js';
import type { HandNote } from './hand-notes.js';
import type { HandPath, HandPin } from './hand-path.js';
import { valvesOf, type HandSolver } from './instrument.js';
import { slidePath } from './slide.js';
import { stickingPath, type StickingWish } from './sticking.js';
import { valvePath } from './valves.js';

/** A tempo for music that states none: hands are only compared with each other. Units: beats a minute (our own) */
const USUAL_BPM = 100;

/** The pace at which hands are worked out: what is asked, else the file's own, else a usual one. Units: as wholePace */
export function handPace(score: Score, asked: Bpm | null): Pace {
  return present(wholePace(score, asked) ?? wholePace(score, USUAL_BPM));
}

/** What a solver needs beside the notes. */
export interface HandsWish extends Partial<Pick<StickingWish, 'school' | 'leads'>> {
  readonly score: Pick<Score, 'transposition'>;
  readonly instrument: string;
  readonly hasValve?: boolean;
  readonly pins?: readonly HandPin[];
}

/** The way of the hands by a solver. Shape: null where valves are asked of an instrument whose valves are not known */
export function solveHands(solver: HandSolver, notes: readonly HandNote[], wish: HandsWish): HandPath | null {
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
  }
}
