import { convertBpm, inVocabulary, quarterBpm, secondsAt, type QuarterBpm } from '@vivid-cue/core/music';
import {
  partReadinessAt,
  partSentence,
  recordAt,
  reliableShareAt,
  type PartMover,
  type PartReadiness,
  type PartToJudge,
  type ReadinessState,
  type TrackedPassage,
} from '@vivid-cue/core/readiness';
import { spanQuarters, type Span } from '@vivid-cue/core/score';
import type { ProgramPartView, RibbonCell, Target } from '@vivid-cue/contract';
import type { StudioFacts } from '../studio/facts.js';
import { askedText, partTempoText, sourceText } from './asked.js';
import type { MappedMeasure } from './measure-map.js';
import type { ProgramPartRow } from './part-row.js';
import { snapshotOf, type PassageRow } from './passage-row.js';
import type { ScoreMusic } from './score-music.js';
import { effectiveTarget, isAskedTarget } from './target.js';

/** What a part's judgement needs. Units: milliseconds since 1970. */
export interface PartFacts {
  readonly part: ProgramPartRow;
  readonly music: ScoreMusic | null;
  readonly passages: readonly PassageRow[];
  readonly facts: StudioFacts;
  readonly nowMs: number;
}

/**
 * A part with its readiness, its ribbon and the sentence that says what holds it back.
 * Units:  chances 0 to 1
 */
export function judgePart(context: PartFacts): ProgramPartView {
  const { part, music, facts } = context;
  const target = effectiveTarget(part);
  const spanText = askedText(part, facts.vocabulary);
  const head = {
    id: part.program_part_id,
    label: part.label,
    kind: part.kind,
    workTitle: part.own_title || part.work_title || (part.score_title ?? ''),
    sourceText: sourceText(part),
    spanText,
    tempoText: partTempoText(part),
    hasScore: music !== null,
    scoreTitle: music ? (part.score_title ?? part.score_file_name) : null,
    state: 'unopened' as ReadinessState,
    chance: null,
    expectedSlips: null,
    ribbon: [],
    passages: 0,
    lastRepAt: null,
  };
  const say = (sentence: string): string => inVocabulary(sentence, facts.vocabulary);
  if (!music) return { ...head, sentence: say('No score yet: add it to map the measures.') };
  const asked = music.asked(part);
  if (!asked.ok)
    return { ...head, sentence: say(`The score does not hold ${spanText}; check the measures or the file.`) };
  const runs = asked.value;
  if (!target)
    return {
      ...head,
      ribbon: ribbon(music.measures, runs, new Map()),
      sentence: 'The sheet gives no tempo number: set a target.',
    };
  return { ...head, ...judgeRuns(context, music, { runs, target }) };
}

/** A part as its readiness needs it. Shape: null where it has no score, no tempo, or the score does not hold it */
export function partToJudge({
  part,
  music,
  passages,
}: Omit<PartFacts, 'facts' | 'nowMs'>): PartToJudge | null {
  const target = effectiveTarget(part);
  const asked = music?.asked(part);
  if (!music || !target || asked?.ok !== true) return null;
  const runs = asked.value;
  const bpm = quarterBpm(target.bpm, target.beatUnit);
  const own = insideOf(passages, runs).map((row) => tracked(row, music.measures, bpm));
  return { runs, measures: music.at(bpm), passages: own };
}

/** Passages that lie in some of the runs. */
function insideOf(passages: readonly PassageRow[], runs: readonly Span[]): PassageRow[] {
  return passages.filter((row) =>
    runs.some(({ fromIndex, endIndex }) => row.from_index < endIndex && row.end_index > fromIndex),
  );
}

function judgeRuns(
  { part, passages, facts, nowMs }: PartFacts,
  music: ScoreMusic,
  { runs, target }: { readonly runs: readonly Span[]; readonly target: Target },
): Pick<
  ProgramPartView,
  'state' | 'chance' | 'expectedSlips' | 'ribbon' | 'sentence' | 'passages' | 'lastRepAt'
> {
  const inside = insideOf(passages, runs);
  const bpm = quarterBpm(target.bpm, target.beatUnit);
  const own = inside.map((row) => tracked(row, music.measures, bpm));
  const judged = partReadinessAt({ runs, measures: music.at(bpm), passages: own }, nowMs);
  return {
    state: judged.state,
    chance: judged.chance,
    expectedSlips: judged.expectedSlips,
    passages: inside.length,
    lastRepAt: latestOf(inside)?.toISOString() ?? null,
    ribbon: ribbon(music.measures, runs, judged.measureStates),
    sentence: partSentence({
      part: judged,
      vocabulary: facts.vocabulary,
      mover: moverOf(judged, inside, { part, target, nowMs, own }),
    }),
  };
}

/** When any of some passages was last played. */
function latestOf(passages: readonly PassageRow[]): Date | null {
  return passages.reduce<Date | null>(
    (latest, { last_at: at }) => (at !== null && (latest === null || at > latest) ? at : latest),
    null,
  );
}

/**
 * A passage as one part of one program needs it: a score practised for two programs has one record, and each program
 * its own target, to which the belief is carried by the curve of the model.
 */
function tracked(
  row: PassageRow,
  measures: readonly MappedMeasure[],
  targetQuarterBpm: QuarterBpm,
): TrackedPassage {
  const bpm = quarterBpm(row.target_bpm, row.target_unit);
  const { record } = snapshotOf(row);
  const span = { fromIndex: row.from_index, endIndex: row.end_index };
  return {
    id: row.id,
    ...span,
    isSeam: row.is_seam === 1,
    seconds: secondsAt(spanQuarters(measures, span), bpm),
    record: row.has_own_target === 1 ? record : recordAt(record, targetQuarterBpm / bpm),
  };
}

function ribbon(
  measures: readonly MappedMeasure[],
  runs: readonly Span[],
  states: ReadonlyMap<number, ReadinessState>,
): RibbonCell[] {
  return runs.flatMap(({ fromIndex, endIndex }) =>
    measures
      .slice(fromIndex, endIndex)
      .map(({ quarters }, n): RibbonCell => [quarters, states.get(fromIndex + n) ?? 'unopened']),
  );
}

/** The passage that moves the part most, at the part's own target where it has none of its own. */
function moverOf(
  judged: PartReadiness,
  passages: readonly PassageRow[],
  {
    part,
    target,
    nowMs,
    own,
  }: {
    readonly part: ProgramPartRow;
    readonly target: Target;
    readonly nowMs: number;
    readonly own: readonly TrackedPassage[];
  },
): PartMover | null {
  const row = passages.find(({ id }) => id === judged.movesMost);
  const record = own.find(({ id }) => id === judged.movesMost)?.record;
  if (!row || !record) return null;
  const isOwn = row.has_own_target === 1;
  const { bpm, beatUnit } = isOwn ? { bpm: row.target_bpm, beatUnit: row.target_unit } : target;
  const { cleanBpm } = snapshotOf(row).ladder;
  return {
    name: row.name,
    reps: record.reps,
    playedCleanBpm: cleanBpm === null ? null : convertBpm(cleanBpm, row.target_unit, beatUnit),
    reliableBpm: record.reps === 0 ? null : reliableShareAt(record, nowMs) * bpm,
    targetBpm: bpm,
    unit: beatUnit,
    isAsked: !isOwn && isAskedTarget(part),
  };
}
