import { capital, groupBy } from '../../base/index.js';
import { alterInKey, beatBpm, beatUnitOf, tempoText, toNumber, unitLength } from '../../music/index.js';
import { raw, type Finder } from '../findings/finding-parts.js';
import type { RawFinding } from '../findings/finding.js';
import { IMPORTANCE } from '../findings/importance.data.js';
import type { DynamicsAdvice } from '../inventory/dynamics-advice.js';
import { runsWithNotes } from '../inventory/runs.js';
import { quarterBpmOf, secondsBetween } from '../line/pace.js';
import { valueName } from '../line/value-names.js';
import { firstOf, measuresText, numberAt } from './places.js';

/** A held note is worth a word from so many seconds on (common practice, no source). */
const LONG_SECONDS = 4;
/** A value is small from a sixteenth of a quarter beat on. Units: quarters. */
const SMALL_QUARTERS = 0.25;

/** The measure that decides the tempo, and how fast to open. */
export const deciding: Finder = ({ deciding: top, opening, demands }) => {
  const own = top && demands.find(({ measure }) => measure === top.measure);
  if (!top || !own) return [];
  return [
    raw('deciding', {
      title: `Measure ${top.measure} decides the tempo.`,
      sentence: `${capital(own.because)}. ${opening.because}`,
      places: [own.index],
    }),
  ];
};

/**
 * Measures grouped against their signature.
 * Shape:  measures of one kind are one finding
 * Source: see meter-traps.ts
 */
export const meters: Finder = ({ score, indexOf, meterTraps }) => {
  const alike = groupBy(meterTraps, ({ reads, sounds }) =>
    isUnequal(sounds) ? 'groups' : `${reads}>${sounds}`,
  );
  return [...alike.values()].flatMap((own) => {
    const [first] = own;
    if (!first) return [];
    const { reads, sounds } = first;
    const places = own
      .flatMap(({ measures }) => measures.map((number) => indexOf(number)))
      .sort((a, b) => a - b);
    const kinds = [...new Set(own.map((one) => one.sounds))];
    return [
      raw('meter', {
        title: isUnequal(sounds) ? 'The beat divides unequally.' : `${reads} sounds as ${sounds}.`,
        sentence: isUnequal(sounds)
          ? `${capital(firstOf(kinds, 3))} notes a beat${places.length > 1 ? ` in ${measuresText(score, places)}` : ''}: keep the beat, change the division.`
          : `The notes are grouped ${sounds} under a signature of ${reads}${places.length > 1 ? ` in ${measuresText(score, places)}` : ''}; keep counting the printed beat.`,
        places,
        detail: `${reads}>${kinds.join('|')}`,
      }),
    ];
  });
};

function isUnequal(sounds: string): boolean {
  return sounds.startsWith('groups');
}

/** Which beat to feel, where it is not the printed one. */
export const feel: Finder = (from) => {
  const small = smallValues(from);
  // What the tempo counts is felt already.
  return [...small, ...otherBeats(from).filter(({ places }) => places[0] !== small[0]?.places[0])];
};

const otherBeats: Finder = ({ score, line, indexOf, beatToFeel }) =>
  beatToFeel.flatMap(({ measure, unit, why }, n) => {
    const next = beatToFeel[n + 1];
    // What holds from before counts from the first measure that is asked.
    const place = score.measures.findIndex(
      ({ index }) =>
        index >= indexOf(measure) &&
        ((line.byMeasure[index]?.length ?? 0) > 0 || (line.restsByMeasure[index]?.length ?? 0) > 0),
    );
    if (place < 0 || (next && place >= indexOf(next.measure))) return [];
    return [
      raw('feel', {
        title: `Feel the ${unit}.`,
        sentence: `From measure ${numberAt(score, place)} on: ${why}`,
        places: [place],
        detail: why,
      }),
    ];
  });

/** Where another note than the quarter has the beat: what the smallest value feels like. */
const smallValues: Finder = ({ score, line, pace }) => {
  const first = score.measures.find(({ index }) => (line.played[index]?.length ?? 0) > 0);
  if (!first) return [];
  const unit = score.tempos[0]?.unit ?? beatUnitOf(first.meter);
  const factor = 1 / toNumber(unitLength(unit));
  const plain = line.played.flat().filter(({ signs }) => signs.tuplet === null && signs.dots === 0);
  const shortest = Math.min(...plain.flatMap(({ printed }) => printed), Infinity);
  const tempo = quarterBpmOf(pace, toNumber(first.start));
  if (tempo === null || (factor !== 2 && factor !== 0.5) || shortest * factor > SMALL_QUARTERS) return [];
  const [own, like] = [valueName(shortest), valueName(shortest * factor)];
  return [
    raw('feel', {
      title: `The ${unit} has the beat.`,
      sentence: `These ${own}s go like ${like}s at ${tempoText(beatBpm(tempo, unit), 'quarter')}: count the ${unit}, not the quarter.`,
      places: [first.index],
      detail: `${unit} ${own}`,
    }),
  ];
};

/** The ask at the start, the printed band, and long crescendos together. Accents are plain to see. */
export const dynamics: Finder = ({ indexOf, dynamicsAdvice }) => {
  const isStep = (why: string): boolean => why.startsWith('Step ');
  const [steps, others] = [
    dynamicsAdvice.filter(({ why }) => isStep(why)),
    dynamicsAdvice.filter(({ why }) => !isStep(why)),
  ];
  const told = others.filter(({ why }) => !why.startsWith('Accents'));
  const places = (own: readonly DynamicsAdvice[]): number[] =>
    [...new Set(own.flatMap(({ measure }) => (measure === null ? [] : [indexOf(measure)])))].sort(
      (a, b) => a - b,
    );
  const found: RawFinding[] = [...groupBy(told, ({ why }) => why.split(':')[0] ?? why)].map(
    ([reason, advice]) =>
      raw('dynamics', {
        title: dynamicsTitle(reason),
        sentence: underOneReason([...new Set(advice.map(({ why }) => why))], reason),
        places: places(advice),
        detail: reason,
      }),
  );
  if (steps.length > 0) {
    const levels = steps.map(({ measure, mark }) => `${measure ?? ''} ${mark ?? ''}`);
    found.push(
      raw('dynamics', {
        title: 'Level by level.',
        sentence: `Measure by measure: ${firstOf(levels, 10)}. Keep the last level for the end.`,
        places: places(steps),
        detail: levels.join(),
      }),
    );
  }
  return found;
};

/** Several pieces of advice for one reason name it once. */
function underOneReason(texts: readonly string[], reason: string): string {
  return texts
    .map((text, n) => (n === 0 ? text : text.replace(`${reason}: `, '')))
    .join(' ')
    .replace(/\. (?=[a-z])/gu, '; ');
}

function dynamicsTitle(why: string): string {
  if (why.startsWith('No dynamic is printed at the start')) return 'No dynamic at the start.';
  if (why.startsWith('No dynamic')) return 'No dynamics printed.';
  return why.startsWith('The first dynamic') ? 'Dynamics begin late.' : 'A narrow band of dynamics.';
}

/** The longest note, where it is long. */
export const longestNote: Finder = ({ indexOf, longestHeld }) => {
  const seconds = longestHeld?.seconds ?? 0;
  if (!longestHeld || seconds < LONG_SECONDS) return [];
  return [
    raw('held', {
      title: `The longest note lasts ${seconds.toFixed(1)} seconds.`,
      sentence: `Measure ${longestHeld.measure}: count it in the running value and keep its sound alive.`,
      places: [indexOf(longestHeld.measure)],
      detail: 'held',
    }),
  ];
};

/** What the part shows the jury. */
export const tested: Finder = ({ shows }) => {
  const [first, second] = shows;
  if (!first) return [];
  return [
    raw('shows', {
      title: `It shows ${first.what}${second ? `, and ${second.what}` : ''}.`,
      sentence: `A guess from the notes: ${first.why}.`,
      detail: shows.map(({ what }) => what).join(' '),
    }),
  ];
};

/** A run is told from so many notes on, or where it is fast and in another key. Units: notes, notes a second (our own knees). */
const LONG_RUN = 12;
const FAST_RUN = 3.5;
const FEWEST_NOTES = 8;

/**
 * Runs along scales and chords that are fast, long or in another key; ordinary ones stand in the facts.
 * Shape:  one finding a scale
 * Source: see runs.ts
 */
export const telling: Finder = (from) => {
  const all = runsWithNotes(from.score, from.line).filter((run) => {
    const [first, last] = [run.notes[0], run.notes.at(-1)];
    const seconds = first && last ? secondsBetween(from.pace, first.start, last.start) : null;
    const rate = seconds === null || seconds === 0 ? 0 : (run.notes.length - 1) / seconds;
    const fifths = from.score.measures[first?.measureIndex ?? 0]?.fifths ?? 0;
    const isForeign = run.notes.some(({ written }) => written.alter !== alterInKey(written.step, fifths));
    if (run.notes.length >= LONG_RUN) return true;
    return isForeign && run.notes.length >= FEWEST_NOTES && rate >= FAST_RUN;
  });
  return [...groupBy(all, ({ scale }) => scale)].map(([scale, own]) =>
    raw('run', {
      importance: IMPORTANCE.run + Math.min(0.03, own.length / 100),
      title: `${own.length === 1 ? 'A run' : `${own.length} runs`} of ${scale}.`,
      sentence: `${firstOf(own.map(({ measure, from: low, to }) => `${low} to ${to} in ${measure}`))}: tie it to that scale in the warm-up.`,
      places: [...new Set(own.map(({ notes }) => notes[0]?.measureIndex ?? 0))],
      detail: scale,
    }),
  );
};
