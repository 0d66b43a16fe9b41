import type { LadderPlace, RungRule } from '../climb/index.js';
import { measureWord, tempoText, type BeatUnit, type Bpm, type Vocabulary } from '../music/index.js';
import type { PartReadiness } from './part-readiness.js';
import type { PassageReadiness } from './passage-record.js';

/** How each state is called on screen. */
export const STATE_WORDS = Object.freeze({
  unopened: 'Unopened',
  mapped: 'Mapped',
  grounded: 'Grounded',
  climbing: 'Climbing',
  'at-tempo': 'At tempo',
  holding: 'Holding',
});

/** Below this chance the expected slips say more, because they still move when it does not. Source: the design. */
export const SLIPS_LEAD_BELOW = 0.05;
/** An estimate of a tempo is told from so many reps on (our own knee). */
const REPS_FOR_AN_ESTIMATE = 5;

/** The two tempos of a passage, the one met and the one estimated, in the target's unit. Units: beats per minute. */
export interface PassageTempos {
  readonly playedCleanBpm: Bpm | null;
  readonly reliableBpm: Bpm | null;
  readonly targetBpm: Bpm;
  readonly unit: BeatUnit;
  /** Whether the target is the sheet's own number. */
  readonly isAsked: boolean;
}

/** What the passage's sentence needs. */
export interface PassageSentenceFacts extends PassageTempos {
  readonly readiness: PassageReadiness;
  readonly place: LadderPlace;
  readonly rungBpms: readonly Bpm[];
  readonly rule: RungRule;
}

/**
 * Says what holds a passage back and what moves it next. Played clean is a fact, reliable an estimate, and neither is
 * said for the other.
 * Shape:  one to three sentences
 * Units:  beats of `unit` per minute
 */
export function passageSentence(facts: PassageSentenceFacts): string {
  const { readiness, place, rungBpms, targetBpm, unit, rule } = facts;
  const rung = tempoText(Math.round(rungBpms[place.rungIndex] ?? targetBpm), unit);
  if (readiness.reps === 0)
    return `Nobody has played it yet. Start at ${rung}; ${inARow(rule).toLowerCase()} moves up.`;
  return [temposText(facts, readiness.reps), nextStep(facts, rung)].join(' ');
}

function goalText({ targetBpm, unit, isAsked }: PassageTempos): string {
  return `${isAsked ? 'the sheet asks' : 'the target is'} ${tempoText(targetBpm, unit)}`;
}

function temposText(tempos: PassageTempos, reps: number): string {
  const { playedCleanBpm, reliableBpm, targetBpm, unit } = tempos;
  if (playedCleanBpm !== null && playedCleanBpm >= targetBpm) {
    const isSure = reliableBpm !== null && reliableBpm >= targetBpm;
    const estimate = isSure || reliableBpm === null ? '' : `; reliable at about ${beats(reliableBpm, unit)}`;
    return `Played clean at the target, ${tempoText(targetBpm, unit)}${estimate}.`;
  }
  const estimate =
    reliableBpm === null || reps < REPS_FOR_AN_ESTIMATE
      ? ''
      : `reliable at about ${beats(reliableBpm, unit)}; `;
  const fact =
    playedCleanBpm === null ? 'No tempo met its rule yet' : `Played clean at ${beats(playedCleanBpm, unit)}`;
  return `${fact}; ${estimate}${goalText(tempos)}.`;
}

/** A tempo rounded down, so that no sentence claims a beat that was not there. */
function beats(bpm: Bpm, unit: BeatUnit): string {
  // Sums of floats may end a billionth below a whole number.
  return tempoText(Math.floor(bpm + 1e-6), unit);
}

function nextStep({ readiness, place, rungBpms, rule }: PassageSentenceFacts, here: string): string {
  const top = rungBpms.length - 1;
  if (place.rungIndex === top) {
    if (readiness.state === 'holding') return 'Keep the load light and play it in a run.';
    return place.isDone
      ? 'Now play it in a run, on another day.'
      : `${inARow(rule)} at ${here} finishes the ladder.`;
  }
  const rungsLeft = top - place.rungIndex;
  return `${inARow(rule)} at ${here} moves up; ${rungsLeft} ${rungsLeft === 1 ? 'rung' : 'rungs'} to go.`;
}

const IN_A_ROW: Readonly<Record<RungRule, string>> = {
  'three-in-a-row': 'Three clean in a row',
  'five-in-a-row': 'Five clean in a row',
  'no-surprises': 'Eight without a slip over two days',
};

function inARow(rule: RungRule): string {
  return IN_A_ROW[rule];
}

/** What the part's sentence needs of the passage that would move it most. */
export interface PartMover extends PassageTempos {
  readonly name: string;
  readonly reps: number;
}

/** What the part's sentence needs. */
export interface PartSentenceFacts {
  readonly part: PartReadiness;
  readonly vocabulary: Vocabulary;
  readonly mover: PartMover | null;
}

/**
 * Says what holds a part back.
 * Shape:  one to three sentences
 * Units:  beats per minute
 */
export function partSentence({ part, vocabulary, mover }: PartSentenceFacts): string {
  const whole = `${part.measures} ${measureWord(part.measures, vocabulary)}`;
  if (!mover) return `No passages yet: cut the ${whole} into passages.`;
  const open = part.untracked.length > 0 ? ` ${part.untracked.length} of ${whole} lie in no passage.` : '';
  if (part.reps === 0) return `Nothing played yet. Start with “${mover.name}”.${open}`;
  if (part.state === 'holding') return `Holding. Keep the load light.${open}`;
  const unplayed = part.unplayed.length - part.untracked.length;
  const rest = unplayed > 0 ? ` ${unplayed} more ${unplayed === 1 ? 'was' : 'were'} not played yet.` : '';
  return `${moverText(mover, part.unplayed.length * 2 < part.measures)}${open}${open === '' ? rest.replace(' more ', ` of ${whole} `) : rest}`;
}

/** While most of a part is unplayed nothing decides it yet; there is only what comes next. */
function moverText(mover: PartMover, decides: boolean): string {
  const { name, reps, reliableBpm, targetBpm } = mover;
  const lead = decides ? `“${name}” decides` : `Next, “${name}”`;
  if (reps === 0) return `${lead}: nobody has played it yet; ${goalText(mover)}.`;
  if (reliableBpm !== null && reliableBpm >= targetBpm)
    return `“${name}” moves it most: at tempo alone, now in runs.`;
  return `${lead}: ${temposText(mover, reps).replace(/^[A-Z]/u, (letter) => letter.toLowerCase())}`;
}
