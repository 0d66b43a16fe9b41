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
  'odd one out, a hairpin': {
    plant: (study, seed) => {
      const like = copyOf(at(study, 12));
      const other = 13 + (seed % 5);
      for (let n = 12; n <= 18; n += 1)
        study.measures[n] = {
          notes: copyOf(like).notes.map((one) => ({ ...one, place: one.place + ((n * 3) % 5) })),
          hairpinFrom: n === other ? 2 : 1,
        };
      return `${other + 1}|2|crescendo`;
    },
    claims: ({ oddOnesOut }) => oddOnesOut.map(({ measure, note, what }) => `${measure}|${note}|${what}`),
  },
  'surprise, the only one of its name': {
    plant: (study, seed) => {
      const note = at(study, 5 + (seed % 20)).notes[1];
      if (note) note.off = seed % 2 === 0 ? 1 : -1;
      return `${6 + (seed % 20)}|2`;
    },
    claims: ({ surprises }) =>
      surprises
        .filter(({ why }) => why.startsWith('the only'))
        .map(({ measure, ordinal }) => `${measure}|${ordinal}`),
  },
  'surprise, a broken sequence': {
    meter: '4/4',
    plant: (study, seed) => {
      const model = copyOf(at(study, 8));
      const way = seed % 2 === 0 ? 1 : -1;
      for (let n = 0; n < 4; n += 1)
        study.measures[8 + n] = {
          notes: copyOf(model).notes.map((one) => ({ ...one, place: one.place + n * way })),
          hairpinFrom: null,
        };
      const broken = at(study, 11).notes[2];
      if (broken) broken.place += 1;
      return '12|3';
    },
    claims: ({ surprises }) =>
      surprises
        .filter(({ why }) => why.includes('sequence'))
        .map(({ measure, ordinal }) => `${measure}|${ordinal}`),
  },
  'run along a scale': {
    meter: '4/4',
    plant: (study, seed) => {
      const index = 6 + (seed % 12);
      const start = 30 + (seed % 6);
      const before = at(study, index - 1).notes.at(-1);
      if (before) before.place = start;
      study.measures[index] = {
        notes: Array.from({ length: 8 }, (_, n) => ({
          place: start + n,
          off: 0,
          quarters: 0.5,
          articulation: null,
        })),
        hairpinFrom: null,
      };
      const after = at(study, index + 1).notes[0];
      if (after) after.place = start + 7;
      return String(index + 1);
    },
    claims: ({ runs }) =>
      runs.filter(({ scale }) => !scale.includes('arpeggio')).map(({ measure }) => measure),
  },
  'rhythm that comes again': {
    meter: '4/4',
    plant: (study, seed) => {
      const places = [4, 11, 17, 25].map((index) => index + (seed % 4));
      for (const index of places) {
        const own = at(study, index).notes;
        study.measures[index] = {
          notes: [0.5, 1.5, 1.5, 0.5].map((quarters, n) => ({
            place: own[n]?.place ?? 35,
            off: 0,
            quarters,
            articulation: null,
          })),
          hairpinFrom: null,
        };
      }
      return places.map((index) => index + 1).join(',');
    },
    claims: ({ patterns }) =>
      patterns
        .filter(({ rhythm }) => rhythm.startsWith('eighth, dotted quarter'))
        .map(({ measures }) => measures.join(',')),
  },
  'meter trap, unequal groups': {
    meter: '4/4',
    plant: (study, seed) => {
      const index = 7 + (seed % 15);
      const sizes = seed % 2 === 0 ? [4, 6, 4, 6] : [3, 4, 3, 4];
      study.measures[index] = {
        notes: sizes.flatMap((size) =>
          Array.from({ length: size }, (_, n) => ({
            place: 34 + ((n * 2) % 5),
            off: 0,
            quarters: 1 / size,
            articulation: null,
          })),
        ),
        hairpinFrom: null,
      };
      return String(index + 1);
    },
    claims: ({ meterTraps }) =>
      meterTraps
        .filter(({ sounds }) => sounds.startsWith('groups'))
        .map(({ measures }) => measures.join(',')),
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
