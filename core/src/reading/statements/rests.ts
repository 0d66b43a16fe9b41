import { pitchName, toNumber } from '../../music/index.js';
import { raw, type Finder } from '../findings/finding-parts.js';
import { beatText } from './places.js';

/** From so many measures on a rest is counted (common practice, no source). */
const FEWEST_MEASURES = 2;

/**
 * Long rests between notes: how many measures to count and where to enter.
 * Units:  whole measures
 * Source: common practice, no source
 */
export const longRests: Finder = ({ score, line, asked }) => {
  const notes = line.played.flat();
  return notes.flatMap((note, n) => {
    const next = notes[n + 1];
    const end = note.start + note.length;
    const entry = score.measures[next?.measureIndex ?? -1];
    if (!next || !entry) return [];
    const silent = score.measures
      .slice(note.measureIndex, entry.index)
      .filter(({ start }) => toNumber(start) >= end - 1e-6);
    const [first] = silent;
    const isTogether =
      asked.length === 0 ||
      asked.some(({ fromIndex, endIndex }) => fromIndex <= note.measureIndex && entry.index < endIndex);
    if (!first || silent.length < FEWEST_MEASURES || !isTogether) return [];
    const tone = next.written ? `, on ${pitchName(next.written)}` : '';
    return [
      raw('rest', {
        title: `Count ${silent.length} measures of rest.`,
        sentence: `From ${first.number} on; enter on ${beatText(entry, next.start)} of ${entry.number}${tone}. Know what sounds before it.`,
        places: [...silent.map(({ index }) => index), entry.index],
        notes: [{ index: entry.index, note: next.ordinal }],
        detail: String(silent.length),
      }),
    ];
  });
};
