import { isDeepStrictEqual } from 'node:util';
import type { Progress } from '@vivid-cue/core/readiness';
import { addFromStudent } from '../students/from-student.js';
import {
  recordRepSchema,
  recordSchema,
  type RecordReadView,
  type RecordRep,
  type SheetInput,
  type StudentRecord,
} from '@vivid-cue/contract';
import { readPaper, writePaper } from '@vivid-cue/core/paper';
import { v7 as newId } from 'uuid';
import { insertOnce, rowsOf, together, type Studio } from '../db/studio.js';
import { sha256 } from '../db/sha256.js';
import { Problem } from '../http/problem.js';
import { checkedInput } from '../http/validate.js';
import { rebuildSnapshot } from '../passages/snapshot.js';
import { snapshotOf } from '../practice/passage-row.js';
import { findPassage } from '../passages/repository.js';
import { givePages, insertPage } from '../pages/repository.js';
import type { PagePictures } from '../pages/pictures.js';
import { picturesInTurn, refuseUnknownPages } from '../pages/service.js';
import { insertSheet, partsOf } from '../published/repository.js';
import { readFile } from '../scores/reader.js';
import type { FileReading } from '../scores/reading-worker.js';
import { insertScore, workIdFor } from '../scores/repository.js';
import { addTakes } from '../takes/record.js';
import { insertUnit } from '../units/routes.js';

/** So much is checked or written before others have their turn. */
const AT_ONCE = 500;

/**
 * Checks a record as it came.
 * Errors: Problem input-invalid with what is wrong; nothing is written
 */
export async function checkedRecord(text: string): Promise<StudentRecord> {
  const record = checkedInput(recordSchema, parsed(text)) as StudentRecord;
  for (let n = 0; n < record.reps.length; n += AT_ONCE) {
    for (const rep of record.reps.slice(n, n + AT_ONCE)) checkedInput(recordRepSchema, rep);
    await new Promise(setImmediate);
  }
  return record;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Problem(
      'json-broken',
      'This file is no record of a student: it is not whole, or of another kind.',
    );
  }
}

/**
 * Reads a student's record in, as a student of this studio: every row gets an identifier of its own, scores are read
 * anew, and readiness is counted from the reps. A sheet that the studio has already is not taken twice.
 * Shape:  what was read in, and what stands otherwise than the record says
 * Units:  milliseconds since 1970
 * Errors: Problem input-invalid where the record refers to what it does not hold; score-refused; id-taken
 */
export async function importRecord(
  studio: Studio,
  {
    record,
    studentId,
    nowMs,
  }: { readonly record: StudentRecord; readonly studentId: string; readonly nowMs: number },
): Promise<RecordReadView> {
  const sheets = await Promise.all(record.sheets.map((sheet) => placeOf(studio, sheet)));
  const own = renamed(record, studentId, sheets);
  const readings = new Map<string, FileReading>();
  for (const score of own.scores) readings.set(score.id, await readAgain(studio, score));
  refuseBeyond(own, readings);
  const pictures = await picturesOf(studio, own.pages ?? []);
  const now = new Date(nowMs);
  const differing = await together(studio, async (inside) => {
    const { name, instrument } = own.student;
    if (
      !(await insertOnce(inside, 'students', {
        ...{ id: studentId, name, instrument, created_at: now },
        schools: JSON.stringify(record.schools ?? {}),
      }))
    )
      throw new Problem('id-taken', 'This record was read in already; look for the student in the season.');
    const revisions = new Map<string, string>();
    for (const [n, sheet] of own.sheets.entries())
      revisions.set(sheet.id, sheets[n]?.revisionId ?? (await addedSheet(inside, sheet, now)));
    for (const [id, picture] of pictures) await addPage(inside, { id, pictures: picture, now });
    for (const score of own.scores) await addScore(inside, score, { reading: readings.get(score.id), now });
    await addPrograms(inside, own, { revisions, now });
    await addPassages(inside, own, now);
    await addNotes(inside, own, now);
    await addFromStudent(inside, own, now);
    await addReps(inside, own.reps, now);
    await addPlayed(inside, own, { studentId, now });
    return recount(inside, own);
  }).catch(refuseLoose);
  return { studentId, passages: own.passages.length, reps: own.reps.length, differing };
}

/** Pages made anew, by their identifiers. Errors: as picturesInTurn */
async function picturesOf(
  studio: Studio,
  pages: NonNullable<StudentRecord['pages']>,
): Promise<Map<string, PagePictures>> {
  const pictures = new Map<string, PagePictures>();
  for (const { id, picture } of pages)
    pictures.set(id, await picturesInTurn(studio, Buffer.from(picture, 'base64')));
  return pictures;
}

/** Units of practice and takes. */
async function addPlayed(
  studio: Studio,
  { units = [], takes = [] }: StudentRecord,
  { studentId, now }: { readonly studentId: string; readonly now: Date },
): Promise<void> {
  for (const unit of units) await insertUnit(studio, studentId, unit);
  await addTakes(studio, { studentId, takes, now });
}

/** What the database refuses of a record that was checked: rows that refer to none of it, and rows that come twice. */
function refuseLoose(error: unknown): never {
  const { code } = error as { readonly code?: string };
  if (code !== 'ER_NO_REFERENCED_ROW_2' && code !== 'ER_DUP_ENTRY') throw error;
  const message =
    'This record is not whole: parts of it belong to what it does not hold. Nothing was read in.';
  throw new Problem('input-invalid', message, { issues: [{ where: 'file', message }] });
}

/** Where a sheet of a record stands in the studio. Shape: null where the studio does not have it as the record does */
async function placeOf(studio: Studio, sheet: SheetInput): Promise<{ readonly revisionId: string } | null> {
  const revisions = (await rowsOf(studio, 'sheet_revisions as v')
    .join('sheets as s', 's.id', 'v.sheet_id')
    .where('v.sheet_id', sheet.id)
    .whereNull('s.deleted_at')
    .orderBy('v.number', 'desc')
    .select('v.id')) as unknown as { id: string }[];
  for (const { id } of revisions) {
    const known = new Set((await partsOf(studio, [id])).map((part) => part.origin_id));
    if (sheet.parts.every((part) => known.has(part.id))) return { revisionId: id };
  }
  return null;
}

/**
 * A record with new identifiers, in the order of the old ones, because reps of one instant count in the order of theirs.
 * Sheets that the studio has keep theirs.
 */
function renamed(
  record: StudentRecord,
  studentId: string,
  places: readonly (object | null)[],
): StudentRecord {
  const kept = new Set(
    record.sheets.flatMap((sheet, n) => (places[n] ? [sheet.id, ...sheet.parts.map((part) => part.id)] : [])),
  );
  const old = new Set<string>();
  walked(record, (text) => {
    if (ID.test(text) && !kept.has(text)) old.add(text);
    return text;
  });
  const fresh = new Map([...old].sort().map((id) => [id, newId()]));
  fresh.set(record.student.id, studentId);
  const own = walked(record, (text) => fresh.get(text) ?? text) as StudentRecord;
  return {
    ...own,
    scores: own.scores.map((score) => ({ ...score, file: withFreshPages(score.file, fresh) })),
  };
}

/** Music on paper names its pages inside of its file. Shape: base64 */
function withFreshPages(file: string, fresh: ReadonlyMap<string, string>): string {
  const read = readPaper(Buffer.from(file, 'base64'));
  if (!read.ok || read.value.pages.length === 0) return file;
  const pages = read.value.pages.map((page) => ({
    ...page,
    picture: fresh.get(page.picture) ?? page.picture,
  }));
  return Buffer.from(writePaper({ ...read.value, pages })).toString('base64');
}

const ID = /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}$/u;

/** A value with every text in it changed. */
function walked(value: unknown, change: (text: string) => string): unknown {
  if (typeof value === 'string') return change(value);
  if (Array.isArray(value)) return value.map((one) => walked(one, change));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, walked(inner, change)]));
}

type RecordScore = StudentRecord['scores'][number];

function readAgain(studio: Studio, score: RecordScore): Promise<FileReading> {
  return readFile(studio.id, {
    bytes: Buffer.from(score.file, 'base64'),
    partId: score.partId,
    instrument: null,
    numbering: score.restarts,
    before: null,
  });
}

/** Refuses passages and cues beyond their scores; what else does not belong together the database refuses. */
function refuseBeyond({ passages, cues }: StudentRecord, readings: ReadonlyMap<string, FileReading>): void {
  for (const { scoreId, from, to, fromIndex, endIndex } of [...passages, ...cues]) {
    const measures = readings.get(scoreId)?.digest.measures.length ?? 0;
    if (fromIndex < endIndex && endIndex <= measures) continue;
    const message = `The record has a passage or cue at ${from}–${to}, which its score does not hold; nothing was read in.`;
    throw new Problem('input-invalid', message, { issues: [{ where: 'file', message }] });
  }
}

async function addedSheet(studio: Studio, sheet: SheetInput, now: Date): Promise<string> {
  const revisionId = newId();
  await insertSheet(studio, sheet, { revisionId, now });
  return revisionId;
}

async function addScore(
  studio: Studio,
  { id, work, fileName }: RecordScore,
  { reading, now }: { readonly reading: FileReading | undefined; readonly now: Date },
): Promise<void> {
  if (!reading) return;
  const { file, digest, numbering, pages } = reading;
  await refuseUnknownPages(studio, pages);
  const workId = await workIdFor(studio, work, { id: newId(), now });
  await insertScore(studio, { id, workId, fileName, file, sha256: sha256(file), digest, numbering }, now);
  await givePages(studio, id, pages);
}

async function addPage(
  studio: Studio,
  { id, pictures, now }: { readonly id: string; readonly pictures: PagePictures; readonly now: Date },
): Promise<void> {
  // Brought for no part of this studio: it belongs to its score.
  const page = { id, programPartId: id, pictures, sha256: sha256(pictures.files.whole) };
  if (!(await insertPage(studio, page, now)))
    throw new Problem('id-taken', 'This record was read in already; look for the student in the season.');
}

/** Writes rows of one table, some at a time. */
async function addRows(
  studio: Studio,
  table: string,
  rows: readonly Readonly<Record<string, unknown>>[],
): Promise<void> {
  for (let n = 0; n < rows.length; n += AT_ONCE)
    await studio
      .db(table)
      .insert(rows.slice(n, n + AT_ONCE).map((row) => ({ ...row, studio_id: studio.id })));
}

async function addPrograms(
  studio: Studio,
  { programs, student }: StudentRecord,
  { revisions, now }: { readonly revisions: ReadonlyMap<string, string>; readonly now: Date },
): Promise<void> {
  for (const { id, sheetId, division, isRemoved, parts } of programs) {
    const revisionId = revisions.get(sheetId) ?? '';
    const rowIds = new Map((await partsOf(studio, [revisionId])).map((row) => [row.origin_id, row.id]));
    const program = { id, student_id: student.id, sheet_id: sheetId, revision_id: revisionId, division };
    await addRows(studio, 'programs', [{ ...program, created_at: now, deleted_at: isRemoved ? now : null }]);
    const rows = parts.map((part) => ({
      id: part.id,
      program_id: id,
      sheet_part_id: rowIds.get(part.partId) ?? '',
      score_id: part.scoreId,
      target_bpm: part.target?.bpm ?? null,
      target_unit: part.target?.beatUnit ?? null,
      is_taken: part.isTaken,
      own_title: part.workTitle,
      edition: part.edition,
      page: part.page,
      repeats: part.repeats,
      policy: part.policy,
      pickup_counts: part.pickupCounts,
    }));
    await addRows(studio, 'program_parts', rows);
  }
}

function spanOf({
  from,
  to,
  fromIndex,
  endIndex,
}: Pick<StudentRecord['cues'][number], 'from' | 'to' | 'fromIndex' | 'endIndex'>) {
  return { span_from: from, span_to: to, from_index: fromIndex, end_index: endIndex };
}

function addPassages(studio: Studio, { passages, student }: StudentRecord, now: Date): Promise<void> {
  const rows = passages.map((passage) => ({
    id: passage.id,
    student_id: student.id,
    score_id: passage.scoreId,
    name: passage.name,
    ...spanOf(passage),
    target_bpm: passage.target?.bpm,
    target_unit: passage.target?.beatUnit,
    has_own_target: passage.hasOwnTarget,
    is_seam: passage.isSeam ?? false,
    step_kind: passage.step.kind,
    step_size: passage.step.size,
    rule: passage.rule,
    slip_rule: passage.slipRule ?? 'stay',
    climb_school: passage.school ?? null,
    created_at: now,
    deleted_at: passage.isRemoved ? now : null,
  }));
  return addRows(studio, 'passages', rows);
}

async function addNotes(
  studio: Studio,
  { cues, findingMarks, student }: StudentRecord,
  now: Date,
): Promise<void> {
  const own = { student_id: student.id, created_at: now };
  const cueRows = cues.map((cue) => ({
    ...own,
    id: cue.id,
    score_id: cue.scoreId,
    kind: cue.kind,
    text: cue.text,
    note: cue.note,
    beat: cue.beat,
    sign: cue.sign,
    status: cue.status,
    reason: cue.reason,
    author: cue.author,
    alternatives: JSON.stringify(cue.alternatives),
    ...spanOf(cue),
    finding_key: cue.findingKey,
    deleted_at: cue.isRemoved ? now : null,
  }));
  await addRows(studio, 'cues', cueRows);
  const markRows = findingMarks.map(({ id, scoreId, key, measure, mark }) => ({
    ...own,
    id,
    score_id: scoreId,
    finding_key: key,
    measure,
    mark,
  }));
  await addRows(studio, 'finding_marks', markRows);
}

async function addReps(studio: Studio, reps: readonly RecordRep[], now: Date): Promise<void> {
  const rows = reps.map((rep) => ({
    id: rep.id,
    passage_id: rep.passageId,
    at: new Date(rep.at),
    day: rep.day,
    bpm: rep.bpm,
    beat_unit: rep.beatUnit,
    context: rep.context,
    is_clean: rep.isClean,
    witness: rep.witness ?? 'instructor',
    optimism: rep.optimism ?? 0,
    received_at: now,
  }));
  await addRows(studio, 'reps', rows);
  const back = reps.filter(({ isTakenBack }) => isTakenBack);
  const retractions = back.map(({ id }) => ({ id, rep_id: id, created_at: now }));
  await addRows(studio, 'rep_retractions', retractions);
}

/** Whether a passage stands as a record says; records of before slips were counted say nothing of them. */
function standsAs(progress: Progress, said: string): boolean {
  const { ladder, ...record } = JSON.parse(said) as Progress;
  return isDeepStrictEqual(progress, { ...record, ladder: { ...progress.ladder, ...ladder } });
}

/** Counts every passage from its reps. Shape: names of those that stand otherwise than the record says */
async function recount(studio: Studio, { passages }: StudentRecord): Promise<string[]> {
  const differing: string[] = [];
  for (const { id, name, progress, isRemoved } of passages) {
    const passage = isRemoved ? null : await findPassage(studio, id);
    if (!passage) continue;
    await rebuildSnapshot(studio, id, { passage, since: null });
    const row = await findPassage(studio, id);
    if (!row || !standsAs(snapshotOf(row), progress)) differing.push(name);
  }
  return differing;
}
