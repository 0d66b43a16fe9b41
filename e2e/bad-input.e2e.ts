import type { Page } from '@playwright/test';
import {
  dayFromNow,
  expect,
  expectAccessible,
  file,
  furnishStudio,
  makePassage,
  openPassages,
  openScore,
  test,
  uploadScore,
  openHandSheet,
  type Furniture,
} from './studio';

const FLUTE = { student: ['Mara Thistledown', 'flute'] } as const;
const NO_SCORE = { ...FLUTE, music: { work: 'Ferry Lines', to: 28, path: null } };

/** A student's page, with or without a sheet. */
async function openStudent(page: Page, url: string, furniture: Furniture): Promise<void> {
  await page.goto((await furnishStudio(page, url, furniture)).studentUrl);
  await expect(page.getByRole('heading', { name: 'Mara Thistledown' })).toBeVisible();
}

test('a broken, empty, huge or hostile score file is refused in one sentence, and the next one is taken', async ({
  page,
  server,
}) => {
  await openStudent(page, server.url, NO_SCORE);
  await page.getByRole('link', { name: 'Bring the music' }).click();
  const entity = '<!DOCTYPE score-partwise [<!ENTITY a "aaaa">]><score-partwise/>';
  const files: readonly (readonly [string, string | Buffer, RegExp])[] = [
    ['empty.musicxml', '', /The file is empty/u],
    ['letter.musicxml', 'Dear sir', /not a MusicXML file/u],
    ['cut.musicxml', '<score-partwise><part-list>', /broken at line 1/u],
    ['bomb.musicxml', entity, /defines text entities/u],
    ['huge.mxl', Buffer.alloc(10 * 1024 * 1024 + 1), /at most 10 MB/u],
  ];
  for (const [name, content, sentence] of files) {
    await page
      .getByLabel('Score file')
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(content) });
    await expect(page.getByRole('alert').filter({ hasText: sentence })).toBeVisible();
  }
  await expectAccessible(page);
  await page.getByLabel('Score file').setInputFiles(file('demo/studies/ferry-lines.musicxml'));
  await expect(page.locator('svg.picture').first()).toBeVisible({ timeout: 30_000 });
});

test('a span backwards or a tempo of 900 says where and keeps what was entered; a date that passed only warns', async ({
  page,
  server,
}) => {
  await openStudent(page, server.url, { ...FLUTE, music: null });
  await openHandSheet(page);
  await page.getByLabel('Audition body').fill('Skerry Board');
  await page.getByLabel('Instrument').fill('flute');
  await page.getByLabel('Date', { exact: true }).fill(dayFromNow(-30));
  await page.getByLabel('Measures of part 1').fill('12–1');
  await page.getByLabel('Tempo as printed').fill('q = 900');
  await expect(page.getByText('A tempo lies between 10 and 400 beats a minute; 900 came.')).toBeVisible();
  const save = page.getByRole('button', { name: 'Save and give it' });
  await save.click();
  await expect(
    page.getByText('"12–1" runs backwards, from 12 to 1. Which measures are meant?', { exact: true }),
  ).toBeVisible();
  await page.getByLabel('Measures of part 1').fill('1–12');
  await save.click();
  await expect(page.getByText('A tempo needs its number and its note value.')).toBeVisible();
  await expect(page.getByText('Passed 30 days ago. Is the year right?')).toBeVisible();
  await expect(page.getByLabel('Audition body')).toHaveValue('Skerry Board');
  await page.getByLabel('Tempo as printed').fill('at least 96');
  await save.click();
  await expect(page.getByText('at least ♩=96')).toBeVisible();
});

test('a span outside the piece is refused beside its field with the numbers that exist', async ({
  page,
  server,
}) => {
  await openScore(page, await furnishStudio(page, server.url, FLUTE));
  await openPassages(page);
  await page.getByLabel('New passage').fill('30–40');
  await expect(page.getByText('This piece has measures 1 to 32; 40 is not one of them.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Make it' })).toBeDisabled();
});

test('reps logged without a connection wait on the device, survive a reload and are sent once', async ({
  page,
  server,
}) => {
  await openScore(page, await furnishStudio(page, server.url, FLUTE));
  await makePassage(page, '9–12');
  const panel = page.locator('vc-passage-panel');
  await page.keyboard.press('c');
  await expect(panel.getByText('1 rep on 1 day')).toBeVisible();
  await expect(panel.locator('.reps li')).toHaveCount(1);
  await expect(panel.locator('.reps li.is-waiting')).toHaveCount(0);
  // One rep by itself, or those that waited together.
  const sending = /\/api\/passages\/[^/]+\/rep(?:s|-list)$/u;
  await page.route(sending, (route) => route.abort('connectionfailed'));
  await page.keyboard.press('c');
  await page.keyboard.press('c');
  await expect(panel.getByText(/No connection: reps are kept on this device.*2 reps wait/u)).toBeVisible();
  await expect(panel.locator('.tempo')).toContainText('77');
  await page.reload();
  await page.getByRole('button', { name: /mm\. 9–12, Grounded/u }).click();
  await expect(panel.locator('.tempo')).toContainText('77');
  await expect(panel.getByText('3 reps on 1 day')).toBeVisible();
  await page.unroute(sending);
  await expect(panel.getByText(/reps? waits?/u)).toBeHidden({ timeout: 20_000 });
  const cookies = await page.context().cookies();
  const id = await page.evaluate(async () => {
    const room = (await (
      await fetch(`/api/program-parts/${location.pathname.split('/').at(-1) ?? ''}`)
    ).json()) as { passages: { id: string }[] };
    return room.passages[0]?.id ?? '';
  });
  const answer = await fetch(`${server.url}/api/passages/${id}`, {
    headers: { cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') },
  });
  expect(((await answer.json()) as { reps: unknown[] }).reps.length).toBe(3);
});

test('a form sent twice or while the server is away makes one student and loses nothing', async ({
  page,
  server,
}) => {
  await openStudent(page, server.url, { ...FLUTE, music: null });
  await page.getByRole('link', { name: 'Season' }).click();
  await page.getByRole('button', { name: 'Add a student' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Teodor Blix');
  await page.getByRole('dialog').getByLabel('Instrument').fill('bassoon');
  const add = page.getByRole('dialog').getByRole('button', { name: 'Add the student' });
  await server.stop();
  await add.click();
  await expect(page.getByText('The server does not answer. What you entered is still here')).toBeVisible();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Teodor Blix');
  await server.start();
  await add.dblclick();
  await expect(page.getByRole('heading', { name: 'Teodor Blix' })).toBeVisible();
  await page.getByRole('link', { name: 'Season' }).click();
  await expect(page.getByRole('row', { name: /Teodor Blix/u })).toHaveCount(1);
});

test('a removed student, program or passage comes back with Undo', async ({ page, server }) => {
  await openStudent(page, server.url, NO_SCORE);
  await page.getByRole('button', { name: 'Take away' }).click();
  await expect(page.getByText('No sheet yet')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: /Archipelago/u })).toBeVisible();
  await uploadScore(page);
  await makePassage(page, '3');
  await page.getByRole('button', { name: 'Remove this passage' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: /m\. 3, Mapped/u })).toBeVisible();
});

test('a sheet changed in two windows keeps both versions in sight', async ({ page, context, server }) => {
  await openStudent(page, server.url, NO_SCORE);
  await page
    .getByRole('region', { name: /Archipelago/u })
    .getByRole('link', { name: 'Sheet' })
    .click();
  await expect(page.getByLabel('Division or grade')).toBeVisible();
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel('Division or grade').fill('Junior');
  await other.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(other.getByRole('heading', { name: 'Sheets' })).toBeVisible();
  await page.getByLabel('Division or grade').fill('Chamber');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await expect(page.getByText(/The other version \(number 2\) says/u)).toContainText('Junior');
  await expect(page.getByLabel('Division or grade')).toHaveValue('Chamber');
  await page.getByRole('button', { name: 'Save mine over it' }).click();
  await expect(page.getByRole('link', { name: /Chamber/u })).toBeVisible();
});
