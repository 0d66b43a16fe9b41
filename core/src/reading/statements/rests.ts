import { pitchName, toNumber } from '../../music/index.js';
import { raw, type Finder } from '../findings/finding-parts.js';
import { beatText, numberAt } from './places.js';

/** From so many measures on a rest is counted (common practice, no source). */
const FEWEST_MEASURES = 2;

/**
 * Long rests between notes: how many measures to count and where to enter.
 * Units:  measures of the meter in which the rest begins, to a half
 * Source: common practice, no source
 */
export const longRests: Finder = ({ score, line, asked }) => {
  const notes = line.played.flat();
  return notes.flatMap((note, n) => {
    const next = notes[n + 1];
    const end = note.start + note.length;
    const first = score.measures[note.measureIndex];
    const entry = score.measures[next?.measureIndex ?? -1];
    if (!next || !first || !entry) return [];
    const isTogether =
      asked.length === 0 ||
      asked.some(({ fromIndex, endIndex }) => fromIndex <= first.index && entry.index < endIndex);
    const count = Math.round((2 * (next.start - end)) / toNumber(first.length)) / 2;
    if (count < FEWEST_MEASURES || !isTogether) return [];
    const silent = score.measures.findIndex(
      ({ start, length }) => toNumber(start) + toNumber(length) > end + 1e-6,
    );
    const tone = next.written ? `, on ${pitchName(next.written)}` : '';
    return [
      raw('rest', {
        title: `Count ${measuresCounted(count)} of rest.`,
        sentence: `From ${numberAt(score, silent)}; enter on ${beatText(entry, next.start)} of ${entry.number}${tone}. Know what sounds before it.`,
        places: Array.from({ length: entry.index - silent + 1 }, (_, k) => silent + k),
        notes: [{ index: entry.index, note: next.ordinal }],
        detail: String(count),
      }),
    ];
  });
};

function measuresCounted(count: number): string {
  const whole = Math.floor(count);
  return `${count === whole ? whole : `${whole}½`} measures`;
}
