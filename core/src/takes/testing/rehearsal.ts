import { seededRandom, type Random } from '../../base/index.js';
import { wholePace } from '../../reading/index.js';
import type { Bpm } from '../../music/index.js';
import type { Score, Span } from '../../score/index.js';
import { askedMusic, type AskedMusic } from '../follow/asked-notes.js';
import { readTake, type TakeReading } from '../read-take.js';
import type { Sound } from '../sound/sound.js';
import { perform, plainly, type Manner, type Performance } from './performer.js';
import { inRoom, synthesise, TIMBRES, type Room } from './synthesiser.js';

/** A performance with its sound, its truth, and what was read of it. */
export interface Rehearsal {
  readonly music: AskedMusic;
  readonly truth: Performance;
  readonly sound: Sound;
  readonly read: TakeReading;
}

/** How it is rehearsed. Shape: `vary` changes an even manner at the written tempo */
export interface RehearsalWish {
  readonly timbre: keyof typeof TIMBRES | 'snare';
  readonly seed: number;
  readonly room?: Room;
  readonly tuning?: number;
  /** What is played of it, at which tempo: all of it at its own where nothing is said. Units: beats of the score a minute */
  readonly spans?: readonly Span[];
  readonly bpm?: Bpm;
  /** Pitches that are played beside their place. Units: sounding MIDI number, cents */
  readonly bent?: ReadonlyMap<number, number>;
  readonly vary?: (even: Manner, music: AskedMusic, random: Random) => Partial<Manner>;
}

/** A small room with a little noise. */
export const PRACTICE_ROOM: Room = { reverberation: 0.6, wet: 0.1, noise: 45 };

/** Plays a score, and reads the take. Errors: throws where the take is refused */
export function rehearse(score: Score, wish: RehearsalWish): Rehearsal {
  const { music, truth, sound } = performed(score, wish);
  const read = readTake(sound, score, { withRepeats: true, bpm: null });
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return { music, truth, sound, read: read.value };
}

/** Plays a score in a room. */
export function performed(
  score: Score,
  { timbre, seed, room = PRACTICE_ROOM, tuning = 0, vary = () => ({}), bent, spans = [], bpm }: RehearsalWish,
): Omit<Rehearsal, 'read'> {
  const random = seededRandom(seed);
  const pace = wholePace(score, bpm ?? null);
  if (!pace) throw new Error('The score states no tempo.');
  const music = askedMusic(score, { spans, withRepeats: true, pace });
  const even = plainly(pace.segments[0]?.quarterBpm ?? 96);
  const truth = perform(music, { ...even, unsteady: 0.008, ...vary(even, music, random) }, random);
  const played = truth.played.map((note) => ({
    ...note,
    midi: note.midi === null ? null : note.midi + (bent?.get(note.midi) ?? 0) / 100,
  }));
  const dry = synthesise(played, {
    timbre: timbre === 'snare' ? timbre : TIMBRES[timbre],
    ...{ seconds: truth.seconds, random, tuning },
  });
  return { music, truth, sound: inRoom(dry, room, random) };
}

/** How far the starts of notes were found from where they were. Units: seconds, ascending; Infinity where not found */
export function startErrors({ truth, read }: Rehearsal): number[] {
  return truth.notes
    .flatMap(({ asked, start }) => {
      if (start === null) return [];
      const far = read.notes
        .filter((note) => note.asked === asked)
        .map(({ seconds }) => Math.abs(seconds - start));
      return [Math.min(Infinity, ...far)];
    })
    .sort((a, b) => a - b);
}

/**
 * How far the tempo of each measure was told from what was played.
 * Shape:  shares, ascending; Infinity where none was told; without measures of which most lies before or after all that
 *         sounds of them (how long a last note is held says nothing of the tempo)
 */
export function tempoErrors({ truth, read, music }: Rehearsal): number[] {
  return truth.measures
    .filter((measure) => canBeHeard(measure, truth, music))
    .map(({ pass, start, end }) => {
      const quarters = music.measures[pass]?.quarters ?? 0;
      const played = (quarters * 60) / (end - start);
      const told = read.measures
        .filter((measure) => measure.pass === pass && measure.quarterBpm !== null)
        .sort((a, b) => Math.abs(a.start - start) - Math.abs(b.start - start))[0];
      return told?.quarterBpm == null ? Infinity : Math.abs(told.quarterBpm / played - 1);
    })
    .sort((a, b) => a - b);
}

/** Whether two notes begin in a measure, its end included where the music goes on, that are half of it apart. */
function canBeHeard(
  { start, end }: Performance['measures'][number],
  { notes, pauses, restarts }: Performance,
  { notes: asked, measures }: AskedMusic,
): boolean {
  const isLeft = [...pauses, ...restarts].some(({ seconds }) => Math.abs(seconds - end) < 1e-6);
  const starts = notes.flatMap(({ asked: place, start: at }) => {
    const isNext =
      measures[asked[place]?.pass ?? 0]?.at === asked[place]?.at && at !== null && at > end - 0.1;
    return at === null || at < start - 0.1 || at > end + 0.1 || (isLeft && isNext) ? [] : [at];
  });
  return Math.max(...starts) - Math.min(...starts) >= 0.45 * (end - start);
}

/** The value below which a share of ascending values lies. */
export function quantile(values: readonly number[], share: number): number {
  return values[Math.min(values.length - 1, Math.floor(values.length * share))] ?? Infinity;
}
