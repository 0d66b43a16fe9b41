import { roundTo, upperMedian } from '../../base/index.js';
import type { TakeNotice, TakeReading } from '../read-take.js';
import type { ContrastHeard, LoudestPlace } from './contrasts.js';
import type { NotePitch } from './note-pitches.js';
import { takeSentences, type TakeSentence } from './sentences.js';

/**
 * A measure of a take as it is kept.
 * Shape:  `index` its place in the score, `number` as printed; null tempo where the alignment is not sure
 * Units:  seconds from the beginning of the take; beats of the score a minute; LU beside the take's own loudness
 */
export interface ToldMeasure {
  readonly index: number;
  readonly number: string;
  readonly start: number;
  readonly end: number;
  readonly bpm: number | null;
  readonly confidence: number;
  readonly lu: number | null;
}

/** Something to be heard again and confirmed or not. Shape: `note` its place in its measure from 1 */
export interface ToldSlip {
  readonly index: number;
  readonly number: string;
  readonly note: number;
  readonly kind: 'wrong' | 'missing' | 'added';
  readonly seconds: number;
  readonly confidence: number;
}

/**
 * What a take says, as it is kept and shown: without the notes one by one.
 * Shape:  lists in the order of the take; `sure` the share of notes that were followed surely
 * Units:  as TakeReading; tempos in beats of the score, `beatQuarters` quarters a beat
 */
export interface ToldTake {
  readonly seconds: number;
  readonly beatQuarters: number;
  readonly sure: number;
  readonly measures: readonly ToldMeasure[];
  readonly opening: number | null;
  readonly deciding: { readonly number: string; readonly bpm: number } | null;
  readonly drift: number | null;
  readonly evenness: readonly {
    readonly from: string;
    readonly to: string;
    readonly percent: number;
    readonly notes: number;
  }[];
  readonly hairpins: readonly {
    readonly printed: 'crescendo' | 'diminuendo';
    readonly from: string;
    readonly to: string;
    readonly changeLu: number;
  }[];
  readonly contrasts: readonly ContrastHeard[];
  readonly loudest: LoudestPlace | null;
  readonly pauses: readonly { readonly seconds: number; readonly length: number; readonly number: string }[];
  readonly restarts: readonly { readonly seconds: number; readonly from: string; readonly to: string }[];
  readonly slips: readonly ToldSlip[];
  readonly pitches: readonly NotePitch[];
  readonly tuning: number;
  readonly notices: readonly TakeNotice[];
  /** In the words measure and quarter note; who shows them turns them into the studio's own. */
  readonly sentences: readonly TakeSentence[];
}

/** A reading as it is kept. Units: see ToldTake */
export function toldTake(take: TakeReading): ToldTake {
  const { music, beatQuarters } = take;
  const number = (pass: number): string => music.measures[pass]?.number ?? '';
  const sure = take.notes.filter(({ isSure }) => isSure).length / Math.max(1, take.notes.length);
  const loudness = new Map(take.dynamics.map(({ pass, lu }) => [pass, lu]));
  return {
    ...{ seconds: roundTo(take.seconds, 2), beatQuarters, sure: roundTo(sure, 2) },
    measures: take.measures.map(({ measureIndex, pass, quarterBpm, ...one }) => ({
      ...{ index: measureIndex, number: one.number },
      ...{ start: roundTo(one.start, 3), end: roundTo(one.end, 3) },
      bpm: quarterBpm === null ? null : roundTo(quarterBpm / beatQuarters, 2),
      confidence: roundTo(one.confidence, 2),
      lu: rounded(loudness.get(pass)),
    })),
    opening: rounded(take.opening?.bpm),
    deciding: take.deciding && { number: take.deciding.number, bpm: roundTo(take.deciding.bpm, 2) },
    drift: rounded(take.drift),
    evenness: take.evenness.map(({ fromPass, toPass, percent, notes }) => ({
      ...{ from: number(fromPass), to: number(toPass), percent: roundTo(percent, 1), notes },
    })),
    hairpins: take.hairpins.map((one) => ({ ...one, changeLu: roundTo(one.changeLu, 1) })),
    contrasts: take.contrasts.map((one) => ({ ...one, changeLu: roundTo(one.changeLu, 1) })),
    loudest: take.loudest,
    ...stopsOf(take, number),
    slips: take.slips.map(({ asked, kind, seconds, confidence }) => {
      const note = music.notes[asked];
      return {
        ...{ index: note?.measureIndex ?? 0, number: number(note?.pass ?? 0), note: note?.ordinal ?? 0 },
        ...{ kind, seconds: roundTo(seconds, 2), confidence: roundTo(confidence, 2) },
      };
    }),
    ...{ pitches: take.pitches, tuning: roundTo(take.tuning, 1), notices: take.notices },
    sentences: takeSentences(take, 'us'),
  };
}

/** The middle tempo of a take; null where none of its measures was followed surely. Units: quarter notes a minute */
export function takenTempo({ measures, beatQuarters }: ToldTake): number | null {
  const middle = upperMedian(measures.flatMap(({ bpm }) => bpm ?? []));
  return middle === null ? null : middle * beatQuarters;
}

function stopsOf(
  { pauses, restarts }: TakeReading,
  number: (pass: number) => string,
): Pick<ToldTake, 'pauses' | 'restarts'> {
  return {
    pauses: pauses.map(({ seconds, length, pass }) => ({
      ...{ seconds: roundTo(seconds, 2), length: roundTo(length, 2), number: number(pass) },
    })),
    restarts: restarts.map(({ seconds, from, to }) => ({
      ...{ seconds: roundTo(seconds, 2), from: number(from), to: number(to) },
    })),
  };
}

function rounded(value: number | null | undefined): number | null {
  return value == null ? null : roundTo(value, 2);
}
