import type { LadderPlace } from '../climb/index.js';
import { measureWord, tempoText, type BeatUnit, type Vocabulary } from '../music/index.js';
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

/** What the passage's sentence needs. */
export interface PassageSentenceFacts {
  readonly readiness: PassageReadiness;
  readonly place: LadderPlace;
  readonly rungBpms: readonly number[];
  readonly targetBpm: number;
  readonly unit: BeatUnit;
}

/**
 * Says what holds a passage back and what moves it next.
 * Shape:  one or two sentences
 * Units:  beats of `unit` per minute
 */
export function passageSentence({
  readiness,
  place,
  rungBpms,
  targetBpm,
  unit,
}: PassageSentenceFacts): string {
  const rung = tempoText(Math.round(rungBpms[place.rungIndex] ?? targetBpm), unit);
  if (readiness.cleanShare === null)
    return `Nobody has played it yet. Start at ${rung}; ${inARow(place.needed).toLowerCase()} moves up.`;
  const clean = Math.floor(readiness.cleanShare * targetBpm);
  const head =
    clean >= targetBpm
      ? `Clean at the target, ${tempoText(targetBpm, unit)}.`
      : `Clean at ${tempoText(clean, unit)} today; the sheet asks ${tempoText(targetBpm, unit)}.`;
  return `${head} ${nextStep(readiness, place, rungBpms, unit)}`;
}

function nextStep(
  readiness: PassageReadiness,
  place: LadderPlace,
  rungBpms: readonly number[],
  unit: BeatUnit,
): string {
  const top = rungBpms.length - 1;
  const here = tempoText(Math.round(rungBpms[place.rungIndex] ?? 0), unit);
  if (place.rungIndex === top) {
    if (readiness.state === 'holding') return 'Keep the load light and play it in a run.';
    return place.isDone
      ? 'Now play it in a run, on another day.'
      : `${inARow(place.needed)} at ${here} finishes the ladder.`;
  }
  const rungsLeft = top - place.rungIndex;
  return `${inARow(place.needed)} at ${here} moves up; ${rungsLeft} ${rungsLeft === 1 ? 'rung' : 'rungs'} to go.`;
}

function inARow(needed: number): string {
  const words: Readonly<Record<number, string>> = { 3: 'Three', 5: 'Five', 8: 'Eight' };
  return `${words[needed] ?? String(needed)} clean in a row`;
}

/** What the part's sentence needs of the passage that would move it most. */
export interface PartSentenceFacts {
  readonly part: PartReadiness;
  readonly totalMeasures: number;
  readonly vocabulary: Vocabulary;
  readonly mover: {
    readonly name: string;
    readonly cleanBpm: number | null;
    readonly targetBpm: number;
    readonly unit: BeatUnit;
  } | null;
}

/**
 * Says what holds a part back.
 * Shape:  one or two sentences
 * Units:  beats per minute
 */
export function partSentence({ part, totalMeasures, vocabulary, mover }: PartSentenceFacts): string {
  const rest = part.restMeasures.length;
  const measures = `${rest} of ${totalMeasures} ${measureWord(totalMeasures, vocabulary)}`;
  if (!mover)
    return `No passages yet: cut the ${totalMeasures} ${measureWord(totalMeasures, vocabulary)} into passages.`;
  const untracked = rest > 0 ? ` ${measures} lie in no passage.` : '';
  if (part.reps === 0) return `Nothing played yet. Start with “${mover.name}”.${untracked}`;
  if (part.state === 'holding') return `Holding. Keep the load light.${untracked}`;
  const { name, cleanBpm, targetBpm, unit } = mover;
  if (cleanBpm === null)
    return `“${name}” decides: nobody has played it yet; the sheet asks ${tempoText(targetBpm, unit)}.${untracked}`;
  if (cleanBpm >= targetBpm) return `“${name}” moves it most: at tempo alone, now in runs.${untracked}`;
  return `“${name}” decides: clean at ${tempoText(Math.floor(cleanBpm), unit)}, the sheet asks ${targetBpm}.${untracked}`;
}
