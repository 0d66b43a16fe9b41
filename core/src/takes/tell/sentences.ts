import { measureWord, type Vocabulary } from '../../music/index.js';
import type { TakeReading } from '../read-take.js';
import { contrastReach, hairpinReach, unevenness } from './reach.js';

/** One thing that a take says, and how sure it is. Shape: 0 to 1; `measures` by printed number, none for the whole */
export interface TakeSentence {
  readonly text: string;
  readonly confidence: number;
  readonly measures: readonly string[];
}

/** An opening that is so much faster than the deciding measure cannot be held (our own). Shape: a share */
const TOO_FAST = 0.05;
/** From so much on a drift is heard (our own). Units: per cent */
const DRIFT = 3;

/**
 * What a take says, the first things first.
 * Shape:  empty where nothing is worth a word
 * Units:  tempos in beats of the score
 * Source: the design's chapter on takes; thresholds as said at each
 */
export function takeSentences(take: TakeReading, vocabulary: Vocabulary): TakeSentence[] {
  const word = measureWord(1, vocabulary);
  return [
    ...opening(take, word),
    ...steadiness(take),
    ...uneven(take, word),
    ...hairpins(take, word),
    ...contrasts(take, word),
    ...stops(take, word),
  ];
}

function opening({ opening: first, deciding, measures }: TakeReading, word: string): TakeSentence[] {
  if (!first || !deciding) return [];
  const confidence = Math.min(
    ...measures.filter(({ number }) => number === deciding.number).map((measure) => measure.confidence),
  );
  const [from, there] = [Math.round(first.bpm), Math.round(deciding.bpm)];
  if (first.bpm <= deciding.bpm * (1 + TOO_FAST))
    return [
      {
        text: `Opens at ${from}, and ${word} ${deciding.number} goes at ${there}: the opening can be held.`,
        confidence,
        measures: [deciding.number],
      },
    ];
  return [
    {
      text: `Opens at ${from}, ${word} ${deciding.number} at ${there}: start at ${there}.`,
      confidence,
      measures: [deciding.number],
    },
  ];
}

function steadiness({ drift, measures }: TakeReading): TakeSentence[] {
  if (drift === null || Math.abs(drift) < DRIFT) return [];
  const way = drift > 0 ? 'hurries' : 'slows down';
  const sure = measures.filter(({ quarterBpm }) => quarterBpm !== null).length / Math.max(1, measures.length);
  return [
    {
      text: `It ${way} by ${Math.round(Math.abs(drift))} % from beginning to end.`,
      confidence: sure,
      measures: [],
    },
  ];
}

function placeText(word: string, from: string, to: string): string {
  return from === to ? `${word} ${from}` : `${word}s ${from}–${to}`;
}

/** The least even run, where it is heard. */
function uneven({ evenness, music }: TakeReading, word: string): TakeSentence[] {
  const [worst] = [...evenness].sort((a, b) => b.percent - a.percent);
  if (!worst || unevenness(worst.percent) !== 'uneven') return [];
  const [from, to] = [worst.fromPass, worst.toPass].map((pass) => music.measures[pass]?.number ?? '');
  const place = placeText(word, from ?? '', to ?? '');
  return [
    {
      text: `Running notes are least even in ${place}: they stray by ${Math.round(worst.percent)} %.`,
      confidence: Math.min(1, worst.notes / 12),
      measures: [...new Set([from ?? '', to ?? ''])],
    },
  ];
}

/** A number with its sign as it is printed. */
function signed(value: number): string {
  return `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)}`;
}

function hairpins({ hairpins: all }: TakeReading, word: string): TakeSentence[] {
  return all.flatMap((hairpin): TakeSentence[] => {
    const { printed, from, to } = hairpin;
    const { went, became } = hairpinReach(hairpin);
    if (became === 'heard') return [];
    const place = placeText(word, from, to);
    const what = became === 'turned' ? 'goes the other way' : 'does not reach the listener';
    return [
      {
        text: `The ${printed} in ${place} ${what}: ${signed(went)} LU.`,
        confidence: 0.7,
        measures: [from, to],
      },
    ];
  });
}

/** Printed contrasts that come out as one level, and a loudest place that is not where it is printed. */
function contrasts({ contrasts: all, loudest }: TakeReading, word: string): TakeSentence[] {
  const flat = all.flatMap((contrast): TakeSentence[] => {
    const { from, to, fromLevel, toLevel } = contrast;
    const { went, isUp, became } = contrastReach(contrast);
    if (became === 'heard') return [];
    const soft = isUp ? from : to;
    return [
      {
        text: `The ${fromLevel} of ${word} ${from} and the ${toLevel} of ${word} ${to} are ${Math.max(0, went).toFixed(1)} LU apart and reach the listener as one level: softer in ${word} ${soft}.`,
        confidence: 0.7,
        measures: [from, to],
      },
    ];
  });
  if (!loudest || loudest.isAsPrinted) return flat;
  return [
    ...flat,
    {
      text: `The loudest place is ${word} ${loudest.heard}; printed it is the ${loudest.level} of ${word} ${loudest.printed}.`,
      confidence: 0.7,
      measures: [loudest.heard, loudest.printed],
    },
  ];
}

function stops({ pauses, restarts, music }: TakeReading, word: string): TakeSentence[] {
  const number = (pass: number): string => music.measures[pass]?.number ?? '';
  return [
    ...pauses.map(({ length, pass }) => ({
      ...{
        text: `Stops for ${length.toFixed(1)} s in ${word} ${number(pass)}.`,
        confidence: 0.8,
        measures: [number(pass)],
      },
    })),
    ...restarts.map(({ from, to }) => ({
      ...{
        text: `Goes back from ${word} ${number(from)} to ${number(to)}.`,
        confidence: 0.8,
        measures: [number(from), number(to)],
      },
    })),
  ];
}
