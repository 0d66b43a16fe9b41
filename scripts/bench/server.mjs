import { readFileSync } from 'node:fs';
import mysql from 'mysql2/promise';
import { v7 as newId } from 'uuid';
import { blankPart } from '../../core/dist/sheet/index.js';
import {
  addPassage,
  addProgram,
  addSheet,
  addStudent,
  connect,
  migrate,
  logRep,
  logReps,
  openStudio,
  season,
  studentPage,
  uploadScore,
} from '../../server/dist/index.js';
import { line, median, ms, p95, ratio, times } from './timing.mjs';

const STUDENTS = 60;
const PROGRAMS = 4;
const PASSAGES = 40;
const DAY_MS = 86_400_000;

/** A studio of 60 students × 4 programs × 40 passages, written through the services and filled up by plain SQL. */
async function fill(db, nowMs) {
  const account = await openStudio(
    db,
    {
      id: newId(),
      studioId: newId(),
      email: 'bench@studio.example',
      password: 'a password of the bench',
      name: 'Bench',
      studioName: 'Bench',
      zone: 'UTC',
    },
    { now: new Date(nowMs), from: null },
  );
  const studio = { db, id: account.studioId };
  const tempo = { beatUnit: 'quarter', bpmMin: 116, bpmMax: 116, bound: 'exact', words: null };
  const sheets = Array.from({ length: PROGRAMS }, (_, n) => ({
    id: newId(),
    body: `Body ${n}`,
    year: '2027',
    division: '',
    instrument: 'clarinet',
    deadlines: [
      {
        id: newId(),
        kind: 'audition',
        date: new Date(nowMs + (20 + n) * DAY_MS).toISOString().slice(0, 10),
        time: null,
        zone: 'UTC',
      },
    ],
    parts: Array.from({ length: 4 }, (_, k) => ({
      ...blankPart(`Etude ${k + 1}`, 'etude', newId()),
      title: `Study ${n}.${k}`,
      measures: [{ from: 1, to: 32, anchorText: null }],
      tempo,
    })),
  }));
  for (const sheet of sheets) await addSheet(studio, sheet, nowMs);
  const bytes = readFileSync(new URL('../../demo/studies/ferry-lines.musicxml', import.meta.url));
  const passageIds = [];
  let played = null;
  for (let s = 0; s < STUDENTS; s += 1) {
    const studentId = newId();
    await addStudent(
      studio,
      { id: studentId, name: `Student ${s}`, instrument: 'clarinet' },
      new Date(nowMs),
    );
    for (const sheet of sheets)
      await addProgram(studio, { id: newId(), studentId, sheetId: sheet.id }, new Date(nowMs));
    const { programs } = await studentPage(studio, studentId, nowMs);
    for (const part of programs.flatMap(({ parts }) => parts)) {
      if (s === 0)
        await uploadScore(studio, part.id, {
          upload: { id: newId(), fileName: 'study.musicxml', partId: null, bytes },
          nowMs,
        });
      for (let k = 0; k < PASSAGES / 4; k += 1) {
        const id = newId();
        passageIds.push(id);
        if (s === 0) {
          const [from, to] = [String(3 * k + 1), String(3 * k + 3)];
          const input = { id, name: `passage ${k}`, from, to, target: null };
          await addPassage(studio, part.id, { input, nowMs });
          for (let n = 0; n < 6; n += 1)
            await logRep(studio, id, { rep: rep(nowMs - (9 - n) * 60_000, n % 4 > 0), nowMs });
          played = id;
        } else await copyPassage(db, studio, { id, programPartId: part.id, studentId, played, k, nowMs });
      }
    }
  }
  return { studio, passageIds };
}

/** A rep as a page sends it. */
function rep(atMs, isClean) {
  return {
    id: newId(),
    at: new Date(atMs).toISOString(),
    bpm: 63,
    beatUnit: 'quarter',
    context: 'alone',
    isClean,
  };
}

/** One more passage with the snapshot of one that was played. */
async function copyPassage(db, studio, { id, programPartId, studentId, played, k, nowMs }) {
  const { score_id: scoreId } = await db('program_parts').where({ id: programPartId }).first('score_id');
  const passage = await db('passages').where({ id: played }).first();
  const snapshot = await db('readiness_snapshots').where({ id: played }).first();
  await db('passages').insert({
    ...passage,
    id,
    student_id: studentId,
    score_id: scoreId,
    name: `passage ${k}`,
    span_from: 3 * k + 1,
    span_to: 3 * k + 3,
    from_index: 3 * k,
    end_index: 3 * k + 3,
    created_at: new Date(nowMs),
  });
  await db('readiness_snapshots').insert({ ...snapshot, id });
}

async function fillReps(db, studio, passageIds, count, nowMs) {
  for (let done = 0; done < count; done += 2000) {
    const rows = Array.from({ length: Math.min(2000, count - done) }, (_, n) => ({
      id: newId(),
      studio_id: studio.id,
      passage_id: passageIds[(done + n) % passageIds.length],
      at: new Date(nowMs - (count - done - n) * 1000),
      day: 20000,
      bpm: 90,
      beat_unit: 'quarter',
      context: 'alone',
      is_clean: n % 5 > 0,
      received_at: new Date(nowMs),
    }));
    await db('reps').insert(rows);
  }
}

/** The statements of one season page, run again through the driver alone. */
async function bareSeason(db, studio, nowMs, count = 20) {
  const statements = [];
  const note = ({ sql, bindings }) => statements.push([sql, bindings]);
  db.on('query', note);
  await season(studio, nowMs);
  db.removeListener('query', note);
  const bare = await mysql.createConnection(process.env.DATABASE_URL);
  const sorted = await times(count, async () => {
    for (const [sql, bindings] of statements) await bare.query(sql, bindings);
  });
  await bare.end();
  return sorted;
}

/** The row of a rep, inserted and no more. */
function bareRep(db, studio, passageId, nowMs) {
  return db('reps').insert({
    id: newId(),
    studio_id: studio.id,
    passage_id: passageId,
    at: new Date(nowMs),
    day: 20000,
    bpm: 63,
    beat_unit: 'quarter',
    context: 'alone',
    is_clean: true,
    received_at: new Date(nowMs),
  });
}

/** Eight who log reps at once, against as many bare inserts; and a rep that comes late into a long record. */
async function benchWriters(db, studio, { passageIds, nowMs }) {
  const each = 60;
  const own = passageIds.slice(8, 16);
  const taken = [];
  const begun = performance.now();
  await Promise.all(
    own.map(async (id) => {
      taken.push(
        ...(await times(each, (n) =>
          logRep(studio, id, { rep: rep(nowMs + n * 1000, true), nowMs: nowMs + 3_600_000 }),
        )),
      );
    }),
  );
  const perSecond = (8 * each * 1000) / (performance.now() - begun);
  const bareBegun = performance.now();
  await Promise.all(own.map((id) => times(each, () => bareRep(db, studio, id, nowMs))));
  const barePerSecond = (8 * each * 1000) / (performance.now() - bareBegun);
  taken.sort((a, b) => a - b);
  line(
    'Reps of 8 writers at once',
    `${Math.round(perSecond)}/s`,
    `p95 ${ms(p95(taken))}; promise: 500/s, p95 under 20 ms`,
  );
  line(
    '  against bare INSERTs of 8 writers',
    ratio(barePerSecond / perSecond),
    `bare ${Math.round(barePerSecond)}/s`,
  );
  const together = [];
  const TOGETHER = 10;
  const togetherBegun = performance.now();
  await Promise.all(
    passageIds.slice(24, 32).map(async (id) => {
      together.push(
        ...(await times(each / TOGETHER, (n) =>
          logReps(studio, id, {
            reps: Array.from({ length: TOGETHER }, (_, k) => rep(nowMs + (n * TOGETHER + k) * 1000, true)),
            nowMs: nowMs + 3_600_000,
          }),
        )),
      );
    }),
  );
  together.sort((a, b) => a - b);
  line(
    `  ${TOGETHER} in a request, as they wait in the outbox`,
    `${Math.round((8 * each * 1000) / (performance.now() - togetherBegun))}/s`,
    `p95 of a request ${ms(p95(together))}, of a rep ${ms(p95(together) / TOGETHER)}`,
  );
  const long = passageIds[20];
  await times(1500, (n) =>
    logRep(studio, long, { rep: rep(nowMs + n * 1000, n % 4 > 0), nowMs: nowMs + 3_600_000 }),
  );
  const late = await times(20, (n) =>
    logRep(studio, long, { rep: rep(nowMs + (1400 + n) * 1000 + 500, true), nowMs: nowMs + 3_600_000 }),
  );
  const early = await times(3, (n) =>
    logRep(studio, long, { rep: rep(nowMs + n * 1000 + 500, true), nowMs: nowMs + 3_600_000 }),
  );
  line('A rep that comes 100 reps late, into 1,500', ms(median(late)), `1,500 late: ${ms(median(early))}`);
}

/** Rep write and season page on a real MariaDB. */
export async function benchServer(repCount) {
  const db = connect(process.env.DATABASE_URL);
  await migrate(db);
  const nowMs = Date.now();
  const { studio, passageIds } = await fill(db, nowMs);
  await fillReps(db, studio, passageIds, repCount, nowMs);
  const written = await times(200, (n) =>
    logRep(studio, passageIds[0], { rep: rep(nowMs + n, n % 4 > 0), nowMs: nowMs + 60_000 }),
  );
  const bareInsert = await times(200, () => bareRep(db, studio, passageIds[1], nowMs));
  line(
    'Rep write, all of its transaction',
    ms(median(written)),
    `p95 ${ms(p95(written))}; promise: under 20 ms`,
  );
  line(
    '  against one bare INSERT of the same row',
    ratio(median(written) / median(bareInsert)),
    `bare ${ms(median(bareInsert))}`,
  );
  await benchWriters(db, studio, { passageIds, nowMs });
  const page = await times(30, () => season(studio, nowMs));
  const bare = await bareSeason(db, studio, nowMs);
  line(
    `Season of ${STUDENTS} students, ${STUDENTS * PROGRAMS * PASSAGES} passages, ${repCount} reps`,
    ms(median(page)),
    `p95 ${ms(p95(page))}; promise: under 150 ms`,
  );
  line(
    '  against the bare SQL that fetches the same rows',
    ratio(p95(page) / p95(bare)),
    `bare p95 ${ms(p95(bare))}; at most 3×`,
  );
  const crowd = [];
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      crowd.push(...(await times(6, () => season(studio, nowMs))));
    }),
  );
  const crowdBare = [];
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      crowdBare.push(...(await bareSeason(db, studio, nowMs, 6)));
    }),
  );
  crowd.sort((a, b) => a - b);
  crowdBare.sort((a, b) => a - b);
  line('Season, 8 at once', ms(median(crowd)), `p95 ${ms(p95(crowd))}; promise: p95 under 150 ms`);
  line(
    '  against the bare SQL, 8 at once',
    ratio(p95(crowd) / p95(crowdBare)),
    `bare p95 ${ms(p95(crowdBare))}`,
  );
  const student = await db('students').where({ studio_id: studio.id }).first('id');
  const own = await times(30, () => studentPage(studio, student.id, nowMs));
  line(`Page of one student, ${PROGRAMS} programs`, ms(median(own)), `p95 ${ms(p95(own))}`);
  line('  against the season of all', ratio(median(own) / median(page)));
  await db.destroy();
}
