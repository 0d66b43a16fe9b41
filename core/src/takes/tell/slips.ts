import { CANDIDATES } from '../hear/yin.js';
import type { AskedMusic, AskedNote } from '../follow/asked-notes.js';
import type { FollowedNote, FollowedTake } from '../follow/follow.js';

/** What may have gone wrong at a note; nothing until a person confirms it. Units: seconds; 0 to 1; MIDI number or null */
export interface PossibleSlip {
  readonly asked: number;
  readonly kind: 'wrong' | 'missing' | 'added';
  readonly seconds: number;
  readonly confidence: number;
  readonly heard: number | null;
}

/** What fills the time of a note. Shape: shares of its frames, 0 to 1 */
interface Filling {
  readonly own: number;
  readonly silent: number;
  /** The pitch beside its own that fills most. */
  readonly other: { readonly midi: number; readonly share: number } | null;
  readonly frames: number;
  readonly attack: number;
}

/** A note shorter than this is not judged. Units: seconds */
const SHORTEST = 0.07;

/**
 * Notes that may have been wrong, missing or too many: to be heard again, and confirmed or not.
 * Shape:  in the order of the take; nothing at ornaments and at notes of which only strokes are heard
 * Units:  see PossibleSlip
 */
export function possibleSlips(music: AskedMusic, take: FollowedTake): PossibleSlip[] {
  return take.notes.flatMap((note, n): PossibleSlip[] => {
    const asked = music.notes[note.asked];
    if (!asked || asked.isOrnamented || asked.midis.length !== 1) return [];
    const [before, next] = [take.notes[n - 1], take.notes[n + 1]];
    const skipped = skippedBefore(music, take, n);
    const slip = judged(take, {
      note,
      asked,
      before: askedOf(music, before, note),
      next: askedOf(music, next, note),
    });
    return slip ? [...skipped, slip] : skipped;
  });
}

/** Notes that the way went over. */
function skippedBefore({ notes }: AskedMusic, take: FollowedTake, n: number): PossibleSlip[] {
  const [note, before] = [take.notes[n], take.notes[n - 1]];
  if (!note || before?.run !== note.run || note.asked <= before.asked + 1) return [];
  const from = notes[before.asked]?.clock ?? 0;
  return Array.from({ length: note.asked - before.asked - 1 }, (_, k): PossibleSlip => {
    const asked = before.asked + 1 + k;
    const seconds = before.seconds + ((notes[asked]?.clock ?? from) - from) * before.pace;
    return { asked, kind: 'missing', seconds, confidence: 0.6, heard: null };
  });
}

function askedOf(
  { notes }: AskedMusic,
  other: FollowedNote | undefined,
  { run }: FollowedNote,
): AskedNote | null {
  return other?.run === run ? (notes[other.asked] ?? null) : null;
}

interface Judged {
  readonly note: FollowedNote;
  readonly asked: AskedNote;
  readonly before: AskedNote | null;
  readonly next: AskedNote | null;
}

function judged(take: FollowedTake, { note, asked, before, next }: Judged): PossibleSlip | null {
  const sounds = Math.min(note.end - note.seconds, asked.lasts * note.pace);
  if (sounds < SHORTEST) return null;
  const filling = fillingOf(take, note, asked, sounds);
  if (filling.frames < 3) return null;
  const slip = (kind: PossibleSlip['kind'], confidence: number): PossibleSlip => ({
    ...{ asked: note.asked, kind, seconds: note.seconds, confidence },
    heard: kind === 'wrong' ? (filling.other?.midi ?? null) : null,
  });
  if (filling.own > 0.3) return null;
  const { other, silent } = filling;
  if (silent > 0.75) return slip('missing', silent * 0.8);
  if (!other || other.share < 0.5) return null;
  const isOf = (one: AskedNote | null): boolean => one?.midis.includes(other.midi - take.shift) === true;
  // The note before goes on, and nothing begins: it was left out. The next one come early is no slip.
  if (isOf(before))
    return filling.attack < 0.5 ? slip('missing', other.share * 0.8) : slip('wrong', other.share * 0.6);
  if (isOf(next)) return null;
  return slip('wrong', other.share);
}

function fillingOf(take: FollowedTake, note: FollowedNote, asked: AskedNote, sounds: number): Filling {
  const { heard, likelihood, tuning, shift } = take;
  const edge = Math.min(0.03, sounds * 0.2);
  const from = Math.ceil((note.seconds + edge) / heard.hop);
  const to = Math.max(from + 1, Math.floor((note.seconds + sounds * 0.9) / heard.hop));
  const wanted = (asked.midis[0] ?? 0) + shift;
  const counts = new Map<number, number>();
  let [own, silent] = [0, 0];
  for (let frame = from; frame < to; frame += 1) {
    if (likelihood.isSilent[frame]) {
      silent += 1;
      continue;
    }
    const belief = heard.pitch.chance[frame * CANDIDATES] ?? 0;
    if (belief < 0.3) continue;
    const midi = (heard.pitch.midi[frame * CANDIDATES] ?? 0) - tuning / 100;
    if (Math.abs(midi - wanted) < 0.7 || isOctave(midi - wanted)) own += 1;
    else counts.set(Math.round(midi), (counts.get(Math.round(midi)) ?? 0) + 1);
  }
  const frames = to - from;
  const [most] = [...counts].sort(([, a], [, b]) => b - a);
  let attack = 0;
  for (let frame = from - 5; frame <= from + 2; frame += 1) attack = Math.max(attack, heard.flux[frame] ?? 0);
  return {
    ...{ own: own / frames, silent: silent / frames, frames, attack },
    other: most ? { midi: most[0], share: most[1] / frames } : null,
  };
}

/** A machine takes octaves and twelfths for each other; so far it is no wrong note. */
function isOctave(semitones: number): boolean {
  return [12, 19, 24].some((octave) => Math.abs(Math.abs(semitones) - octave) < 0.6);
}
