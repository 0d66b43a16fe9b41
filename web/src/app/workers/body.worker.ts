import {
  airAt,
  airMusic,
  bowStrokes,
  breathPlan,
  placeText,
  usableAir,
  waysToBreathe,
} from '@vivid-cue/core/air';
import {
  bowingPath,
  clarinetPath,
  handNotes,
  handSolverOf,
  rollAdvice,
  ruleAdvice,
  slidePath,
  stickingPath,
  valvePath,
  valvesOf,
  type HandNote,
  type HandPath,
  type HandSolver,
} from '@vivid-cue/core/hands';
import { asSeconds, secondsAt } from '@vivid-cue/core/music';
import { readMusicFile } from '@vivid-cue/core/paper';
import { instrumentProfile, quarterBpmOf, wholePace, type Pace } from '@vivid-cue/core/reading';
import type { Score } from '@vivid-cue/core/score';
import type { BodyAnswer, BodyMusic, BodyQuestion, BodyResult, ShownBreaths } from '../data/body-reader';

/** Hands are compared at this tempo where nothing tells one. Units: beats a minute (our own) */
const USUAL_BPM = 100;
const BREATHING: ReadonlySet<string> = new Set(['woodwind', 'brass', 'voice']);

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
  const beatQuarters = wholePace(score, USUAL_BPM)?.beatQuarters ?? 1;
  const asked = question.quarterBpm === null ? null : question.quarterBpm / beatQuarters;
  const pace = wholePace(score, asked) ?? wholePace(score, USUAL_BPM);
  const first = pace?.segments[0];
  if (!pace || !first) throw new Error('The music has no measure.');
  const { family } = instrumentProfile(music.instrument);
  const notes = handNotes(score, question.span, pace);
  const solver = handSolverOf(music.instrument, score);
  const quarter = ({ start }: HandNote) =>
    asSeconds(secondsAt(1, quarterBpmOf(pace, start) ?? first.quarterBpm));
  const isStruck = family === 'drums' || family === 'mallets';
  return {
    breaths: BREATHING.has(family) ? breathsOf(question, score, pace) : null,
    hands: solver && notes.length > 0 ? { solver, path: handsOf(solver, notes, question) } : null,
    rolls: isStruck
      ? rollAdvice(notes, { instrument: family === 'drums' ? 'snare' : 'mallets', quarter })
      : [],
    strokes: family === 'strings' ? bowStrokes(score, question.span, pace) : [],
    advice: ruleAdvice(notes, music.instrument),
    quarterBpm: first.quarterBpm,
    beatQuarters,
  };
}

function breathsOf({ span, air, breathPins }: BodyQuestion, score: Score, pace: Pace): ShownBreaths | null {
  const music = airMusic(score, span);
  if (!music) return null;
  const capacity = airAt(air, score, span);
  const wish = { pace, capacity, pins: breathPins };
  const plan = breathPlan(music, wish);
  const numberOf = (index: number): string => score.measures[index]?.number ?? '';
  return {
    plan,
    capacity,
    usable: usableAir(capacity),
    reasons: plan.breaths.map(({ place }) => placeText(place)),
    ways: waysToBreathe(music, wish).map((way) => {
      if (way.kind === 'air') return `long tones of ${way.capacity.toFixed(1)} seconds`;
      if (way.kind === 'tempo') return `playing it ${Math.ceil((way.speed - 1) * 100)} % faster`;
      return `a breath in measure ${numberOf(way.place.measureIndex)} after all`;
    }),
  };
}

function handsOf(solver: HandSolver, notes: readonly HandNote[], question: BodyQuestion): HandPath {
  const { handPins: pins, hasValve, leads, school } = question;
  const instrument = known?.music.instrument ?? '';
  if (solver === 'slide') return slidePath(notes, { hasValve, pins });
  if (solver === 'fingers') return clarinetPath(notes, pins);
  if (solver === 'bow') return bowingPath(notes, pins);
  if (solver === 'sticking') {
    const hasKeys = instrumentProfile(instrument).family !== 'drums';
    return stickingPath(notes, { school, leads, hasKeys, pins });
  }
  const valves = known && valvesOf(instrument, known.score);
  if (!valves) throw new Error('No valves are known of this instrument.');
  return valvePath(notes, valves, pins);
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
