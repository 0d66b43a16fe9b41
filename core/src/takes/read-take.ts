import { fail, ok, type Result } from '../base/index.js';
import { asQuarterBpm, type Bpm } from '../music/index.js';
import { readMusic, steadyPace, wholePace, type Pace } from '../reading/index.js';
import type { Score, Span } from '../score/index.js';
import { askedMusic, type AskedMusic } from './follow/asked-notes.js';
import { followTake, type FollowedNote, type FollowedTake } from './follow/follow.js';
import { isOtherMusic } from './other-music.js';
import { peakOf } from './sound/level-word.js';
import { ANALYSIS_RATE, resampled } from './sound/resample.js';
import { lengthOf, type Sound } from './sound/sound.js';
import { contrastsHeard, loudestPlace, type ContrastHeard, type LoudestPlace } from './tell/contrasts.js';
import { dynamicsHeard, type HairpinHeard, type MeasureLoudness } from './tell/dynamics.js';
import { notePitches, type NotePitch } from './tell/note-pitches.js';
import { pausesOf, restartsOf, type Pause, type Restart } from './tell/pauses.js';
import { possibleSlips, type PossibleSlip } from './tell/slips.js';
import { driftOf, evennessOf, type Evenness } from './tell/steadiness.js';
import { takeMeasures, type TakeMeasure } from './tell/take-measures.js';

/** Why a take tells nothing. */
export type TakeCode = 'take-silent' | 'take-too-short' | 'take-no-notes' | 'take-other-music';

/** What is worth a word before the numbers. */
export type TakeNotice =
  | { readonly kind: 'clipped'; readonly seconds: number }
  | { readonly kind: 'shifted'; readonly semitones: number }
  | { readonly kind: 'unsure'; readonly share: number };

/** What a take is held against. Shape: no spans for the whole score. Units: beats of the first full measure a minute */
export interface TakeWish {
  readonly spans?: readonly Span[];
  readonly withRepeats: boolean;
  readonly bpm: Bpm | null;
  /** Hears the share that is done. */
  readonly tell?: (done: number) => void;
}

/** A tempo at a measure. Units: beats of the score a minute */
export interface MeasureTempo {
  readonly number: string;
  readonly bpm: number;
}

/**
 * What a take says.
 * Shape:  lists in the order of the take; null where there is not enough to tell
 * Units:  seconds from the beginning of the take; `beatQuarters` quarters a beat; tempos in beats a minute
 */
export interface TakeReading {
  readonly music: AskedMusic;
  readonly beatQuarters: number;
  readonly seconds: number;
  readonly notes: readonly FollowedNote[];
  readonly measures: readonly TakeMeasure[];
  readonly opening: { readonly bpm: number } | null;
  readonly deciding: MeasureTempo | null;
  readonly drift: number | null;
  readonly evenness: readonly Evenness[];
  readonly dynamics: readonly MeasureLoudness[];
  readonly hairpins: readonly HairpinHeard[];
  readonly contrasts: readonly ContrastHeard[];
  readonly loudest: LoudestPlace | null;
  readonly pauses: readonly Pause[];
  readonly restarts: readonly Restart[];
  readonly slips: readonly PossibleSlip[];
  readonly notices: readonly TakeNotice[];
  /** Units: cents */
  readonly tuning: number;
  readonly pitches: readonly NotePitch[];
}

/** A take that never gets louder is silence. Units: of full scale */
const QUIET = 0.003;
const SHORTEST_SECONDS = 1;
const UNSURE = 0.65;
/** A scale without a tempo goes at this. Units: quarters a minute */
const PLAIN_TEMPO = 96;
/** Measures that make the opening. */
const OPENING = 2;

/**
 * Hears what a take says of the music that was asked.
 * Shape:  see TakeReading
 * Errors: take-silent, take-too-short (under a second), take-no-notes (the span has none), take-other-music (too little of
 *         it fits)
 * Source: the design's chapter on takes
 */
export function readTake(take: Sound, score: Score, wish: TakeWish): Result<TakeReading, TakeCode> {
  const sound = resampled(take, ANALYSIS_RATE);
  const refused = refusal(sound);
  if (refused) return refused;
  const pace = wholePace(score, wish.bpm) ?? steadyPace(asQuarterBpm(PLAIN_TEMPO));
  const wished = { withRepeats: wish.withRepeats, pace };
  const music = askedMusic(score, { ...wished, spans: wish.spans ?? [] });
  if (music.notes.length === 0)
    return fail(
      'take-no-notes',
      'span',
      'There is no note in these measures; choose measures in which something is played.',
    );
  const spans = withTail(wish.spans ?? [], score.measures.length);
  const whole = followTake(sound, askedMusic(score, { ...wished, spans }), wish.tell);
  const followed = { ...whole, notes: whole.notes.filter(({ asked }) => asked < music.notes.length) };
  if (followed.notes.length < 2 || isOtherMusic(music, followed))
    return fail(
      'take-other-music',
      'take',
      'This does not sound like the music that was asked: notes and rhythm do not fit it. Check the part and the measures, or listen to it without numbers.',
    );
  return ok(told({ take, sound, score, wish, pace, music, followed }));
}

/** Who plays on past the end of what is asked plays this far at most. Units: measures (our own) */
const TAIL = 8;

/**
 * What is asked and the measures after it, so that who plays on is not taken for somebody who went back.
 * Shape:  the tail is last; none where it is asked anyway
 */
function withTail(spans: readonly Span[], count: number): readonly Span[] {
  const end = spans.at(-1)?.endIndex ?? count;
  const next = Math.min(
    count,
    end + TAIL,
    ...spans.flatMap(({ fromIndex: from }) => (from >= end ? [from] : [])),
  );
  return next <= end ? spans : [...spans, { fromIndex: end, endIndex: next }];
}

function refusal(sound: Sound): Result<never, TakeCode> | null {
  const { samples } = sound;
  if (lengthOf(sound) < SHORTEST_SECONDS)
    return fail('take-too-short', 'take', 'The take lasts less than a second. Record it again.');
  if (peakOf(samples) < QUIET)
    return fail(
      'take-silent',
      'take',
      'The take is silent. Check which microphone records and how far it is turned up.',
    );
  return null;
}

interface Told {
  readonly take: Sound;
  readonly sound: Sound;
  readonly score: Score;
  readonly wish: TakeWish;
  readonly pace: Pace;
  readonly music: AskedMusic;
  readonly followed: FollowedTake;
}

function told({ take, sound, score, wish, pace, music, followed }: Told): TakeReading {
  const pauses = pausesOf(music, followed);
  const measures = takeMeasures(music, followed, pauses);
  const { beatQuarters } = pace;
  const dynamics = dynamicsHeard(score, sound, measures);
  const decides = readMusic(score, { instrument: null, bpm: wish.bpm, asked: wish.spans ?? [] }).deciding
    ?.measure;
  const opening = openingOf(measures);
  return {
    ...{ music, beatQuarters, seconds: lengthOf(take), notes: followed.notes, measures, pauses },
    opening: opening === null ? null : { bpm: opening / beatQuarters },
    deciding: tempoAt(measures, decides, beatQuarters),
    drift: driftOf(measures),
    evenness: evennessOf(music, followed),
    dynamics: dynamics.measures,
    hairpins: dynamics.hairpins,
    contrasts: contrastsHeard(score, dynamics.measures, measures),
    loudest: loudestPlace(score, dynamics.measures, measures),
    restarts: restartsOf(music, followed),
    slips: possibleSlips(music, followed),
    notices: noticesOf(take, followed),
    tuning: followed.tuning,
    pitches: notePitches(music, followed),
  };
}

/** The tempo of the first full measures. Units: quarters a minute */
function openingOf(measures: readonly TakeMeasure[]): number | null {
  const known = measures.filter(({ quarterBpm }) => quarterBpm !== null).slice(0, OPENING);
  const seconds = known.reduce((sum, { end, start }) => sum + end - start, 0);
  const weighed = known.reduce(
    (sum, { end, start, quarterBpm }) => sum + (quarterBpm ?? 0) * (end - start),
    0,
  );
  return seconds === 0 ? null : weighed / seconds;
}

function tempoAt(
  measures: readonly TakeMeasure[],
  number: string | undefined,
  beat: number,
): MeasureTempo | null {
  const found = measures.find((measure) => measure.number === number && measure.quarterBpm !== null);
  return found?.quarterBpm == null ? null : { number: found.number, bpm: found.quarterBpm / beat };
}

function noticesOf(take: Sound, { shift, fit }: FollowedTake): TakeNotice[] {
  const clipped = clippedSeconds(take);
  return [
    ...(clipped > 0.02 ? [{ kind: 'clipped' as const, seconds: clipped }] : []),
    ...(shift === 0 ? [] : [{ kind: 'shifted' as const, semitones: shift }]),
    ...(fit < UNSURE ? [{ kind: 'unsure' as const, share: fit }] : []),
  ];
}

/** How much of a take was louder than the microphone can tell: samples that stand at full scale together. Units: seconds */
function clippedSeconds({ samples, rate }: Sound): number {
  let [run, clipped] = [0, 0];
  for (const sample of samples) {
    run = Math.abs(sample) >= 0.999 ? run + 1 : 0;
    if (run >= 3) clipped += run === 3 ? 3 : 1;
  }
  return clipped / rate;
}
