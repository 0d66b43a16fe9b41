import { toNumber } from '../../music/index.js';
import { raw, type Finder } from '../findings/finding-parts.js';
import type { NotePlace } from '../findings/finding.js';
import { beatOf } from '../line/pace.js';
import { isJoined, type LineNote } from '../line/solo-line.js';
import { measuresText } from './places.js';

/** So often it is the way a line goes, not a chance. */
const FEWEST = 3;

/**
 * Notes that lead on: a separate note behind two slurred ones at the end of its beat is the pickup into the next.
 * Shape:  one finding, as advice
 * Source: common practice, no source
 */
export const leads: Finder = ({ score, line, profile }) => {
  if (profile.family === 'drums' || profile.family === 'mallets' || profile.family === 'keys') return [];
  const notes = line.played.flat();
  const found = notes.flatMap((note, n): NotePlace[] => {
    const measure = score.measures[note.measureIndex];
    const [first, second, next] = [notes[n - 2], notes[n - 1], notes[n + 1]];
    if (!measure || !first || !second || !next) return [];
    const beat = beatOf(measure.meter);
    const isOnBeat = ({ start }: LineNote): boolean => {
      const place = (start - toNumber(measure.start)) / beat;
      return Math.abs(place - Math.round(place)) < 1e-6;
    };
    const isPair =
      first.signs.slurStarts > 0 && second.isSlurredInto && second.endsSlur && !note.isSlurredInto;
    const isEven =
      Math.abs(first.length - second.length) < 1e-6 && Math.abs(second.length - note.length) < 1e-6;
    const isNext = isJoined(note, next);
    return isPair &&
      isEven &&
      isNext &&
      note.signs.slurStarts === 0 &&
      isOnBeat(first) &&
      !isOnBeat(note) &&
      isOnBeat(next)
      ? [{ index: note.measureIndex, note: note.ordinal }]
      : [];
  });
  if (found.length < FEWEST) return [];
  const places = [...new Set(found.map(({ index }) => index))];
  return [
    raw('lead', {
      title: 'The note after the slur leads on.',
      sentence: `Two slurred and one tongued, in ${measuresText(score, places)}: play the tongued one as the pickup into the next beat, not as the end of its own.`,
      places,
      notes: found,
      detail: String(found.length),
    }),
  ];
};
