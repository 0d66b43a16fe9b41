import { readMusic, type MusicReading } from '../index.js';
import {
  beamed,
  copyOf,
  plainStudy,
  scoreOf,
  type Study,
  type StudyMeasure,
  type StudyNote,
} from './planted-studies.js';

/** How well one kind of finding is made. Shape: counts over all studies. */
export interface FindingScore {
  readonly planted: number;
  readonly found: number;
  /** Findings of the kind in the planted studies, right or wrong. */
  readonly claimed: number;
  /** Findings of the kind in as many plain studies of 32 measures. */
  readonly falseAlarms: number;
}

interface Plant {
  readonly meter?: string;
  /** Plants one trap and says where it is, as text that `claims` gives for it. */
  readonly plant: (study: Study, seed: number) => string;
  readonly claims: (reading: MusicReading) => readonly string[];
}

const NONE: StudyMeasure = { notes: [], hairpinFrom: null };

function at(study: Study, index: number): StudyMeasure {
  return study.measures[index] ?? NONE;
}

const near = (change: (note: StudyNote, seed: number) => void): Plant => ({
  plant: (study, seed) => {
    const copy = copyOf(at(study, 6 + (seed % 5)));
    const note = copy.notes[(seed * 7) % copy.notes.length];
    if (note) change(note, seed);
    study.measures[20] = copy;
    return `${7 + (seed % 5)}|21`;
  },
  claims: ({ nearRepeats }) => nearRepeats.map(({ a, b }) => `${a}|${b}`),
});

/** What is planted, kind by kind. */
const PLANTS: Readonly<Record<string, Plant>> = {
  'near-repeat, a pitch': near((note, seed) => (note.place += seed % 2 === 0 ? 1 : -2)),
  'near-repeat, an articulation': near((note) => (note.articulation = 'staccato')),
  'exact repeat': {
    plant: (study, seed) => {
      const from = seed % 8;
      for (let n = 0; n < 2; n += 1) study.measures[20 + n] = copyOf(at(study, from + n));
      return `${from + 1}-${from + 2}|21-22`;
    },
    claims: ({ exactRepeats }) => exactRepeats.map(({ a, b }) => `${a}|${b}`),
  },
  'odd one out, a downbeat': {
    plant: (study, seed) => {
      const lacking = 12 + (seed % 6);
      const sign = ['accent', 'tenuto', 'staccato'][seed % 3] ?? 'accent';
      for (let n = 10; n <= 19; n += 1) {
        const note = at(study, n).notes[0];
        if (note && n !== lacking) note.articulation = sign;
      }
      return `${lacking + 1}|1|${sign}`;
    },
    claims: ({ oddOnesOut }) => oddOnesOut.map(({ measure, note, what }) => `${measure}|${note}|${what}`),
  },
  'surprise, back in the key without a sign': {
    plant: (study, seed) => {
      const [last, next] = [at(study, 10 + (seed % 9)).notes.at(-1), at(study, 11 + (seed % 9)).notes[0]];
      if (last && next) {
        last.off = seed % 2 === 0 ? 1 : -1;
        next.place = last.place;
      }
      return `${12 + (seed % 9)}|1`;
    },
    // The altered note itself, the only one of its name, is a finding too.
    claims: ({ surprises }) =>
      surprises
        .filter(({ why }) => why.includes('again after'))
        .map(({ measure, ordinal }) => `${measure}|${ordinal}`),
  },
  'meter trap, 6/8 as 3/4': {
    meter: '6/8',
    plant: (study, seed) => {
      const first = at(study, 8).notes[0]?.place ?? 35;
      const walk = [0, 1, 2, 1, 3, 2].map((step) => first + step * (seed % 2 === 0 ? 1 : -1));
      study.measures[8 + (seed % 9)] = { notes: beamed(walk, 2), hairpinFrom: null };
      return String(9 + (seed % 9));
    },
    claims: ({ meterTraps }) => meterTraps.map(({ measures }) => measures.join(',')),
  },
};

/**
 * Plants each kind of trap in so many studies and counts what is found.
 * Shape:  one score a kind
 * Units:  findings
 * Errors: none
 * Source: studies composed by chance, see planted-studies.ts
 */
export function scoreReadings(studies: number): Record<string, FindingScore> {
  return Object.fromEntries(
    Object.entries(PLANTS).map(([kind, { meter, plant, claims }]) => {
      const score = { planted: 0, found: 0, claimed: 0, falseAlarms: 0 };
      const options = meter === undefined ? {} : { meter };
      for (let seed = 1001; seed <= 1000 + studies; seed += 1) {
        const read = (study: Study): readonly string[] =>
          claims(readMusic(scoreOf(study), { instrument: null, bpm: null }));
        const study = plainStudy(seed, options);
        score.falseAlarms += read(study).length;
        const planted = plant(study, seed);
        const claimed = read(study);
        score.planted += 1;
        score.claimed += claimed.length;
        if (claimed.includes(planted)) score.found += 1;
      }
      return [kind, score];
    }),
  );
}
