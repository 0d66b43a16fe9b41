import { ok, type Result } from '@vivid-cue/core/base';
import { measuresText, quarterBpm, tempoText, unitGlyph } from '@vivid-cue/core/music';
import {
  cleanShareOf,
  beliefAt,
  partReadinessAt,
  partSentence,
  recordAt,
  type PartReadiness,
  type ReadinessState,
} from '@vivid-cue/core/readiness';
import { resolveSpan, spanQuarters, withoutPickup, type Span, type SpanCode } from '@vivid-cue/core/score';
import type { ProgramPartView, RibbonCell, Target } from '@vivid-cue/contract';
import { snapshotOf, type PassageRow } from '../passages/repository.js';
import { effectiveTarget } from '../programs/service.js';
import type { MappedMeasure } from '../scores/measure-map.js';
import type { ProgramPartRow, StudioFacts } from './repository.js';

/** What a part's judgement needs. Units: milliseconds since 1970. */
export interface PartFacts {
  readonly part: ProgramPartRow;
  readonly measures: readonly MappedMeasure[] | null;
  readonly passages: readonly PassageRow[];
  readonly facts: StudioFacts;
  readonly nowMs: number;
}

/**
 * The sheet's tempo in one line.
 * Shape:  "♩=116", "♩.=60–66", "Allegro", "" where the sheet says nothing
 * Units:  beats of the unit per minute
 * Errors: none
 * Source: none
 */
export function partTempoText({
  beat_unit: unit,
  bpm_min: low,
  bpm_max: high,
  bound,
  tempo_words: words,
}: ProgramPartRow): string {
  if (unit === null || (low ?? high) === null) return words ?? '';
  const number = (bpm: number | null): string => tempoText(bpm ?? 0, unit);
  const texts: Readonly<Record<string, string>> = {
    exact: number(low),
    about: `about ${number(low)}`,
    min: `at least ${number(low)}`,
    max: `at most ${number(high)}`,
    range: `${number(low)}–${high ?? ''}`,
  };
  return texts[bound] ?? unitGlyph(unit);
}

/**
 * A part with its readiness, its ribbon and the sentence that says what holds it back.
 * Shape:  none
 * Units:  chances 0 to 1
 * Errors: none
 * Source: none
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

/** The measures asked for in words: "mm. 9–12", "start to K-6". */
export function askedText(from: string, to: string, vocabulary: StudioFacts['vocabulary']): string {
  if (from === 'start' && to === 'end') return 'the whole piece';
  return [from, to].every((point) => /^\d/u.test(point))
    ? measuresText(from, to, vocabulary)
    : `${from} to ${to}`;
}

/**
 * The measures that a part asks for, in its score; the whole score where the sheet names none.
 * Shape:  a half-open run of measure indexes
 * Units:  none
 * Errors: those of resolveSpan
 * Source: none
 */
export function askedSpan(
  measures: Parameters<typeof resolveSpan>[0],
  {
    span_from: from,
    span_to: to,
    pickup_counts: pickupCounts,
  }: { readonly span_from: string | null; readonly span_to: string | null; readonly pickup_counts?: number },
): Result<Span, SpanCode> {
  if (from === null || to === null) return ok({ fromIndex: 0, endIndex: measures.length });
  return resolveSpan(measures, pickupCounts === 1 ? withoutPickup(measures, { from, to }) : { from, to });
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
