import { groupBy } from '@vivid-cue/core/base';
import { inVocabulary, quarterBpm } from '@vivid-cue/core/music';
import {
  choiceText,
  judgeAnswer,
  judgeChoice,
  judgeProgram,
  type PartAnswer,
  type Taken,
} from '@vivid-cue/core/program';
import { scaleInstrument } from '@vivid-cue/core/scale';
import {
  playedSeconds,
  printedSpan,
  repeatedStretches,
  runText,
  type ScoreDigest,
  type Span,
} from '@vivid-cue/core/score';
import { partName, type Choice, type SheetPart } from '@vivid-cue/core/sheet';
import type { AskedQuestion, ProgramPageView, ProgramPartDetail } from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { notFound } from '../http/problem.js';
import { askedSpans, askedText, partTempoText } from '../practice/asked.js';
import { programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import { effectiveTarget } from '../practice/target.js';
import { findSheetRow, partsOf, revisionsOf } from '../published/repository.js';
import { partView } from '../published/sheet-part.js';
import { sheetTitle } from '../published/sheet-view.js';
import { findScores, listScores, type ScoreRow } from '../scores/repository.js';
import { findStudent } from '../students/repository.js';
import { studioFacts, type StudioFacts } from '../studio/facts.js';
import { findProgram, otherPrograms, type PractisedIn } from './repository.js';

/** What the details of all parts are made from. */
interface PageFacts {
  readonly facts: StudioFacts;
  /** All parts of the sheet, to tell those of one name apart. */
  readonly sheetParts: readonly SheetPart[];
  readonly scores: ReadonlyMap<string, ScoreRow>;
  readonly others: ReadonlyMap<string, readonly PractisedIn[]>;
}

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
  const rows = await programPartRows(studio, { programIds: [programId] });
  const sheetParts = (await partsOf(studio, [program.revision_id])).map((row) => partView(row));
  const page = await pageFacts(studio, { programId, studentId: program.student_id }, { rows, sheetParts });
  const parts = rows.map((row) => partDetail(row, page));
  const choices = choicesOf((revision?.extras.choices ?? []) as readonly Choice[], parts);
  return {
    id: programId,
    student,
    sheetId: sheet.id,
    sheetTitle: sheetTitle(sheet),
    revisionNumber: revision?.number ?? 1,
    currentRevision: revisions.find(({ id }) => id === sheet.revision_id)?.number ?? 1,
    division: program.division,
    divisions: [...new Set(sheetParts.flatMap(({ scope }) => scope.divisions))],
    notes: revision?.extras.notes ?? [],
    openQuestions: openQuestions(revision?.extras.questions ?? [], parts),
    parts,
    choices,
    verdict: judgeProgram(
      parts.map(({ name, verdict }) => ({ label: name, verdict })),
      choices.map(({ verdict }) => verdict),
    ),
    instrumentKnown: scaleInstrument(student.instrument).ok,
    scores: await scoreChoices(studio),
  };
}

/** What the parts of a page share, asked once. */
async function pageFacts(
  studio: Studio,
  of: { readonly programId: string; readonly studentId: string },
  {
    rows,
    sheetParts,
  }: { readonly rows: readonly ProgramPartRow[]; readonly sheetParts: PageFacts['sheetParts'] },
): Promise<PageFacts> {
  const scoreIds = rows.flatMap(({ score_id: id }) => (id === null ? [] : [id]));
  const others = await otherPrograms(studio, of);
  return {
    facts: await studioFacts(studio),
    sheetParts,
    scores: await findScores(studio, scoreIds),
    others: groupBy(others, ({ score_id: id }) => id),
  };
}

/** Questions that nobody answered, of the whole sheet or of this program's parts. */
function openQuestions(questions: readonly AskedQuestion[], parts: readonly ProgramPartDetail[]): string[] {
  const own = new Set(parts.map(({ part }) => part.id));
  return questions
    .filter(({ answer, partId }) => answer === null && (partId === null || own.has(partId)))
    .map(({ ask }) => ask);
}

async function scoreChoices(studio: Studio): Promise<ProgramPageView['scores']> {
  return (await listScores(studio)).map(({ id, title, file_name: fileName, work }) => ({
    id,
    title: `${title ?? work} (${fileName})`,
  }));
}

/** The rules of choice that speak of this program's parts. */
function choicesOf(
  choices: readonly Choice[],
  parts: readonly ProgramPartDetail[],
): ProgramPageView['choices'] {
  const names = new Map(parts.map(({ part, name }) => [part.id, name]));
  const taken: Taken = {
    ids: new Set(parts.filter(({ choice }) => choice.isTaken).map(({ part }) => part.id)),
    nameOf: (id) => names.get(id) ?? id,
  };
  const isUuid = (id: string): boolean => /^[\da-f-]{36}$/u.test(id);
  // A rule for another instrument names none of this program's parts.
  const isOurs = ({ of }: Choice): boolean => of.flat().some((id) => names.has(id) || !isUuid(id));
  return choices
    .filter(isOurs)
    .map((choice) => ({ text: choiceText(choice, taken.nameOf), verdict: judgeChoice(choice, taken) }));
}

function partDetail(
  row: ProgramPartRow,
  { facts, sheetParts, scores, others }: PageFacts,
): ProgramPartDetail {
  const part = partView(row);
  const stored = scores.get(row.score_id ?? '') ?? null;
  const digest = stored && (JSON.parse(stored.digest) as ScoreDigest);
  return {
    id: row.program_part_id,
    part,
    name: partName(part, sheetParts),
    askedText: askedLine(row, part, facts),
    resolvedText: resolvedText(digest, row, facts),
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
    verdict: judgeAnswer(part, answerOf(row, digest, facts)),
    alsoIn: (others.get(row.score_id ?? '') ?? []).map((sheet) => sheetTitle(sheet)),
  };
}

function askedLine(row: ProgramPartRow, part: SheetPart, { vocabulary }: StudioFacts): string {
  const { octaves, accompaniment, points } = part;
  const pieces = [
    askedText(row, vocabulary),
    partTempoText(row),
    signedKey(part.key),
    octaves === null ? '' : `${octaves} ${octaves === 1 ? 'octave' : 'octaves'}`,
    part.articulation ?? '',
    part.memory === true ? 'from memory' : '',
    { take: 'with repeats', omit: 'without repeats', unstated: '' }[part.repeats],
    accompaniment === null
      ? ''
      : {
          required: 'with accompaniment',
          none: 'unaccompanied',
          optional: 'accompaniment optional',
          'where-applicable': 'accompaniment where applicable',
        }[accompaniment],
    points === null ? '' : `${points} points`,
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
  digest: ScoreDigest | null,
  { vocabulary }: StudioFacts,
): PartAnswer {
  const target = effectiveTarget(row);
  const asked = digest && askedSpans(digest.measures, row);
  const spans = asked?.ok ? asked.value : [];
  const seconds =
    digest && target && spans.length > 0
      ? (withRepeats: boolean): number =>
          playedSeconds(digest.measures, digest.order, {
            spans,
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
    spanIssue: asked && !asked.ok ? inVocabulary(asked.issues[0]?.message ?? '', vocabulary) : null,
    target,
    policy: row.policy,
    repeats: row.repeats,
    seconds: seconds && { withRepeats: seconds(true), straight: seconds(false) },
    repeated: digest
      ? repeatedStretches(digest.order.filter(inSpans)).map((span) => printedText(digest, span, vocabulary))
      : [],
  };
}

/** A stretch in the score's own printed numbers. */
function printedText({ measures }: ScoreDigest, span: Span, vocabulary: StudioFacts['vocabulary']): string {
  return runText(printedSpan(measures, span), vocabulary);
}

/** The asked measures in the score's own printed numbers, where the sheet names them otherwise. */
function resolvedText(
  digest: ScoreDigest | null,
  row: ProgramPartRow,
  { vocabulary }: StudioFacts,
): string | null {
  const { measures } = partView(row);
  const isPrinted = measures.every(({ from, to }) => typeof from === 'number' && typeof to === 'number');
  if (!digest || measures.length === 0 || (isPrinted && row.pickup_counts === 0)) return null;
  const spans = askedSpans(digest.measures, row);
  return spans.ok ? spans.value.map((span) => printedText(digest, span, vocabulary)).join(', then ') : null;
}
