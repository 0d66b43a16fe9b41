import { measuresText, quarterBpm } from '@vivid-cue/core/music';
import {
  playedSeconds,
  repeatedStretches,
  resolveSpan,
  withoutPickup,
  type ScoreDigest,
  type Span,
} from '@vivid-cue/core/score';
import { judgeAnswer, judgeChoice, judgeProgram, type PartAnswer } from '@vivid-cue/core/program';
import { scaleInstrument } from '@vivid-cue/core/scale';
import type { Choice, SheetPart } from '@vivid-cue/core/sheet';
import { partStructure } from '@vivid-cue/contract';
import type { ChoiceInput, ProgramPageView, ProgramPartDetail } from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { notFound } from '../http/problem.js';
import { findScore, listScores } from '../scores/repository.js';

import { programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import { findSheetRow, partView, revisionsOf } from '../published/repository.js';

import { findStudent } from '../students/repository.js';
import { findProgram, programsPractising } from './repository.js';
import { askedText, partTempoText } from '../practice/asked.js';
import { effectiveTarget } from '../practice/target.js';
import { sheetTitle } from '../published/sheet-view.js';
import { studioFacts, type StudioFacts } from '../studio/facts.js';

/**
 * A program with every choice and whether it satisfies the sheet.
 * Shape:  parts in the order of the sheet
 * Units:  seconds, beats of the unit per minute
 * Errors: Problem not-found
 */
export async function programPage(studio: Studio, programId: string): Promise<ProgramPageView> {
  const program = await findProgram(studio, programId);
  const sheet = program && (await findSheetRow(studio, program.sheet_id));
  const student = program && (await findStudent(studio, program.student_id));
  if (!program || !sheet || !student) throw notFound('program');
  const revisions = await revisionsOf(studio, [sheet.id]);
  const revision = revisions.find(({ id }) => id === program.revision_id);
  const facts = await studioFacts(studio);
  const rows = await programPartRows(studio, { programIds: [programId] });
  const parts: ProgramPartDetail[] = [];
  for (const row of rows) parts.push(await partDetail(studio, row, facts));
  const taken = new Set(parts.filter(({ choice }) => choice.isTaken).map(({ part }) => part.label));
  const choices = (revision?.extras.choices ?? []).map((choice) => ({
    text: choiceText(choice),
    verdict: judgeChoice(choice as Choice, taken),
  }));
  return {
    id: programId,
    student,
    sheetId: sheet.id,
    sheetTitle: sheetTitle(sheet),
    revisionNumber: revision?.number ?? 1,
    currentRevision: revisions.find(({ id }) => id === sheet.revision_id)?.number ?? 1,
    notes: revision?.extras.notes ?? [],
    openQuestions: (revision?.extras.questions ?? [])
      .filter(({ answer }) => answer === null)
      .map(({ ask }) => ask),
    parts,
    choices,
    verdict: judgeProgram(
      parts.map(({ part, verdict }) => ({ label: part.label, verdict })),
      choices.map(({ verdict }) => verdict),
    ),
    instrumentKnown: scaleInstrument(student.instrument).ok,
    scores: (await listScores(studio)).map(({ id, title, file_name: fileName, work }) => ({
      id,
      title: `${title ?? work} (${fileName})`,
    })),
  };
}

function choiceText({ rule, n, of }: ChoiceInput): string {
  const names = of.map((one) =>
    typeof one === 'string' ? one : one.join(rule === 'oneFromEach' ? ' / ' : ' with '),
  );
  if (rule === 'oneFromEach') return `One from each of: ${names.join('; ')}`;
  if (rule === 'all') return `All of: ${names.join(', ')}`;
  return `${n === 1 || n === null ? 'One' : n} of: ${names.join(', ')}`;
}

async function partDetail(
  studio: Studio,
  row: ProgramPartRow,
  facts: StudioFacts,
): Promise<ProgramPartDetail> {
  const part = partView(row);
  const structure = partStructure(part);
  const stored = row.score_id === null ? null : await findScore(studio, row.score_id);
  const digest = stored && (JSON.parse(stored.digest) as ScoreDigest);
  const answer = answerOf(row, structure, digest, facts);
  const others = await programsPractising(studio, row);
  return {
    id: row.program_part_id,
    part,
    askedText: askedLine(row, structure, facts),
    resolvedText: resolvedText(digest, structure, row.pickup_counts === 1, facts),
    hasPickup: digest?.measures[0]?.implicit === true,
    choice: {
      isTaken: row.is_taken === 1,
      workTitle: row.own_title,
      edition: row.edition,
      page: row.page,
      repeats: row.repeats,
      policy: row.policy,
      pickupCounts: row.pickup_counts === 1,
    },
    target: effectiveTarget(row),
    score: stored && {
      id: stored.id,
      title: row.score_title,
      fileName: stored.file_name,
      from: digest?.measures[0]?.number ?? '',
      to: digest?.measures.at(-1)?.number ?? '',
    },
    verdict: judgeAnswer(structure, answer),
    alsoIn: others.map((sheet) => sheetTitle(sheet)),
  };
}

function askedLine(row: ProgramPartRow, part: SheetPart, { vocabulary }: StudioFacts): string {
  const spans = part.measures.map(({ from, to }) => askedText(String(from), String(to), vocabulary));
  const pieces = [
    ...spans,
    partTempoText(row),
    signedKey(part.key),
    part.octaves === null ? '' : `${part.octaves} ${part.octaves === 1 ? 'octave' : 'octaves'}`,
    part.articulation ?? '',
    part.memory === true ? 'from memory' : '',
    { take: 'with repeats', omit: 'without repeats', unstated: '' }[part.repeats],
    part.accompaniment === null
      ? ''
      : {
          required: 'with accompaniment',
          none: 'unaccompanied',
          optional: 'accompaniment optional',
          'where-applicable': 'accompaniment where applicable',
        }[part.accompaniment],
    part.points === null ? '' : `${part.points} points`,
  ];
  return pieces.filter((piece) => piece !== '').join(' · ');
}

/** "Eb major" with the printed sign. */
function signedKey(key: string | null): string {
  return (key ?? '').replace(/(?<=\b[A-G])b(?=\s)/u, '♭').replace(/(?<=\b[A-G])#/u, '♯');
}

/** What the student plays, with the length it has at the target tempo. */
export function answerOf(
  row: ProgramPartRow,
  part: SheetPart,
  digest: ScoreDigest | null,
  { vocabulary }: StudioFacts,
): PartAnswer {
  const target = effectiveTarget(row);
  const spans = digest ? resolvedSpans(digest, part, row.pickup_counts === 1) : [];
  const issue = digest ? spanIssue(digest, part, row.pickup_counts === 1) : null;
  const seconds =
    digest && target && spans.length > 0
      ? (withRepeats: boolean): number =>
          playedSeconds(digest.measures, digest.order, spans, {
            quarterBpm: quarterBpm(target.bpm, target.beatUnit),
            withRepeats,
          })
      : null;
  const inSpans = (index: number): boolean =>
    spans.some(({ fromIndex, endIndex }) => index >= fromIndex && index < endIndex);
  return {
    isTaken: row.is_taken === 1,
    workTitle: row.own_title || row.work_title || null,
    hasScore: digest !== null,
    spanIssue: issue,
    target,
    policy: row.policy,
    repeats: row.repeats,
    seconds: seconds && { withRepeats: seconds(true), straight: seconds(false) },
    repeated: digest
      ? repeatedStretches(digest.order.filter(inSpans)).map(({ fromIndex, endIndex }) =>
          askedText(
            digest.measures[fromIndex]?.number ?? '',
            digest.measures[endIndex - 1]?.number ?? '',
            vocabulary,
          ),
        )
      : [],
  };
}

function resolve(
  digest: ScoreDigest,
  { from, to }: SheetPart['measures'][number],
  pickupCounts: boolean,
): ReturnType<typeof resolveSpan> {
  const span = { from: String(from), to: String(to) };
  return resolveSpan(digest.measures, pickupCounts ? withoutPickup(digest.measures, span) : span);
}

function resolvedSpans(digest: ScoreDigest, part: SheetPart, pickupCounts: boolean): Span[] {
  if (part.measures.length === 0) return [{ fromIndex: 0, endIndex: digest.measures.length }];
  return part.measures.flatMap((run) => {
    const span = resolve(digest, run, pickupCounts);
    return span.ok ? [span.value] : [];
  });
}

function spanIssue(digest: ScoreDigest, part: SheetPart, pickupCounts: boolean): string | null {
  for (const run of part.measures) {
    const span = resolve(digest, run, pickupCounts);
    if (!span.ok) return span.issues[0]?.message ?? null;
  }
  return null;
}

/** The asked measures in the score's own printed numbers, where the sheet names them otherwise. */
function resolvedText(
  digest: ScoreDigest | null,
  part: SheetPart,
  pickupCounts: boolean,
  { vocabulary }: StudioFacts,
): string | null {
  const isPrinted = part.measures.every(({ from, to }) => typeof from === 'number' && typeof to === 'number');
  if (!digest || part.measures.length === 0 || (isPrinted && !pickupCounts)) return null;
  const spans = resolvedSpans(digest, part, pickupCounts).map(({ fromIndex, endIndex }) =>
    measuresText(
      digest.measures[fromIndex]?.number ?? '',
      digest.measures[endIndex - 1]?.number ?? '',
      vocabulary,
    ),
  );
  return spans.length === 0 ? null : spans.join(', ');
}
