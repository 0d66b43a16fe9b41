import {
  addQuarters,
  AS_WRITTEN,
  measureLength,
  quarterBpm,
  ZERO,
  type Meter,
  type Quarters,
} from '../music/index.js';
import { unroll, type Navigation, type Score, type ScoreMeasure, type TempoSegment } from '../score/index.js';
import { notesAQuarter } from './told-values.js';
import { startOfMusic, type ToldMusic } from './told.js';

/**
 * Told music as a score without notes: its measures, tempos and order of playing are those of a file of the same piece.
 * Shape:  `notes` empty
 * Units:  as Score
 */
export function scoreOfTold(music: ToldMusic, title: string | null = null): Score {
  const measures = measuresOf(music);
  const { order, warnings } = unroll(measures);
  return {
    title,
    parts: [{ id: 'told', name: '', noteCount: 0 }],
    partId: 'told',
    instrument: '',
    transposition: AS_WRITTEN,
    measures,
    notes: [],
    unplayed: [],
    tempos: temposOf(music, measures),
    marks: { dynamics: [], hairpins: [], words: [] },
    order,
    warnings,
  };
}

function measuresOf(music: ToldMusic): ScoreMeasure[] {
  const { first, last, pickup, letters, repeats, dense } = music;
  const measures: ScoreMeasure[] = [];
  let start: Quarters = ZERO;
  for (let number = startOfMusic(music); number <= last; number += 1) {
    const isPickup = number < first;
    const { meter, fifths } = inForce(music, Math.max(number, first));
    if (!meter) continue;
    const length = isPickup && pickup ? pickup : measureLength(meter);
    measures.push({
      index: measures.length,
      number: String(number),
      implicit: isPickup,
      ...{ meter, fifths, start, length },
      rehearsal: letters.find(({ at }) => at === number)?.name ?? null,
      endsInDoubleBar: false,
      clef: null,
      navigation: navigationAt(number, repeats),
      source: 'told',
      toldNotes: notesAt(number, dense),
    });
    start = addQuarters(start, length);
  }
  return measures;
}

/** Meter and key at a measure. */
function inForce(
  { meters, keys }: ToldMusic,
  number: number,
): { readonly meter: Meter | undefined; readonly fifths: number } {
  return {
    meter: meters.findLast(({ from }) => from <= number)?.meter,
    fifths: keys.findLast(({ at }) => at <= number)?.fifths ?? 0,
  };
}

/** The most notes a quarter that were told of a measure. */
function notesAt(number: number, dense: ToldMusic['dense']): number | null {
  const own = dense.filter(({ from, to }) => from <= number && number <= to);
  return own.length === 0 ? null : Math.max(...own.map(({ value }) => notesAQuarter(value)));
}

function navigationAt(number: number, repeats: ToldMusic['repeats']): Navigation | null {
  const own = repeats.filter(({ from, to }) => from <= number && number <= to);
  const forward = own.some(({ from }) => from === number);
  const ending = own.flatMap(({ endings }) => endings).find(({ from, to }) => from <= number && number <= to);
  const back = own.find((repeat) => endsOf(repeat).includes(number));
  if (!forward && !ending && !back) return null;
  return {
    repeatForward: forward,
    repeatTimes: back?.times ?? null,
    repeatAfterJump: false,
    endings: ending?.passes ?? null,
    ...{ segno: null, coda: null, toCoda: null, daCapo: false, dalSegno: null, fine: false },
  };
}

/** Where a section goes back: at its end, or at the end of every ending but the last. */
function endsOf({ to, endings }: ToldMusic['repeats'][number]): number[] {
  if (endings.length === 0) return [to];
  return endings.slice(0, -1).map((ending) => ending.to);
}

function temposOf({ tempos }: ToldMusic, measures: readonly ScoreMeasure[]): TempoSegment[] {
  return tempos.flatMap(({ at, mark }, n) => {
    const bpm = mark.bpmMin ?? mark.bpmMax;
    const measure = measures.find(({ number }) => Number(number) === at);
    if (bpm === null || mark.beatUnit === null || !measure) return [];
    // The first tempo holds from the pickup on.
    return [
      {
        at: n === 0 ? (measures[0]?.start ?? ZERO) : measure.start,
        quarterBpm: quarterBpm(bpm, mark.beatUnit),
        unit: mark.beatUnit,
      },
    ];
  });
}
