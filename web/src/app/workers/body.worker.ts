import {
  airAt,
  airMusic,
  bowStrokes,
  breathPlan,
  placeText,
  toldAirMusic,
  usableAir,
  waysToBreathe,
} from '@vivid-cue/core/air';
import { present } from '@vivid-cue/core/base';
import {
  beatingSpots,
  beatingText,
  handNotes,
  handPaceAt,
  handSolverOf,
  rollAdvice,
  ruleAdvice,
  solveHands,
  studioBook,
  type HandNote,
} from '@vivid-cue/core/hands';
import { asSeconds, secondsAt } from '@vivid-cue/core/music';
import { readMusicFile } from '@vivid-cue/core/paper';
import { instrumentProfile, isBlown, quarterBpmOf, type Pace } from '@vivid-cue/core/reading';
import { hasKnownNotes, type Score } from '@vivid-cue/core/score';
import type { BodyAnswer, BodyMusic, BodyQuestion, BodyResult, ShownBreaths } from '../data/body-reader';

/** Nobody plays a piece so many times faster for a breath (our own). */
const MUCH_FASTER = 1.5;

interface Known {
  readonly music: BodyMusic;
  readonly score: Score;
}
let known: Known | null = null;

function scoreOf(music: BodyMusic): Score {
  const read = readMusicFile(new Uint8Array(music.bytes), { partId: music.partId });
  if (!read.ok) throw new Error(read.issues[0]?.message ?? 'This music cannot be read.');
  const measures = read.value.measures.map((measure, n) => ({
    ...measure,
    number: music.numbers[n] ?? measure.number,
  }));
  return { ...read.value, measures };
}

function answered(question: BodyQuestion): BodyResult {
  if (question.music) known = { music: question.music, score: scoreOf(question.music) };
  if (!known) throw new Error('The music is not there any more; reload the page.');
  const { music, score } = known;
  const pace = handPaceAt(score, question.quarterBpm);
  const { beatQuarters } = pace;
  const quarterBpm = present(pace.segments[0]).quarterBpm;
  const profile = instrumentProfile(music.instrument);
  const { family } = profile;
  const notes = handNotes(score, question.span, pace);
  const solver = handSolverOf(music.instrument, score);
  const path =
    solver && notes.length > 0
      ? solveHands(solver, notes, {
          ...{ score, instrument: music.instrument, pins: question.handPins },
          ...{ hasValve: question.hasValve, leads: question.leads, school: question.school },
        })
      : null;
  const quarter = ({ start }: HandNote) => asSeconds(secondsAt(1, present(quarterBpmOf(pace, start))));
  const isStruck = family === 'drums' || family === 'mallets';
  return {
    breaths: isBlown(profile) ? breathsOf(question, score, pace) : null,
    hands: solver && path ? { solver, path } : null,
    strings: stringsUnder(notes, question, known),
    spots: family === 'mallets' ? beatingText(beatingSpots(notes)) : '',
    rolls: isStruck
      ? rollAdvice(notes, { instrument: family === 'drums' ? 'snare' : 'mallets', quarter })
      : [],
    strokes: family === 'strings' ? bowStrokes(score, question.span, pace) : [],
    advice: ruleAdvice(notes, music.instrument, studioBook(question.book)),
    quarterBpm,
    beatQuarters,
  };
}

function stringsUnder(
  notes: readonly HandNote[],
  { handPins }: BodyQuestion,
  { music, score }: Known,
): BodyResult['strings'] {
  if (notes.length === 0) return null;
  const path = solveHands('strings', notes, { score, instrument: music.instrument, pins: handPins });
  return path && { solver: 'strings', path };
}

function breathsOf(
  { span, air, breathPins, boxes }: BodyQuestion,
  score: Score,
  pace: Pace,
): ShownBreaths | null {
  const isKnown = score.measures.slice(span.fromIndex, span.endIndex).every(hasKnownNotes);
  const music = isKnown ? airMusic(score, span) : toldAirMusic(score, span, boxes);
  if (!music) return null;
  const isMust = new Set(boxes.flatMap((mark) => (mark.isMust ? [mark.index] : [])));
  const musts = (isKnown ? [] : music.places)
    .filter(({ measureIndex }) => isMust.has(measureIndex))
    .map(({ at }) => ({ at, kind: 'must' as const }));
  const capacity = airAt(air, score, span);
  const wish = { pace, capacity, pins: [...breathPins, ...musts] };
  const plan = breathPlan(music, wish);
  const numberOf = (index: number): string => score.measures[index]?.number ?? '';
  return {
    plan,
    capacity,
    usable: usableAir(capacity),
    reasons: plan.breaths.map(({ place }) => placeText(place)),
    ways: waysToBreathe(music, wish, plan)
      .filter((way) => way.kind !== 'tempo' || way.speed < MUCH_FASTER)
      .map((way) => {
        if (way.kind === 'air') return `long tones of ${way.capacity.toFixed(1)} seconds`;
        if (way.kind === 'tempo') return `playing it ${Math.ceil((way.speed - 1) * 100)} % faster`;
        return `a breath in measure ${numberOf(way.place.measureIndex)} after all`;
      }),
  };
}

addEventListener('message', ({ data }: MessageEvent<BodyQuestion>) => {
  const { id } = data;
  try {
    postMessage({ id, result: answered(data), failure: null } satisfies BodyAnswer);
  } catch (error) {
    const failure = error instanceof Error ? error.message : 'Air and hands could not be worked out.';
    postMessage({ id, result: null, failure } satisfies BodyAnswer);
  }
});
