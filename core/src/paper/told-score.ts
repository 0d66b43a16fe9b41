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
import type { ToldMusic } from './told.js';

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

function measuresOf({ first, last, meters, pickup, letters, repeats, keys }: ToldMusic): ScoreMeasure[] {
  const measures: ScoreMeasure[] = [];
  const opening = meters[0]?.meter;
  let start: Quarters = ZERO;
  const add = (measure: Pick<ScoreMeasure, 'number' | 'implicit' | 'meter' | 'length' | 'fifths'>): void => {
    const number = Number(measure.number);
    measures.push({
      ...measure,
      index: measures.length,
      start,
      rehearsal: letters.find(({ at }) => at === number)?.name ?? null,
      endsInDoubleBar: false,
      navigation: navigationAt(number, repeats),
    });
    start = addQuarters(start, measure.length);
  };
  if (pickup && opening)
    add({
      number: String(first - 1),
      implicit: true,
      meter: opening,
      length: pickup,
      fifths: keys[0]?.fifths ?? 0,
    });
  let meter: Meter | undefined = opening;
  let fifths = 0;
  for (let number = first; number <= last; number += 1) {
    meter = meters.find(({ from }) => from === number)?.meter ?? meter;
    fifths = keys.find(({ at }) => at === number)?.fifths ?? fifths;
    if (meter) add({ number: String(number), implicit: false, meter, length: measureLength(meter), fifths });
  }
  return measures;
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
      },
    ];
  });
}
