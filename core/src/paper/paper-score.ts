import { fail, ok, type Result } from '../base/index.js';
import type { Score, ScoreMeasure } from '../score/index.js';
import type { PaperCode, PaperMusic, TypedIssue } from './paper.js';
import { barAt, boxesOf } from './page-layout.js';
import { readToldLine } from './told-line.js';
import { startOfMusic, type ToldMusic } from './told.js';
import { scoreOfTold } from './told-score.js';
import { readTyped } from './typed.js';

/**
 * Music on paper as a score: told measures, which of them pages show, and over them the notes that were typed in. What is
 * unknown stays unknown.
 * Shape:  each measure says where it is known from; of overlapping passages the later one holds
 * Units:  as Score
 * Errors: paper-told where the line is not understood, paper-typed where a passage does not fit its measures
 * Source: docs/formats.md
 */
export function scoreOfPaper({ title, line, typed, pages }: PaperMusic): Result<Score, PaperCode> {
  const { music, issues } = readToldLine(line);
  if (!music || issues.length > 0)
    return fail('paper-told', '', issues[0]?.message ?? 'Tell the measures first, such as 1–32 4/4.');
  const told = onPages(scoreOfTold(music, title), pages, music);
  const readings = typed.map((passage, at) => readTyped(passage, at, told.measures));
  const wrong = readings.flatMap((one): readonly TypedIssue[] => ('issues' in one ? one.issues : []));
  const [first, ...rest] = wrong;
  if (first) return { ok: false, issues: [first, ...rest] };
  return ok(readings.reduce((score, one) => ('score' in one ? laidOver(score, one) : score), told));
}

/** A score whose measures know that pages show them, and where a double bar line closes one. */
function onPages(score: Score, pages: PaperMusic['pages'], music: ToldMusic): Score {
  const shown = new Map<number, boolean>();
  for (const box of boxesOf(pages, startOfMusic(music)))
    for (let n = 0; n < box.count; n += 1)
      shown.set(box.number + n, n === box.count - 1 && barAt(pages, box)?.kind === 'double');
  if (shown.size === 0) return score;
  const measures = score.measures.map((measure): ScoreMeasure => {
    const endsInDoubleBar = shown.get(Number(measure.number));
    return endsInDoubleBar === undefined ? measure : { ...measure, source: 'page', endsInDoubleBar };
  });
  return { ...score, measures };
}

/** A score with the notes of some of its measures. */
function laidOver(
  score: Score,
  { score: typed, indexes }: { readonly score: Score; readonly indexes: readonly number[] },
): Score {
  const [from = 0] = indexes;
  const own = new Set(indexes);
  const isKept = ({ measureIndex }: { readonly measureIndex: number }): boolean => !own.has(measureIndex);
  const merge = <One extends { readonly measureIndex: number }>(
    before: readonly One[],
    added: readonly One[],
  ): One[] =>
    [
      ...before.filter((one) => isKept(one)),
      ...added.map((one) => ({ ...one, measureIndex: one.measureIndex + from })),
    ].sort((a, b) => a.measureIndex - b.measureIndex);
  const notes = merge(score.notes, typed.notes);
  const { dynamics, hairpins, words } = score.marks;
  return {
    ...score,
    parts: [{ id: score.partId, name: '', noteCount: notes.filter(({ isRest }) => !isRest).length }],
    notes,
    measures: score.measures.map((measure): ScoreMeasure =>
      own.has(measure.index) ? { ...measure, source: 'typed', toldNotes: null } : measure,
    ),
    marks: {
      dynamics: merge(dynamics, typed.marks.dynamics),
      hairpins: merge(hairpins, typed.marks.hairpins),
      words: merge(words, typed.marks.words),
    },
  };
}
