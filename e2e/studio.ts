import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { AxeResults, RunOptions } from 'axe-core';
import { expect, test as base, type Page, type Request } from '@playwright/test';
import { v7 as newId } from 'uuid';
import { blankPart } from '@vivid-cue/core/sheet';
import { pathOf, ROUTES, type RouteName, type StudentPageView } from '@vivid-cue/contract';
import { AS_THE_STUDIO } from '@vivid-cue/contract/schools';
import { RunningServer } from './server';

/** Tests with a server shared by the whole run and a page whose console is watched. */
export const test = base.extend<{ complaints: string[] }, { server: RunningServer }>({
  server: [
    // The empty pattern is how Playwright names a fixture without needs of its own.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const server = new RunningServer();
      await server.start();
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  complaints: [
    async ({ page }, use) => {
      const complaints: string[] = [];
      page.on('console', (message) => {
        // A refused request is shown to the person; the browser's own line about its status is no fault of the page.
        if (message.type() === 'error' && !/Failed to load resource/u.test(message.text()))
          complaints.push(message.text());
      });
      page.on('pageerror', (error) => complaints.push(error.message));
      await use(complaints);
      expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };

/** A study or another file of the project by its path. */
export function file(path: string): string {
  return fileURLToPath(new URL(`../${path}`, import.meta.url));
}

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** The judge itself, which a page is given once. */
const AXE = readFileSync(file('node_modules/axe-core/axe.min.js'), 'utf8');
interface WithAxe {
  readonly axe: { run(context: object, options: RunOptions): Promise<AxeResults> };
}

/** Runs within the page. Shape: what is wrong, each with the places where it is */
async function judge(rules: NonNullable<RunOptions['runOnly']>): Promise<{ id: string; places: string[] }[]> {
  // Inside of an engraved picture nothing can be pressed or read out: the picture has a name, its two thousand shapes
  // have no roles, and judging each of them took two thirds of the time.
  const { violations } = await (window as unknown as WithAxe).axe.run(
    { exclude: [['svg.picture > *']] },
    { resultTypes: ['violations'], runOnly: rules },
  );
  return violations.map(({ id, nodes }) => ({
    id,
    places: nodes.map(({ target, html }) => `${target.join(' ')} ${html.slice(0, 120)}`),
  }));
}

/** Fails when the page breaks a rule of WCAG 2.2 AA that axe can see. */
export function expectAccessible(page: Page): Promise<void> {
  return expectJudged(page, RULES);
}

/** The same of the page as it is when the lamps are low, where nothing is different but its colours. */
export async function expectAccessibleDim(page: Page): Promise<void> {
  await page.evaluate(() => document.documentElement.classList.add('dim'));
  await expectJudged(page, { type: 'rule', values: ['color-contrast', 'link-in-text-block'] });
  await page.evaluate(() => document.documentElement.classList.remove('dim'));
}

async function expectJudged(page: Page, rules: NonNullable<RunOptions['runOnly']>): Promise<void> {
  // What fades in or out has no contrast to judge, and a notice may begin to fade at any moment:
  // the page is judged as somebody sees it who asked the machine for less motion.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  const violations = await page.evaluate(judge, rules);
  await page.emulateMedia({ reducedMotion: null });
  expect(violations.map(({ id, places }) => `${id}: ${places.join(', ')}`)).toEqual([]);
}

/** Counts what scripts weigh that a page loads from here on. Units: bytes as they come over the wire */
export function scriptBytes(page: Page): () => Promise<number> {
  const scripts: Request[] = [];
  page.on('requestfinished', (request) => {
    if (/\.js$/u.test(new URL(request.url()).pathname)) scripts.push(request);
  });
  return async () => {
    const sizes = await Promise.all(scripts.map((request) => request.sizes()));
    return sizes.reduce((sum, { responseBodySize }) => sum + responseBodySize, 0);
  };
}

/** An account nobody has yet. */
export function freshLogin(): { readonly email: string; readonly password: string } {
  return {
    email: `odalys.${Date.now()}.${Math.round(performance.now() * 1000)}@studio.example`,
    password: 'ferry at half past nine',
  };
}

/** Opens a studio of its own and lands on the season page. */
export async function openStudio(page: Page, url: string, login = freshLogin()): Promise<void> {
  await page.goto(url);
  await page.getByRole('button', { name: 'New here: open a studio' }).click();
  await page.getByLabel('Your name').fill('Odalys Brandvold');
  await page.getByLabel('The studio’s name').fill('Tern Island Studio');
  await page.getByLabel('E-mail').fill(login.email);
  await page.getByLabel('Password').fill(login.password);
  await page.getByRole('button', { name: 'Open the studio' }).click();
  await expect(page.getByRole('heading', { name: 'Season' })).toBeVisible();
}

/** Adds a student and lands on the student's page. */
export async function addStudent(page: Page, name: string, instrument: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a student' }).first().click();
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByRole('dialog').getByLabel('Instrument').fill(instrument);
  await page.getByRole('dialog').getByRole('button', { name: 'Add the student' }).click();
  await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
}

/** A day so many days from now, as a date field takes it. */
export function dayFromNow(days: number): string {
  return new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
}

/** Opens a new sheet to be entered by hand. */
export async function openHandSheet(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Enter a sheet' }).first().click();
  await page.getByRole('button', { name: 'Enter it by hand' }).click();
}

/** Enters the sheet of the path for the student whose page is open: an etude, measures 1–28, ♩=116 exactly. */
export async function enterSheet(page: Page, work = 'Ferry Lines', to = '28'): Promise<void> {
  await openHandSheet(page);
  await page.getByLabel('Audition body').fill('Archipelago All-Region Winds');
  await page.getByLabel('Division or grade').fill('Senior');
  await page.getByLabel('Instrument').fill('clarinet');
  await page.getByLabel('Date', { exact: true }).fill(dayFromNow(30));
  await page.getByLabel('Time, if stated').fill('09:30');
  await page.getByLabel('Work', { exact: true }).fill(work);
  await page.getByLabel('Measures of part 1').fill(`1–${to}`);
  await page.getByLabel('Tempo as printed').fill('q = 116');
  await page.getByRole('button', { name: 'Save and give it' }).click();
  await expect(page.getByRole('heading', { name: /Archipelago All-Region Winds/u })).toBeVisible();
}

/** Uploads a score for the only part and waits for its engraving. */
export async function uploadScore(page: Page, path = 'demo/studies/ferry-lines.musicxml'): Promise<void> {
  await page.getByRole('link', { name: 'Bring the music' }).first().click();
  await page.getByLabel('Score file').setInputFiles(file(path));
  await expect(page.locator('svg.picture').first()).toBeVisible({ timeout: 30_000 });
}

/** Opens the list of passages beside the score. */
export async function openPassages(page: Page): Promise<void> {
  await page.getByRole('tab', { name: /^Passages/u }).click();
  const back = page.getByRole('button', { name: 'All passages' });
  await expect(back.or(page.getByLabel('New passage'))).toBeVisible();
  if (await back.isVisible()) await back.click();
}

/** Makes a passage of typed measures and opens it. */
export async function makePassage(page: Page, span: string): Promise<void> {
  await openPassages(page);
  await page.getByLabel('New passage').fill(span);
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.locator('vc-passage-panel')).toBeVisible();
}

/** What a studio is furnished with. Shape: `music` null for a student without a sheet; `path` null for a sheet without a score */
export interface Furniture {
  readonly student?: readonly [name: string, instrument: string];
  readonly music?: { readonly work: string; readonly to: number; readonly path: string | null } | null;
  readonly spans?: readonly string[];
}

/** A studio furnished by its server's own routes: for tests whose subject begins where the path has been walked. */
export interface Furnished {
  readonly studentUrl: string;
  readonly scoreUrl: string;
}

/**
 * Signs the page in to a new studio with a student who never rests, an etude due in thirty days with its music, and
 * passages.
 */
export async function furnishStudio(
  page: Page,
  url: string,
  {
    student: [name, instrument] = ['Ilse Vantongeren', 'clarinet'],
    music = { work: 'Ferry Lines', to: 28, path: 'demo/studies/ferry-lines.musicxml' },
    spans = [],
  }: Furniture = {},
): Promise<Furnished> {
  const { request } = page;
  let csrf = '';
  const call = async <T>(
    route: RouteName,
    ids: Readonly<Record<string, string>>,
    data?: object,
  ): Promise<T> => {
    const isFile = Buffer.isBuffer(data);
    const query = isFile ? `?id=${newId()}&fileName=study.musicxml` : '';
    const answer = await request.fetch(`${url}${pathOf(route, ids)}${query}`, {
      method: ROUTES[route].method,
      headers: {
        'X-CSRF-Token': csrf,
        'If-Match': '"1"',
        ...(isFile ? { 'Content-Type': 'application/octet-stream' } : {}),
      },
      data,
    });
    expect(answer.ok(), `${route}: ${await answer.text()}`).toBe(true);
    return (await answer.json()) as T;
  };
  const refresh = async (): Promise<void> => {
    csrf = (await call<{ csrfToken: string }>('readSession', {})).csrfToken;
  };
  await refresh();
  const [studentId, sheetId, zone] = [newId(), newId(), 'Atlantic/Reykjavik'];
  const studio = { name: 'Odalys Brandvold', studioName: 'Tern Island Studio', zone };
  await call('createAccount', {}, { id: newId(), studioId: newId(), ...freshLogin(), ...studio });
  await refresh();
  await call('createStudent', {}, { id: studentId, name, instrument });
  // There is something to do whatever day it is.
  await call(
    'changeStudent',
    { studentId },
    { name, instrument, schools: { ...AS_THE_STUDIO, restDays: [] } },
  );
  const studentUrl = `${url}/students/${studentId}`;
  if (!music) return { studentUrl, scoreUrl: '' };
  await call(
    'createSheet',
    {},
    {
      ...{ id: sheetId, body: 'Archipelago All-Region Winds', year: '2027', division: 'Senior', instrument },
      deadlines: [{ id: newId(), kind: 'audition', date: dayFromNow(30), time: '09:30', zone }],
      parts: [
        {
          ...blankPart('Etude', 'etude', newId()),
          title: music.work,
          measures: [{ from: 1, to: music.to, anchorText: null }],
          tempo: { beatUnit: 'quarter', bpmMin: 116, bpmMax: 116, bound: 'exact', words: null },
        },
      ],
    },
  );
  await call('createProgram', {}, { id: newId(), studentId, sheetId });
  const own = await call<StudentPageView>('readStudent', { studentId });
  const programPartId = own.programs[0]?.parts[0]?.id ?? '';
  if (music.path !== null) await call('uploadScore', { programPartId }, readFileSync(file(music.path)));
  for (const span of spans) {
    const [from = '', to = from] = span.split('–');
    await call('createPassage', { programPartId }, { id: newId(), name: '', from, to, target: null });
  }
  return { studentUrl, scoreUrl: `${url}/score/${programPartId}` };
}

/** Opens the score of a furnished studio and waits for its engraving. */
export async function openScore(page: Page, { scoreUrl }: Furnished): Promise<void> {
  await page.goto(scoreUrl);
  await expect(page.locator('svg.picture').first()).toBeVisible({ timeout: 30_000 });
}
