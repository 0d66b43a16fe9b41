import { countBy } from '../../base/index.js';
import type { Heard } from '../hear/heard.js';
import { fromOctave } from '../hear/octaves.js';
import { salienceAt } from '../hear/salience.js';
import { surestChance, surestMidi } from '../hear/yin.js';
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
    if (!asked) return [];
    const skipped = skippedBefore(music, take, n);
    if (asked.isOrnamented || asked.midis.length !== 1) return skipped;
    const [before, next] = [take.notes[n - 1], take.notes[n + 1]];
    const around = { note, asked, before: askedOf(music, before, note), next: askedOf(music, next, note) };
    const slip = judged(take, around) ?? addedIn(take, around);
    return slip ? [...skipped, slip] : skipped;
  });
}

/** So long another note sounds within one, at least. Units: seconds */
const ADDED = 0.055;

/** A note put in after its own pitch has sounded, that is not the next one come early. */
function addedIn({ heard, tuning, shift }: FollowedTake, { note, asked, next }: Judged): PossibleSlip | null {
  const own = (asked.midis[0] ?? 0) + shift;
  const sounds = Math.min(note.end - note.seconds, asked.lasts * note.pace);
  const [from, to] = [
    Math.ceil(note.seconds / heard.hop) + 2,
    Math.floor((note.seconds + sounds) / heard.hop) - 2,
  ];
  let [heardOwn, run, pitch, begun] = [0, 0, 0, 0];
  for (let frame = from; frame < to; frame += 1) {
    const belief = surestChance(heard.pitch, frame);
    const midi = surestMidi(heard.pitch, frame) - tuning / 100;
    const isOther =
      belief > 0.5 &&
      Math.abs(midi - own) > 0.8 &&
      !isOctave(midi - own) &&
      ringsAt(heard, frame, own) < RINGS;
    if (!isOther) {
      if (belief > 0.5) heardOwn += 1;
      run = 0;
      continue;
    }
    if (run === 0 || Math.abs(midi - pitch) > 0.6) [run, pitch, begun] = [0, midi, frame];
    run += 1;
    const isNext = next?.midis.includes(Math.round(pitch) - shift) === true;
    if (heardOwn < 3 || run * heard.hop < ADDED || isNext) continue;
    const attack = clearestAttack(heard, begun - 3, begun + 2);
    if (attack < CLEAR) continue;
    const seconds = begun * heard.hop;
    return {
      asked: note.asked,
      kind: 'added',
      seconds,
      confidence: Math.min(0.8, 0.4 + attack / 2),
      heard: Math.round(pitch),
    };
  }
  return null;
}

/** Notes that the way went over: left out, or played as the one beside them. */
function skippedBefore({ notes }: AskedMusic, take: FollowedTake, n: number): PossibleSlip[] {
  const [note, before] = [take.notes[n], take.notes[n - 1]];
  if (!note || before?.run !== note.run || note.asked <= before.asked + 1) return [];
  const [from, to] = [notes[before.asked]?.clock ?? 0, notes[note.asked]?.clock ?? 1];
  const pace = (note.seconds - before.seconds) / Math.max(1e-6, to - from);
  return Array.from({ length: note.asked - before.asked - 1 }, (_, k): PossibleSlip[] => {
    const asked = notes[before.asked + 1 + k];
    if (!asked || asked.isOrnamented || asked.midis.length > 1) return [];
    const seconds = before.seconds + (asked.clock - from) * pace;
    const attack = attackAround(take.heard, seconds, { before: before.seconds, after: note.seconds });
    const place = { asked: before.asked + 1 + k, seconds };
    if (attack < CLEAR) return [{ ...place, kind: 'missing', confidence: 0.7, heard: null }];
    const heard = mainPitch(take, seconds, asked);
    const isOwn = heard !== null && asked.midis.includes(heard - take.shift);
    if (asked.midis.length === 0 || isOwn) return [];
    return [{ ...place, kind: 'wrong', confidence: Math.min(0.8, 0.4 + 0.4 * attack), heard }];
  }).flat();
}

/** An attack so clear is one of its own. */
const CLEAR = 0.3;
/** An attack belongs to a place if it is so near. Units: seconds */
const AT_PLACE = 0.07;

/** The clearest attack at a place that belongs to none of its neighbours. */
function attackAround(
  heard: Heard,
  seconds: number,
  { before, after }: { readonly before: number; readonly after: number },
): number {
  const reach = Math.min(AT_PLACE, 0.45 * (seconds - before), 0.45 * (after - seconds));
  return clearestAttack(heard, Math.ceil((seconds - reach) / heard.hop), (seconds + reach) / heard.hop);
}

/** The clearest attack from one frame to another, both included. */
function clearestAttack({ flux }: Heard, from: number, to: number): number {
  let most = 0;
  for (let frame = from; frame <= to; frame += 1) most = Math.max(most, flux[frame] ?? 0);
  return most;
}

/** What is heard most in the time after a place. Units: MIDI number */
function mainPitch({ heard, tuning }: FollowedTake, seconds: number, { lasts }: AskedNote): number | null {
  const end = seconds + Math.max(0.06, lasts * 0.8);
  const pitches: number[] = [];
  for (let frame = Math.ceil((seconds + 0.02) / heard.hop); frame < end / heard.hop; frame += 1)
    if (surestChance(heard.pitch, frame) >= 0.3)
      pitches.push(Math.round(surestMidi(heard.pitch, frame) - tuning / 100));
  return mostOf(pitches)?.[0] ?? null;
}

/** The pitch that comes most often, and how often. */
function mostOf(pitches: readonly number[]): readonly [midi: number, count: number] | null {
  return [...countBy(pitches)].sort(([, a], [, b]) => b - a)[0] ?? null;
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
  const filling = fillingOf(take, { note, asked, sounds });
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

function fillingOf(
  { heard, tuning, shift }: FollowedTake,
  { note, asked, sounds }: Pick<Judged, 'note' | 'asked'> & { readonly sounds: number },
): Filling {
  const edge = Math.min(0.03, sounds * 0.2);
  const from = Math.ceil((note.seconds + edge) / heard.hop);
  const to = Math.max(from + 1, Math.floor((note.seconds + sounds * 0.9) / heard.hop));
  const wanted = (asked.midis[0] ?? 0) + shift;
  const others: number[] = [];
  let [own, silent] = [0, 0];
  for (let frame = from; frame < to; frame += 1) {
    if (heard.isSilent[frame]) {
      silent += 1;
      continue;
    }
    const belief = surestChance(heard.pitch, frame);
    if (belief < 0.3) continue;
    const midi = surestMidi(heard.pitch, frame) - tuning / 100;
    const rings = ringsAt(heard, frame, wanted);
    if (Math.abs(midi - wanted) < 0.7 || isOctave(midi - wanted) || rings > RINGS) own += 1;
    else others.push(Math.round(midi));
  }
  const frames = to - from;
  const most = mostOf(others);
  const attack = clearestAttack(heard, from - 5, from + 2);
  return {
    ...{ own: own / frames, silent: silent / frames, frames, attack },
    other: most ? { midi: most[0], share: most[1] / frames } : null,
  };
}

/** A pitch of which so much stands in a frame is there, though another is heard first. Shape: share of the strongest */
const RINGS = 0.55;

function ringsAt({ salience }: Heard, frame: number, midi: number): number {
  return salience ? salienceAt(salience, 'strength', { frame, midi }) : 0;
}

/** An octave or a twelfth beside is no wrong note as far as this. */
function isOctave(semitones: number): boolean {
  return fromOctave(semitones) < 0.6;
}
