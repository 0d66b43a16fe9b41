import { readFileSync } from 'node:fs';
import { v7 as newId } from 'uuid';
import { normalDraw, seededRandom, type Random } from '@vivid-cue/core/base';
import { SimulatedPlayer } from '@vivid-cue/core/readiness';
import type { PassageView, SheetInput } from '@vivid-cue/contract';
import {
  addPassage,
  addProgram,
  addSheet,
  addStudent,
  logRep,
  openStudio,
  studentPage,
  uploadScore,
  type connect,
  type Studio,
} from '@vivid-cue/server';
import { DEMO_LOGIN, DEMO_STUDIO, STORY, type PassageStory, type StudentStory } from './story.data.js';

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
 * Units:  none
 * Errors: those of the services
 * Source: none
 */
export async function seedStory({ db, nowMs, seed, tell }: SeedOptions): Promise<Studio> {
  const random = seededRandom(seed);
  const beginMs = nowMs - STORY_DAYS * DAY_MS;
  await dropUnfinished(db);
  const account = await openStudio(
    db,
    { id: newId(), studioId: newId(), ...DEMO_LOGIN, email: UNFINISHED_EMAIL, ...DEMO_STUDIO },
    new Date(beginMs),
  );
  const studio: Studio = { db, id: account.studioId };
  for (const story of STORY) {
    tell(`  ${story.name}, ${story.instrument}`);
    await seedStudent(studio, story, { random, beginMs, nowMs });
  }
  await db('users').where({ email: UNFINISHED_EMAIL }).update({ email: DEMO_LOGIN.email });
  return studio;
}

/** A story broken off half way carries this address and is dropped before the next one begins. */
const UNFINISHED_EMAIL = 'unfinished@tern-island.example';

async function dropUnfinished(db: SeedOptions['db']): Promise<void> {
  const left = db('users').where({ email: UNFINISHED_EMAIL }).select('studio_id');
  await db('studios').whereIn('id', left).delete();
}

interface SeedTime {
  readonly random: Random;
  readonly beginMs: number;
  readonly nowMs: number;
}

async function seedStudent(studio: Studio, story: StudentStory, time: SeedTime): Promise<void> {
  const { beginMs } = time;
  const studentId = newId();
  await addStudent(
    studio,
    { id: studentId, name: story.name, instrument: story.instrument },
    new Date(beginMs),
  );
  const sheet = sheetOf(story, time.nowMs);
  await addSheet(studio, sheet, beginMs);
  await addProgram(studio, { id: newId(), studentId, sheetId: sheet.id }, new Date(beginMs));
  const programPartId = (await studentPage(studio, studentId, beginMs)).programs[0]?.parts[0]?.id ?? '';
  const bytes = readFileSync(new URL(`../../studies/${story.study}.musicxml`, import.meta.url));
  await uploadScore(
    studio,
    programPartId,
    { id: newId(), fileName: `${story.study}.musicxml`, partId: null, bytes },
    beginMs,
  );
  for (const passage of story.passages) {
    const view = await addPassage(
      studio,
      programPartId,
      { id: newId(), name: passage.name, from: passage.from, to: passage.to, target: null },
      beginMs,
    );
    await practise(studio, view, passage, time);
  }
}

function sheetOf({ sheet }: StudentStory, nowMs: number): SheetInput {
  const day = (inDays: number): string => new Date(nowMs + inDays * DAY_MS).toISOString().slice(0, 10);
  return {
    id: newId(),
    body: sheet.body,
    year: seasonYear(nowMs),
    division: sheet.division,
    instrument: sheet.instrument,
    deadlines: sheet.dates.map(({ kind, inDays, time }) => ({
      id: newId(),
      kind,
      date: day(inDays),
      time,
      zone: DEMO_STUDIO.zone,
    })),
    parts: [{ id: newId(), ...sheet.part }],
  };
}

/** From July on, sheets are those of the year to come, as bodies publish them in summer. */
function seasonYear(nowMs: number): string {
  const now = new Date(nowMs);
  return String(now.getUTCFullYear() + (now.getUTCMonth() >= 6 ? 1 : 0));
}

/** A simulated player climbs the passage's own ladder by the passage's own rule, most days of the week. */
async function practise(
  studio: Studio,
  view: PassageView,
  story: PassageStory,
  { random, nowMs }: SeedTime,
): Promise<void> {
  if (story.daysAgo === null) return;
  const player = new SimulatedPlayer(random, story.gainPerRep, normalDraw(random, story.startTheta, 0.2));
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
      current = await playRep(studio, player, current, story, Math.min(nowMs, startMs + n * 45_000));
  }
}

async function playRep(
  studio: Studio,
  player: SimulatedPlayer,
  view: PassageView,
  story: PassageStory,
  atMs: number,
): Promise<PassageView> {
  const rung = view.rungs[view.place.rungIndex];
  const bpm = Math.round(rung?.bpm ?? view.target.bpm);
  const context = view.place.isDone ? story.context : 'alone';
  const isClean = player.play(bpm / view.target.bpm, context);
  const rep = {
    id: newId(),
    at: new Date(atMs).toISOString(),
    bpm,
    beatUnit: view.target.beatUnit,
    context,
    isClean,
  };
  return logRep(studio, view.id, rep, atMs);
}
