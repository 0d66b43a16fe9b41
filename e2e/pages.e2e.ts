import { readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, file, furnishStudio, makePassage, openPassages, test } from './studio';

const PAGE = 'demo/pages/harbor-bell.jpg';

async function bringPages(
  page: Page,
  url: string,
  files: Parameters<ReturnType<Page['getByLabel']>['setInputFiles']>[0],
) {
  const { studentUrl } = await furnishStudio(page, url, {
    student: ['Mara Thistledown', 'horn'],
    music: { work: 'Ferry Lines', to: 28, path: null },
  });
  await page.goto(studentUrl);
  await page.getByRole('link', { name: 'Bring the music' }).first().click();
  await page.getByLabel('Files of pages').setInputFiles(files);
}

/** Presses a place of the page. Units: fractions of the page */
async function pressPage(page: Page, x: number, y: number): Promise<void> {
  const sheet = page.locator('vc-page-sheet');
  const box = await sheet.boundingBox();
  await sheet.click({ position: { x: x * (box?.width ?? 0), y: y * (box?.height ?? 0) } });
}

test('a photographed page becomes measures, is put right with single presses, practised and typed over', async ({
  page,
  server,
}) => {
  await bringPages(page, server.url, file(PAGE));
  const numbers = page.locator('vc-page-sheet .number text');
  await expect(numbers).toHaveCount(24, { timeout: 30_000 });
  await expect(page.getByText('24 measures on 5 lines')).toBeVisible();
  await page.getByRole('button', { name: '3/4', exact: true }).click();
  await expect(page.getByText('24 measures, 37.2 s.')).toBeVisible();
  await expect(page.getByText('The sheet asks for measure 28; these pages end with 24.')).toBeVisible();
  await expectAccessible(page);

  // By keys: the second box stands for five measures, and back.
  await page.locator('h2').first().click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('heading', { name: 'Measure 2', exact: true })).toBeVisible();
  await page.keyboard.press('5');
  await expect(page.getByText('28 measures on 5 lines')).toBeVisible();
  await expect(numbers.nth(2)).toHaveText('7');
  await page.keyboard.press('u');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('b');
  await expect(numbers).toHaveCount(25);
  await page.keyboard.press('Control+z');
  await expect(numbers).toHaveCount(24);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('l');
  await page.keyboard.type('A');
  await page.keyboard.press('Enter');
  // By the mouse: a press between bar lines adds one, and the letter stays at its place; a press on it takes it away.
  const bars = page.locator('vc-page-sheet .bar .stroke');
  await expect(bars).toHaveCount(24);
  const [x, y] = await bars.first().evaluate((bar) => {
    const box = bar.getBoundingClientRect();
    const sheet = bar.closest('vc-page-sheet')?.getBoundingClientRect();
    return sheet
      ? [(box.left - sheet.left) / sheet.width, (box.top + box.height / 2 - sheet.top) / sheet.height]
      : [];
  });
  await pressPage(page, (x ?? 0) + 0.04, y ?? 0);
  await expect(numbers).toHaveCount(25);
  await page.getByText('All that is told, and in one line').click();
  await expect(page.getByLabel('The same in one line')).toHaveValue(/^1–25 3\/4; A5; /u);
  await pressPage(page, (x ?? 0) + 0.04, y ?? 0);
  await expect(numbers).toHaveCount(24);
  await page.getByRole('button', { name: 'Leave out Line 5' }).click();
  await expect(page.getByText('23 measures on 4 lines')).toBeVisible();
  await page.getByRole('button', { name: 'take it in', exact: true }).click();
  // The field follows what was taken in; typed before that, it would be written over.
  await expect(page.getByText('24 measures on 5 lines')).toBeVisible();
  await page.getByLabel('Measures on each line').fill('5 6 6 7 1');
  await page.getByLabel('Measures on each line').press('Enter');
  await expect(page.getByText('25 measures on 5 lines')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();

  await page.getByRole('button', { name: 'These are the measures' }).click();
  const music = page.getByRole('region', { name: 'Pages' });
  await expect(music.getByRole('button', { name: 'Measure 9' })).toBeVisible();
  await expectAccessible(page);
  await makePassage(page, '9–12');
  await expect(page.locator('.own-lines .row')).toHaveCount(2);
  await page
    .getByRole('button', { name: /^Clean/u })
    .first()
    .click();
  await expect(page.locator('vc-passage-panel')).toContainText('1 rep on 1 day');

  // What decides is typed, and has then what notes give.
  await music.getByRole('button', { name: 'Measure 21' }).click();
  await page.getByRole('button', { name: 'Type from 21 on' }).click();
  const line = page.getByLabel('Notes as ABC');
  await line.fill('(3(cde) (3(fed) (3(efg) | a2 g2 ?');
  await expect(page.locator('vc-typed-editor mark')).toHaveText('?');
  await expect(page.getByRole('button', { name: 'Keep these notes' })).toBeDisabled();
  await line.fill('(3(cde) (3(fed) (3(efg) | a2 g2');
  await expect(page.locator('vc-typed-editor svg.picture')).toBeVisible({ timeout: 30_000 });
  await expectAccessible(page);
  await page.getByRole('button', { name: 'By keys' }).click();
  await page.keyboard.press('End');
  await page.keyboard.press('4');
  await page.keyboard.press('f');
  await expect(page.locator('#typed-status')).toHaveText('2 measures typed: 21–22.');
  await page.getByRole('button', { name: 'Keep these notes' }).click();
  await expect(page.locator('vc-typed-strips svg.picture')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('tab', { name: /^Findings/u }).click();
  await expect(page.getByText(/Measure 21 decides the tempo/u)).toBeVisible();
  await expect(music.getByRole('button', { name: 'Measure 21, typed' })).toBeVisible();

  // A cue stands on its measure, goes along with the finger, and onto paper with the picture.
  await music.getByRole('button', { name: 'Measure 21, typed' }).click();
  await page.keyboard.press('w');
  await page.keyboard.press('b');
  const cue = music.locator('.cues');
  await expect(cue).toHaveText('’ Breathe here');
  const [from, to] = [
    await cue.boundingBox(),
    await music.getByRole('button', { name: /^Measure 20/u }).boundingBox(),
  ];
  await page.mouse.move((from?.x ?? 0) + 10, (from?.y ?? 0) + 6);
  await page.mouse.down();
  await page.mouse.move((to?.x ?? 0) + (to?.width ?? 0) / 2, (to?.y ?? 0) + (to?.height ?? 0) / 2, {
    steps: 6,
  });
  await page.mouse.up();
  await expect(music.getByRole('button', { name: /^Measure 20,.*Breathe here$/u })).toBeVisible();
  await page.getByRole('button', { name: 'Hand on' }).click();
  const coming = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('menuitem', { name: 'Pages with cues (PDF)' }).click();
  const paper = await readFile(await (await coming).path());
  expect(paper.subarray(0, 5).toString()).toBe('%PDF-');
  // The lines of the page are in it.
  expect(paper.length).toBeGreaterThan(100_000);

  // A digital score takes the place of the page: what changes is said before, and nothing is lost.
  await page.getByRole('button', { name: 'Change the music' }).click();
  await page.getByLabel('Score file').setInputFiles(file('demo/studies/ferry-lines.musicxml'));
  await expect(
    page.getByText(/^Against what is there: 8 new measures \(25–32\); 1 is 4\/4, was 3\/4/u),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Replace by ferry-lines.musicxml' }).click();
  await expect(page.locator('svg.picture').first()).toBeVisible({ timeout: 30_000 });
  await openPassages(page);
  await page.locator('vc-passage-list').getByText('mm. 9–12').click();
  await expect(page.locator('vc-passage-panel')).toContainText('1 rep on 1 day');
});

test('a PDF is drawn page by page, on a phone too, and what is no page is said in a sentence', async ({
  page,
  server,
  browser,
}) => {
  const printer = await browser.newPage();
  const picture = `data:image/jpeg;base64,${readFileSync(file(PAGE)).toString('base64')}`;
  await printer.setContent(
    `<body style="margin:0"><img src="${picture}" style="width:100%"><p style="break-before:page">No music here, only a text about a lamp that a keeper forgot.</p>`,
  );
  const pdf = await printer.pdf({ format: 'Letter' });
  await printer.close();
  await page.setViewportSize({ width: 390, height: 844 });
  const buffer = (content: Buffer | string, name: string, mimeType: string) => ({
    name,
    mimeType,
    buffer: Buffer.from(content),
  });
  await bringPages(page, server.url, [
    buffer(pdf, 'book.pdf', 'application/pdf'),
    buffer('%PDF-1.7 and then nothing', 'broken.pdf', 'application/pdf'),
    buffer('no picture at all', 'note.png', 'image/png'),
  ]);
  await expect(page.locator('vc-page-sheet .number text')).toHaveCount(24, { timeout: 60_000 });
  await expect(page.getByText('book.pdf, page 2')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText(/No staves were found on this page/u)).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText(/^broken.pdf: This PDF is broken; save it anew/u)).toBeVisible({
    timeout: 30_000,
  });
  await expect(page.getByText(/^note.png: This is neither a whole picture nor a PDF/u)).toBeVisible({
    timeout: 30_000,
  });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole('button', { name: 'Take book.pdf, page 2 away' }).click();
  await expect(page.getByText(/No staves were found/u)).toBeHidden();
  await page.getByRole('button', { name: '3/4', exact: true }).click();
  await page.getByRole('button', { name: 'These are the measures' }).click();
  await expect(
    page.getByRole('region', { name: 'Pages' }).getByRole('button', { name: 'Measure 24' }),
  ).toBeVisible({
    timeout: 30_000,
  });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
