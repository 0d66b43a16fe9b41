import { quarterBpm } from '@vivid-cue/core/music';
import {
  cleanShareOf,
  beliefAt,
  partReadinessAt,
  partSentence,
  recordAt,
  type PartReadiness,
  type ReadinessState,
} from '@vivid-cue/core/readiness';
import { spanQuarters, type Span } from '@vivid-cue/core/score';
import type { ProgramPartView, RibbonCell, Target } from '@vivid-cue/contract';

import type { MappedMeasure } from './measure-map.js';
import type { ProgramPartRow } from './part-row.js';
import type { StudioFacts } from '../studio/facts.js';
import { askedText, partTempoText, askedSpan } from './asked.js';
import { type PassageRow, snapshotOf } from './passage-row.js';
import { effectiveTarget } from './target.js';

/** What a part's judgement needs. Units: milliseconds since 1970. */
export interface PartFacts {
  readonly part: ProgramPartRow;
  readonly measures: readonly MappedMeasure[] | null;
  readonly passages: readonly PassageRow[];
  readonly facts: StudioFacts;
  readonly nowMs: number;
}

/**
 * A part with its readiness, its ribbon and the sentence that says what holds it back.
 * Units:  chances 0 to 1
 */
export function judgePart({ part, measures, passages, facts, nowMs }: PartFacts): ProgramPartView {
  const target = effectiveTarget(part);
  const spanText =
    part.span_from === null || part.span_to === null
      ? ''
      : askedText(part.span_from, part.span_to, facts.vocabulary);
  const head = {
    id: part.program_part_id,
    label: part.label,
    kind: part.kind,
    workTitle: part.own_title || part.work_title || (part.score_title ?? ''),
    spanText,
    tempoText: partTempoText(part),
    hasScore: measures !== null,
    scoreTitle: measures ? (part.score_title ?? part.score_file_name) : null,
  };
  const blank = { state: 'unopened' as ReadinessState, chance: null, expectedSlips: null, ribbon: [] };
  if (!measures) return { ...head, ...blank, sentence: 'No score yet: upload one to map the measures.' };
  const asked = askedSpan(measures, part);
  if (!asked.ok)
    return {
      ...head,
      ...blank,
      sentence: `The score does not hold ${spanText}; check the span or the file.`,
    };
  const range = asked.value;
  const inside = passages.filter((row) => row.from_index < range.endIndex && row.end_index > range.fromIndex);
  if (!target)
    return {
      ...head,
      ...blank,
      ribbon: ribbon(measures, range, [], new Map()),
      sentence: 'The sheet gives no tempo number: set a target.',
    };
  const judged = partReadinessAt(
    {
      ...range,
      measureSeconds: measures.map(
        ({ quarters }) => (quarters * 60) / quarterBpm(target.bpm, target.beatUnit),
      ),
      passages: inside.map((row) => tracked(row, measures, target)),
    },
    nowMs,
  );
  return {
    ...head,
    state: judged.state,
    chance: judged.chance,
    expectedSlips: judged.expectedSlips,
    ribbon: ribbon(measures, range, inside, judged.passageStates),
    sentence: sentence(judged, inside, range, { facts, nowMs }),
  };
}

/**
 * A passage as one part of one program needs it: a score practised for two programs has one record, and each program
 * its own target, to which the belief is carried by the curve of the model.
 */
function tracked(
  row: PassageRow,
  measures: readonly MappedMeasure[],
  target: Target,
): Parameters<typeof partReadinessAt>[0]['passages'][number] {
  const bpm = quarterBpm(row.target_bpm, row.target_unit);
  const { record } = snapshotOf(row);
  const quarters = spanQuarters(measures, { fromIndex: row.from_index, endIndex: row.end_index });
  return {
    id: row.id,
    fromIndex: row.from_index,
    endIndex: row.end_index,
    seconds: (quarters * 60) / bpm,
    record:
      row.has_own_target === 1 ? record : recordAt(record, quarterBpm(target.bpm, target.beatUnit) / bpm),
  };
}

function ribbon(
  measures: readonly MappedMeasure[],
  range: Span,
  passages: readonly PassageRow[],
  states: ReadonlyMap<string, ReadinessState>,
): RibbonCell[] {
  return measures.slice(range.fromIndex, range.endIndex).map(({ quarters }, n): RibbonCell => {
    const index = range.fromIndex + n;
    const cover = passages.find((row) => row.from_index <= index && index < row.end_index);
    return [quarters, (cover && states.get(cover.id)) ?? 'unopened'];
  });
}

function sentence(
  judged: PartReadiness,
  passages: readonly PassageRow[],
  range: Span,
  { facts, nowMs }: Pick<PartFacts, 'facts' | 'nowMs'>,
): string {
  const row = passages.find(({ id }) => id === judged.movesMost);
  const record = row && snapshotOf(row).record;
  const cleanBpm =
    row && record && record.reps > 0 ? cleanShareOf(beliefAt(record, nowMs)) * row.target_bpm : null;
  const mover = row ? { name: row.name, cleanBpm, targetBpm: row.target_bpm, unit: row.target_unit } : null;
  return partSentence({
    part: judged,
    totalMeasures: range.endIndex - range.fromIndex,
    vocabulary: facts.vocabulary,
    mover,
  });
}
