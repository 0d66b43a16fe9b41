import type { AskedMusic } from './follow/asked-notes.js';
import type { FollowedTake } from './follow/follow.js';
import { AT_NOTE, peakAt } from './follow/worth.js';

/**
 * Where less of the sound fits what was asked, or its rhythm strays farther, it is other music; so it is where both are
 * poor, and where little fits and the way is made of snatches of fewer notes, or nothing in it is sure; and where
 * either little fits or the way is made of snatches, at another pitch than octaves from what is written. 52 right takes read: none fits by less than 0.74, none
 * that strays more than 0.2 by less than that, none has runs of under 18 notes.
 */
const FITS = { least: 0.45, well: 0.72, fairly: 0.8 };
const STRAYS = { most: 0.45, far: 0.3, some: 0.2 };
/** Runs of fewer notes are snatches; what is less sure than this on the whole is guessed. */
const SNATCHES = 7;
const OCTAVE = 12;
const GUESSED = 0.65;
/**
 * Of what is heard by strokes, so much of what begins must be strokes of notes: from the first note to the last, and on
 * the whole, for people count in and talk; but where less of the music was found, little else may be heard beside it. 24
 * right takes read: none under 0.78; the wrong ones that come nearest stand at 0.77 and 0.71, at 0.86 and 0.55, and at
 * 0.92 and 0.72 with 54 of 70 notes.
 */
const STRUCK = { within: 0.74, whole: 0.55, found: 0.85, wholeOfPart: 0.8 };

/** Whether a take is no take of the music it was laid along. */
export function isOtherMusic(music: AskedMusic, take: FollowedTake): boolean {
  const { fit, stray, shift, notes, isByStrokes } = take;
  const runs = 1 + (notes.at(-1)?.run ?? 0);
  const isScattered = notes.length < SNATCHES * runs;
  const sure = notes.reduce((sum, { confidence }) => sum + confidence, 0) / notes.length;
  if (fit < FITS.least || stray > STRAYS.most) return true;
  if (fit < FITS.well && (stray > STRAYS.some || isScattered || sure < GUESSED)) return true;
  if (shift % OCTAVE !== 0 && (fit < FITS.well || isScattered)) return true;
  if (fit < FITS.fairly && stray > STRAYS.far && isScattered) return true;
  if (!isByStrokes) return false;
  const { within, whole } = struckShares(music, take);
  const found = new Set(notes.map(({ asked }) => asked)).size / music.notes.length;
  return within < STRUCK.within || whole < (found < STRUCK.found ? STRUCK.wholeOfPart : STRUCK.whole);
}

/** The share of all that begins clearly that is a stroke of a note, or of a roll. Shape: 0 to 1 */
function struckShares(
  { notes: asked }: AskedMusic,
  { notes, heard: { flux, frames, hop } }: FollowedTake,
): { within: number; whole: number } {
  const isNote = new Uint8Array(frames);
  for (const { asked: place, seconds, end } of notes) {
    const begun = Math.round(seconds / hop);
    const until = asked[place]?.isOrnamented ? Math.round(end / hop) : begun;
    isNote.fill(1, Math.max(0, begun - AT_NOTE), Math.max(begun, until) + AT_NOTE + 1);
  }
  const [first, last] = [(notes[0]?.seconds ?? 0) / hop - AT_NOTE, (notes.at(-1)?.end ?? 0) / hop];
  let [own, within, whole] = [0, 0, 0];
  for (let frame = 0; frame < frames; frame += 1) {
    const peak = peakAt(flux, frame);
    whole += peak;
    if (frame >= first && frame <= last) within += peak;
    if (isNote[frame]) own += peak;
  }
  return { within: own / Math.max(1e-6, within), whole: own / Math.max(1e-6, whole) };
}
