import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';
import { v7 as newId } from 'uuid';
import {
  addProgram,
  addSheet,
  addStudent,
  connect,
  migrate,
  openStudio,
  studentPage,
  uploadScore,
} from '../../server/dist/index.js';
import { blankPart } from '../../core/dist/sheet/index.js';
import { executablePath } from '../chromium.mjs';
import { longStudy } from './long-study.mjs';

const PORT = 4391;
const PASSWORD = 'a password of the bench';

/** Where the project lies, and where the bench's server answers. */
export const root = fileURLToPath(new URL('../../', import.meta.url));
export const origin = `http://127.0.0.1:${PORT}`;

/** Whether there is an application to be driven. */
export function isBuilt() {
  return existsSync(`${root}web/dist/browser/index.html`);
}

/** Runs the real server while something is measured. */
export async function withServer(measured) {
  const db = connect(process.env.DATABASE_URL);
  await migrate(db);
  const server = spawn(process.execPath, [`${root}server/dist/main.js`], {
    env: {
      ...process.env,
      PORT: String(PORT),
      SESSION_SECRET: 'a secret of the bench, long enough to be one',
      WEB_FOLDER: `${root}web/dist/browser`,
    },
    stdio: 'ignore',
  });
  try {
    await untilAnswered();
    await measured(db);
  } finally {
    server.kill('SIGTERM');
    await db.destroy();
  }
}

/** A browser with the season page of a studio open. */
export async function signedIn(email, more = []) {
  const browser = await chromium.launch({
    executablePath,
    args: ['--no-sandbox', '--headless', '--disable-gpu', ...more],
  });
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(origin);
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByRole('link', { name: 'Bench student' }).waitFor();
  return { browser, page };
}

/** A studio with one student whose etude has so many measures. */
export async function fill(db, measureCount) {
  const now = Date.now();
  const email = `bench.${measureCount}.${now}@studio.example`;
  const ids = { id: newId(), studioId: newId() };
  const account = await openStudio(
    db,
    { ...ids, email, password: PASSWORD, name: 'Bench', studioName: 'Bench', zone: 'UTC' },
    { now: new Date(now), from: null },
  );
  const studio = { db, id: account.studioId };
  const [studentId, sheetId, programId] = [newId(), newId(), newId()];
  await addStudent(studio, { id: studentId, name: 'Bench student', instrument: 'clarinet' }, new Date(now));
  await addSheet(
    studio,
    {
      id: sheetId,
      body: 'Bench body',
      year: '2027',
      division: '',
      instrument: 'clarinet',
      deadlines: [],
      parts: [
        {
          ...blankPart('Etude', 'etude', newId()),
          title: `Study of ${measureCount}`,
          tempo: { beatUnit: 'quarter', bpmMin: 116, bpmMax: 116, bound: 'exact', words: null },
        },
      ],
    },
    now,
  );
  await addProgram(studio, { id: programId, studentId, sheetId }, new Date(now));
  const page = await studentPage(studio, studentId, now);
  const partId = page.programs[0].parts[0].id;
  const bytes = Buffer.from(longStudy(measureCount));
  const upload = { id: newId(), fileName: 'study.musicxml', partId: null, bytes };
  await uploadScore(studio, partId, { upload, nowMs: now });
  return { email, partId, studentId };
}

async function untilAnswered() {
  for (let tries = 0; tries < 100; tries += 1) {
    const isUp = await fetch(`${origin}/health`).then(
      ({ ok }) => ok,
      () => false,
    );
    if (isUp) return;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('The server did not start.');
}
