import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { v7 as newId } from 'uuid';
import { normalDraw, seededRandom, type Random } from '@vivid-cue/core/base';
import { readPage } from '@vivid-cue/core/page';
import {
  layoutOf,
  lineOfFields,
  readToldLine,
  toldAfter,
  toldFields,
  writePaper,
  type PaperPage,
} from '@vivid-cue/core/paper';
import { keptDays, makePlan, NO_WISHES } from '@vivid-cue/core/plan';
import { SimulatedPlayer } from '@vivid-cue/core/readiness';
import { amendSheet, readErrata, readSheet } from '@vivid-cue/core/sheet';
import {
  sheetFromStructure,
  sheetStructure,
  storedPart,
  type DeskView,
  type PassageView,
} from '@vivid-cue/contract';
import { AS_THE_STUDIO } from '@vivid-cue/contract/schools';
import { planInputOf } from '@vivid-cue/contract/plan-input';
import {
  addCue,
  addPassage,
  addProgram,
  changeSettings,
  readSettings,
  addRevision,
  addSheet,
  addStudent,
  changeStudent,
  chooseForPart,
  deskView,
  insertNote,
  insertSurprise,
  keepAir,
  keepLesson,
  keepPlan,
  movePrograms,
  tickTask,
  keepPage,
  logRep,
  openStudio,
  programPage,
  readStoredSheet,
  setTarget,
  uploadScore,
  writeScale,
  type connect,
  type Studio,
} from '@vivid-cue/server';
import {
  DEMO_LOGIN,
  DEMO_STUDIO,
  MOCK_PLAYERS,
  SHEETS,
  STORY,
  type AnswerStory,
  type PassageStory,
  type StudentStory,
} from './story.data.js';
import { seedMock } from './mock.js';
import { isoDay, sheetText } from './sheet-text.js';
import { seedTakes } from './takes.js';

const DAY_MS = 86_400_000;
const STORY_DAYS = 29;

/** What the seeding is told. Units: milliseconds since 1970; `seed` any whole number. */
export interface SeedOptions {
  readonly db: ReturnType<typeof connect>;
  readonly nowMs: number;
  readonly seed: number;
  readonly tell: (line: string) => void;
}

/**
 * Writes the demo story through the server's own services: what the demo shows, a user could have entered.
 * Shape:  the studio; dates are relative to `nowMs`
 * Errors: those of the services
 */
export async function seedStory({ db, nowMs, seed, tell }: SeedOptions): Promise<Studio> {
  const random = seededRandom(seed);
  const beginMs = nowMs - STORY_DAYS * DAY_MS;
  await dropUnfinished(db);
  const account = await openStudio(
    db,
    { id: newId(), studioId: newId(), ...DEMO_LOGIN, email: UNFINISHED_EMAIL, ...DEMO_STUDIO },
    { now: new Date(beginMs), from: null },
  );
  const studio: Studio = { db, id: account.studioId };
  await seedSettings(studio, nowMs);
  const sheets = new Map<string, string>();
  for (const { file } of SHEETS) sheets.set(file, await seedSheet(studio, file, { beginMs, nowMs }));
  const seeded: { readonly story: StudentStory; readonly ids: SeededStudent }[] = [];
  for (const story of STORY) {
    tell(`  ${story.name}, ${story.instrument}`);
    const sheetId = sheets.get(story.sheet) ?? '';
    seeded.push({
      story,
      ids: await seedStudent(studio, story, { time: { random, beginMs, nowMs }, sheetId }),
    });
  }
  for (const { file, erratum } of SHEETS)
    if (erratum !== null) await seedErratum(studio, sheets.get(file) ?? '', { file: erratum, nowMs });
  for (const { story, ids } of seeded) {
    if (story.isMoved === true) await movePrograms(studio, sheets.get(story.sheet) ?? '', [ids.programId]);
    await seedWeek(studio, story, { ids, nowMs });
    if (story.takes) tell(`  takes of ${story.name}`);
    await seedTakes(studio, story, { studentId: ids.studentId, nowMs });
  }
  tell('  a mock day');
  const played = seeded.filter(({ story }) => MOCK_PLAYERS.includes(story.name)).map(({ ids }) => ids);
  await seedMock(studio, { players: played, nowMs });
  await db('users').where({ email: UNFINISHED_EMAIL }).update({ email: DEMO_LOGIN.email });
  return studio;
}

/** The studio rests on a weekday that is not today: whoever looks finds a desk with something on it. */
async function seedSettings(studio: Studio, nowMs: number): Promise<void> {
  const { version, ...settings } = await readSettings(studio);
  const restDays = [(new Date(nowMs).getUTCDay() + 3) % 7];
  await changeSettings(studio, version, { ...settings, restDays });
}

/** A story broken off half way carries this address and is dropped before the next one begins. */
const UNFINISHED_EMAIL = 'unfinished@tern-island.example';

async function dropUnfinished(db: SeedOptions['db']): Promise<void> {
  const left = db('users').where({ email: UNFINISHED_EMAIL }).select('studio_id');
  await db('studios').whereIn('id', left).delete();
}

interface SeededStudent {
  readonly studentId: string;
  readonly programId: string;
}

interface SeedTime {
  readonly random: Random;
  readonly beginMs: number;
  readonly nowMs: number;
}

/** A sheet as its published text is read; nothing is added that the text does not say. */
async function seedSheet(
  studio: Studio,
  file: string,
  { beginMs, nowMs }: { readonly beginMs: number; readonly nowMs: number },
): Promise<string> {
  const text = sheetText(file, nowMs);
  const change = sheetFromStructure(readSheet(text, newId).sheet, { zone: DEMO_STUDIO.zone, newId });
  const id = newId();
  await addSheet(studio, { id, ...change, publishedText: text }, beginMs);
  return id;
}

/** The notice came yesterday: a revision that nobody is moved to yet. */
async function seedErratum(
  studio: Studio,
  sheetId: string,
  { file, nowMs }: { readonly file: string; readonly nowMs: number },
): Promise<void> {
  const sheet = await readStoredSheet(studio, sheetId);
  const errata = readErrata(sheetText(file, nowMs), sheetStructure(sheet));
  const amended = amendSheet(sheetStructure(sheet), errata);
  const { body, year, division, instrument, choices, questions, publishedText } = sheet;
  await addRevision(
    studio,
    {
      id: sheetId,
      version: sheet.version,
      input: {
        revisionId: newId(),
        issuedOn: isoDay(nowMs, -1),
        note: 'Erratum 1, e-mail of the chair',
        ...{ body, year, division, instrument },
        deadlines: sheet.deadlines.map((deadline) => ({ ...deadline, id: newId() })),
        parts: amended.parts.map((part) => storedPart(part)),
        notes: amended.notes.map(({ kind, text }) => ({ kind, text })),
        choices: choices ?? [],
        questions: questions ?? [],
        publishedText: publishedText ?? null,
      },
    },
    nowMs,
  );
}

async function seedStudent(
  studio: Studio,
  story: StudentStory,
  { time, sheetId }: { readonly time: SeedTime; readonly sheetId: string },
): Promise<SeededStudent> {
  const { beginMs } = time;
  const studentId = newId();
  await addStudent(
    studio,
    { id: studentId, name: story.name, instrument: story.instrument },
    new Date(beginMs),
  );
  const programId = newId();
  await addProgram(studio, { id: programId, studentId, sheetId }, new Date(beginMs));
  const { parts } = await programPage(studio, programId);
  const labels = new Set(parts.map(({ part }) => part.label));
  const lost = [...story.answers.map(({ part }) => part), ...story.leftOut].find(
    (label) => !labels.has(label),
  );
  if (lost !== undefined)
    throw new Error(`The story answers “${lost}”, which the sheet has not: ${[...labels].join(', ')}`);
  for (const { id, part, choice } of parts) {
    if (story.leftOut.includes(part.label))
      await chooseForPart(studio, id, { ...choice, isTaken: false, scoreId: null });
    const answer = story.answers.find((one) => one.part === part.label);
    if (answer && !choice.isTaken)
      await chooseForPart(studio, id, { ...choice, isTaken: true, scoreId: null });
    if (answer) await seedAnswer(studio, id, { answer, time });
  }
  return { studentId, programId };
}

/** What the last week brought: a lesson, a plan, what the student flagged and wrote, what was ticked off. */
async function seedWeek(
  studio: Studio,
  story: StudentStory,
  { ids: { studentId, programId }, nowMs }: { readonly ids: SeededStudent; readonly nowMs: number },
): Promise<void> {
  const desk = await deskView(studio, studentId, nowMs);
  const passageOf = (name: string): string => {
    const found = desk.passages.find((one) => one.name === name);
    if (!found)
      throw new Error(
        `The story has no passage “${name}”: ${desk.passages.map((one) => one.name).join(', ')}`,
      );
    return found.id;
  };
  const at = new Date(nowMs - DAY_MS).toISOString();
  if (story.surprise) {
    const { passage, at: measureIndex, text } = story.surprise;
    const bpm = 80;
    await insertSurprise(studio, passageOf(passage), {
      ...{ id: newId(), measureIndex: measureIndex - 1, bpm, beatUnit: 'quarter', text, at },
    });
  }
  if (story.note !== undefined)
    await insertNote(studio, studentId, { id: newId(), passageId: null, text: story.note, at });
  if (story.areFormsIn === true)
    await tickTask(studio, studentId, { subjectId: programId, kind: 'forms', doneOn: isoDay(nowMs, -3) });
  if (story.lesson) {
    const { notes, ask, passage } = story.lesson;
    await keepLesson(studio, studentId, {
      ...{ id: newId(), at: new Date(nowMs - WEEK_DAYS * DAY_MS).toISOString(), minutes: 30, notes },
      asks: [{ id: newId(), passageId: passageOf(passage), text: ask }],
    });
  }
  if (story.air) await keepAir(studio, studentId, { ...story.air, on: isoDay(nowMs, -9) });
  if (story.days) await seedDays(studio, studentId, { story, days: story.days, nowMs });
  if (story.isPlanned === true) await seedPlan(studio, studentId, { desk, nowMs });
}

/** Days that are the student's own, shorter than the studio's. */
async function seedDays(
  studio: Studio,
  studentId: string,
  {
    story: { name, instrument },
    days: { minutes, cap, restIn },
    nowMs,
  }: {
    readonly story: StudentStory;
    readonly days: NonNullable<StudentStory['days']>;
    readonly nowMs: number;
  },
): Promise<void> {
  const restDays = restIn.map((days) => (new Date(nowMs).getUTCDay() + days) % 7);
  const own = { dayMinutes: minutes, dayCap: cap, restDays: restDays.length > 0 ? restDays : null };
  const change = { name, instrument, schools: { ...AS_THE_STUDIO, ...own } };
  await changeStudent(studio, { id: studentId, version: 1, change });
}

const WEEK_DAYS = 7;

/** A plan of a week ago, made anew today: the days behind show what was planned against what was played. */
async function seedPlan(
  studio: Studio,
  studentId: string,
  { desk, nowMs }: { readonly desk: DeskView; readonly nowMs: number },
): Promise<void> {
  const plan = makePlan(planInputOf(desk, nowMs));
  const today = Math.floor(nowMs / DAY_MS);
  for (const [version, shift] of [-WEEK_DAYS, 0].entries())
    await keepPlan(studio, studentId, {
      ...{
        version,
        wishes: NO_WISHES,
        ownTasks: [],
        from: isoDay(nowMs, shift),
        days: keptDays(plan, today + shift),
      },
      now: new Date(nowMs + shift * DAY_MS),
    });
}

async function seedAnswer(
  studio: Studio,
  programPartId: string,
  { answer, time }: { readonly answer: AnswerStory; readonly time: SeedTime },
): Promise<void> {
  const { beginMs } = time;
  if (answer.study !== null) {
    const bytes = readFileSync(new URL(`../../studies/${answer.study}.musicxml`, import.meta.url));
    const upload = { id: newId(), fileName: `${answer.study}.musicxml`, partId: null, bytes };
    await uploadScore(studio, programPartId, { upload, nowMs: beginMs });
  }
  if (answer.told !== null)
    await seedPaper(studio, programPartId, { answer, line: answer.told, nowMs: beginMs });
  if (answer.scale) {
    const wish = { scoreId: newId(), isArpeggio: false, noteValue: 'eighth' as const, articulation: '' };
    await writeScale(studio, programPartId, { choice: { ...wish, ...answer.scale }, nowMs: beginMs });
  }
  if (answer.ownBpm !== null)
    await setTarget(studio, programPartId, { bpm: answer.ownBpm, beatUnit: 'quarter' });
  for (const { at, ...cue } of answer.cues)
    await addCue(studio, programPartId, {
      input: { id: newId(), ...cue, from: at, to: at, findingKey: null },
      now: new Date(beginMs),
    });
  for (const passage of answer.passages) {
    const view = await addPassage(studio, programPartId, {
      input: { id: newId(), name: passage.name, from: passage.from, to: passage.to, target: null },
      nowMs: beginMs,
    });
    await practise(studio, { view, story: passage, time });
  }
}

/** Music on paper: told, and where the story has a page of it, found on that page as anybody's page is read. */
async function seedPaper(
  studio: Studio,
  programPartId: string,
  { answer, line, nowMs }: { readonly answer: AnswerStory; readonly line: string; readonly nowMs: number },
): Promise<void> {
  const pages: PaperPage[] = [];
  if (answer.page !== null) {
    const bytes = readFileSync(new URL(`../../pages/${answer.page}.jpg`, import.meta.url));
    const { id } = await keepPage(studio, programPartId, { id: newId(), bytes, nowMs });
    const { data, info } = await sharp(bytes).grayscale().raw().toBuffer({ resolveWithObject: true });
    const image = { width: info.width, height: info.height, data: new Uint8Array(data) };
    pages.push(layoutOf(readPage(image), id));
  }
  const { music } = readToldLine(line);
  if (!music) throw new Error(`The story tells what is no music: ${line}`);
  const fields = toldFields(music);
  const told = toldAfter({ fields, pages: [] }, { fields, pages });
  const paper = { title: null, line: lineOfFields(told), typed: answer.typed, pages };
  const upload = { id: newId(), fileName: 'paper.json', partId: null, bytes: Buffer.from(writePaper(paper)) };
  await uploadScore(studio, programPartId, { upload, nowMs });
}

/** Players of the story learn steadily and to the end: what they did is to be seen, not their luck. */
const STORY_PLAYER = { steepness: 10, gainKnee: 4.5, repVariance: 0.01, moodVariance: 0.03 };

/** A simulated player climbs the passage's own ladder by the passage's own rule, most days of the week. */
async function practise(
  studio: Studio,
  {
    view,
    story,
    time,
  }: { readonly view: PassageView; readonly story: PassageStory; readonly time: SeedTime },
): Promise<void> {
  const { random, nowMs } = time;
  if (story.daysAgo === null) return;
  const player = new SimulatedPlayer(random, {
    ...STORY_PLAYER,
    gainPerRep: story.gainPerRep,
    startTheta: normalDraw(random, story.startTheta, 0.2),
  });
  let current = view;
  let restDays = 0;
  for (let ago = story.daysAgo; ago >= story.lastDaysAgo; ago -= 1) {
    restDays += 1;
    const isFree = ago !== story.daysAgo && ago !== story.lastDaysAgo && random() < 0.25;
    if (isFree) continue;
    player.rest(restDays);
    player.startDay();
    restDays = 0;
    // Four in the afternoon of that day, UTC; the story's zone has no other.
    const startMs = Math.floor((nowMs - ago * DAY_MS) / DAY_MS) * DAY_MS + 16 * 3_600_000;
    for (let n = 0; n < story.repsADay; n += 1)
      current = await playRep(studio, player, {
        view: current,
        story,
        atMs: Math.min(nowMs, startMs + n * 45_000),
      });
  }
}

async function playRep(
  studio: Studio,
  player: SimulatedPlayer,
  { view, story, atMs }: { readonly view: PassageView; readonly story: PassageStory; readonly atMs: number },
): Promise<PassageView> {
  const rung = view.rungs[view.place.rungIndex];
  const bpm = Math.round(rung?.bpm ?? view.target.bpm);
  // Once the ladder is climbed, every other rep is a run where the story says so.
  const context = view.place.isDone && view.record.reps % 2 === 0 ? story.context : 'alone';
  const isClean = player.play(bpm / view.target.bpm, context);
  const rep = {
    id: newId(),
    at: new Date(atMs).toISOString(),
    bpm,
    beatUnit: view.target.beatUnit,
    context,
    isClean,
  };
  return logRep(studio, view.id, { rep, nowMs: atMs });
}
