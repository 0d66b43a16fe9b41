import { runsPhrase, type ScoreDigest } from '@vivid-cue/core/score';
import { daysLeft, dueMoment, type ScoreRoomView } from '@vivid-cue/contract';
import { inVocabulary } from '@vivid-cue/core/music';
import { cueRows, cueView } from '../cues/repository.js';
import type { Studio } from '../db/studio.js';
import { findingMarks } from '../findings/repository.js';
import { notFound } from '../http/problem.js';
import { passageView } from '../passages/view.js';
import { readMeasureMap } from '../practice/measure-map.js';
import { findScore, readNumbering } from './repository.js';
import { judgePart } from '../practice/judge.js';
import { ownerOfPart, programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import { deadlinesOf, findSheetRow, revisionsById, type RevisionRow } from '../published/repository.js';
import { askedRuns } from '../published/sheet-part.js';
import { askedText, askedSpans, partTempoText, sourceText } from '../practice/asked.js';
import { scoreMusic } from '../practice/score-music.js';
import { passageRows } from '../practice/passage-row.js';
import { effectiveTarget, practiceTarget } from '../practice/target.js';
import { nextDeadline, sheetTitle } from '../published/sheet-view.js';
import { readSchools } from '../students/repository.js';
import { readBook } from '../studio/book.js';
import { studioFacts, type StudioFacts } from '../studio/facts.js';

/**
 * Everything the score room of one part shows.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found
 */
export async function scoreRoom(
  studio: Studio,
  programPartId: string,
  nowMs: number,
): Promise<ScoreRoomView> {
  const owner = await ownerOfPart(studio, programPartId);
  const sheet = owner && (await findSheetRow(studio, owner.sheet_id));
  const parts = owner ? await programPartRows(studio, { programIds: [owner.program_id] }) : [];
  const part = parts.find(({ program_part_id: id }) => id === programPartId);
  if (!owner || !sheet || !part) throw notFound('part');
  const facts = await studioFacts(studio);
  const [revision] = await revisionsById(studio, [owner.revision_id]);
  const score = part.score_id === null ? null : await findScore(studio, part.score_id);
  const digest = score && (JSON.parse(score.digest) as ScoreDigest);
  const { runs, issue } = runsIn(part, digest);
  return {
    programPartId,
    student: { id: owner.student_id, name: owner.name, instrument: owner.instrument, version: owner.version },
    sheetId: sheet.id,
    sheetTitle: sheetTitle(sheet),
    partLabel: part.label,
    workTitle: part.work_title,
    sourceText: sourceText(part),
    askedText: askedText(part, facts.vocabulary),
    asked: askedRuns(part),
    spanIssue: issue && inVocabulary(issue, facts.vocabulary),
    tempoText: partTempoText(part),
    target: effectiveTarget(part),
    daysLeft: await daysAhead(studio, owner.revision_id, { nowMs, zone: facts.zone }),
    score: score && digest && { id: score.id, fileName: score.file_name, digest },
    runs,
    ...(await practised(studio, part, { facts, nowMs })),
    book: await readBook(studio),
    numbering: readNumbering(score?.numbering ?? null),
    ornamentRules: ornamentRules(revision),
    program: { id: part.program_id, parts: playedParts(parts) },
  };
}

/** What its player did with a part's score: passages, cues, decisions, and how ready all that is. */
async function practised(
  studio: Studio,
  part: ProgramPartRow,
  { facts, nowMs }: { readonly facts: StudioFacts; readonly nowMs: number },
): Promise<Pick<ScoreRoomView, 'passages' | 'cues' | 'air' | 'findingMarks' | 'part'>> {
  const passages = await passageRows(studio, [part]);
  const isAsked = (await practiceTarget(studio, part))?.isAsked ?? false;
  const music = scoreMusic(part.measure_map);
  const { state, chance, expectedSlips, sentence } = judgePart({ part, music, passages, facts, nowMs });
  return {
    passages: passages.map((row) => passageView(row, { nowMs, isAsked })),
    cues: (await cueRows(studio, part)).map(cueView),
    air: (await readSchools(studio, part.student_id)).air,
    findingMarks: await findingMarks(studio, part),
    part: { state, chance, expectedSlips, sentence },
  };
}

/** Days to the next date of a revision; null without one. */
async function daysAhead(
  studio: Studio,
  revisionId: string,
  { nowMs, zone }: { readonly nowMs: number; readonly zone: string },
): Promise<number | null> {
  const next = nextDeadline(await deadlinesOf(studio, [revisionId]), nowMs);
  const moment = next && dueMoment(next);
  return moment && daysLeft(moment, nowMs, zone);
}

/** What the sheet says of ornaments. */
function ornamentRules(revision: RevisionRow | undefined): string[] {
  return (revision?.extras.notes ?? []).filter(({ kind }) => kind === 'ornament').map(({ text }) => text);
}

/** The parts of a program that are played and have a score that holds what is asked. */
function playedParts(parts: readonly ProgramPartRow[]): ScoreRoomView['program']['parts'] {
  return parts.flatMap((part) => {
    const measures = part.is_taken === 1 ? readMeasureMap(part.measure_map) : null;
    const spans = measures && askedSpans(measures, part);
    return spans?.ok ? [{ id: part.program_part_id, label: part.label, runs: spans.value }] : [];
  });
}

function runsIn(
  part: ProgramPartRow,
  digest: ScoreDigest | null,
): { readonly runs: ScoreRoomView['runs']; readonly issue: string | null } {
  if (!digest) return { runs: [], issue: null };
  const spans = askedSpans(digest.measures, part);
  if (spans.ok) return { runs: spans.value, issue: null };
  return {
    runs: [],
    issue: `The sheet asks for ${runsPhrase(askedRuns(part))}. ${spans.issues[0]?.message ?? ''}`,
  };
}
