import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { expect, expectAccessible, furnishStudio, test } from './studio';

/** Drags by hand: the library begins a drag only after the pointer has moved a little. */
async function dragTo(page: Page, from: string, to: string): Promise<void> {
  const [start, end] = [await page.locator(from).first().boundingBox(), await page.locator(to).boundingBox()];
  if (!start || !end) throw new Error('nothing to drag');
  await page.mouse.move(start.x + 20, start.y + start.height / 2);
  await page.mouse.down();
  await page.mouse.move(start.x + 34, start.y + start.height / 2 + 8, { steps: 4 });
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2, { steps: 8 });
  await page.mouse.up();
}

/** The text of a PDF that the student's menu makes, as another program reads it. */
async function pdfText(page: Page, name: string): Promise<string> {
  const coming = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: 'More for this student' }).click();
  await page.getByRole('menuitem', { name }).click();
  const bytes = await readFile(await (await coming).path());
  const document = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const { items } = await (await document.getPage(1)).getTextContent();
  return items
    .map((item) => ('str' in item ? item.str : ''))
    .join(' ')
    .replaceAll(/\s+/gu, ' ');
}

/** What a printer would get of a page that the student's menu prints: the paper's pages alone, as Chromium prints them. */
async function printedPages(
  page: Page,
  name: string,
): Promise<{ readonly pages: number; readonly isBlank: boolean; readonly text: string }> {
  const asked = page.evaluate(
    () =>
      new Promise<number>((done) => {
        window.print = () => done(document.querySelectorAll('.print-pages img').length);
      }),
  );
  await page.getByRole('button', { name: 'More for this student' }).click();
  await page.getByRole('menuitem', { name }).click();
  const pages = await asked;
  const isBlank = await page.evaluate(() => {
    const picture = document.querySelector<HTMLImageElement>('.print-pages img');
    if (!picture) return true;
    const canvas = Object.assign(document.createElement('canvas'), { width: 100, height: 140 });
    const context = canvas.getContext('2d');
    context?.drawImage(picture, 0, 0, 100, 140);
    return !context?.getImageData(0, 0, 100, 140).data.some((value) => value < 200);
  });
  // Chromium says that it has printed, and what waited for the printer is cleared away.
  const paper = await getDocument({ data: new Uint8Array(await page.pdf({ format: 'A4' })), verbosity: 0 })
    .promise;
  expect(paper.numPages).toBe(pages);
  const { items } = await (await paper.getPage(1)).getTextContent();
  await expect(page.locator('.print-pages')).toHaveCount(0);
  return { pages, isBlank, text: items.map((item) => ('str' in item ? item.str : '')).join('') };
}

test('a plan is shown, dragged, pinned, skipped and taken back; the desk follows it and ticks its tasks', async ({
  page,
  server,
  browser,
}) => {
  const { studentUrl } = await furnishStudio(page, server.url, { spans: ['9–12', '17–20', '21–24'] });
  await page.goto(studentUrl);
  await page.getByRole('button', { name: 'Make a personal link' }).click();
  const address = (await page.locator('.address').innerText()).trim();
  const code = (await page.locator('.code').innerText()).trim();
  await page.getByRole('main').getByRole('link', { name: 'Climb' }).click();
  await expect(page.getByRole('heading', { name: 'Ilse Vantongeren, the climb' })).toBeVisible();
  await expect(page.locator('.sentence')).toContainText(/^It (holds|does not hold)/u);
  // A first plan is kept at once.
  await expect(page.getByText(/the desk follows it/u)).toBeVisible();
  await expect(page.locator('vc-staircase .row')).toHaveCount(3);
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Calendar' }).click();
  const days = page.locator('vc-plan-calendar .day');
  await expect(page.locator('.day.is-today .chip').first()).toBeVisible();
  const todayAt = await days.evaluateAll((all) => all.findIndex((day) => day.classList.contains('is-today')));
  const [today, later] = [days.nth(todayAt), days.nth(todayAt + 2)];
  const before = await today.locator('.chip').count();
  await page.evaluate(
    ([a, b]) => {
      const all = document.querySelectorAll('vc-plan-calendar .day');
      all[a ?? 0]?.setAttribute('data-from', '');
      all[b ?? 0]?.setAttribute('data-to', '');
    },
    [todayAt, todayAt + 2],
  );
  const dragged = ((await today.locator('.chip').first().textContent()) ?? '').replace(/^\s*\d+/u, '').trim();
  await dragTo(page, '[data-from] .chip', '[data-to]');
  await expect(later.locator('.chip.is-pinned', { hasText: dragged })).toBeVisible();
  await expect(today.locator('.chip')).toHaveCount(before - 1);
  await expectAccessible(page);
  // What was dragged stays after a reload, and goes back by one key.
  await page.reload();
  await expect(later.locator('.chip.is-pinned', { hasText: dragged })).toBeVisible();

  // The same by key: skip a day, practise it after all.
  const panel = page.locator('vc-plan-day');
  await expect(panel.getByRole('heading', { name: /^Today/u })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('s');
  await expect(panel.getByText('Skipped: no practice on this day.')).toBeVisible();
  await expect(days.nth(todayAt + 1).locator('.chip')).toHaveCount(0);
  await page.keyboard.press('u');
  await expect(panel.getByText('Skipped: no practice on this day.')).toBeHidden();
  await panel.getByLabel('Minutes on this day').fill('9');
  await panel.getByLabel('Minutes on this day').blur();
  await expect(days.nth(todayAt + 1).locator('.head')).toContainText(/(?<!\d)9′/u);
  await page.getByLabel(/What if a day had/u).fill('5');
  await page.getByLabel(/What if a day had/u).blur();
  await expect(page.locator('.tried')).toContainText(/^It (holds|does not hold)/u);

  await page.getByRole('button', { name: 'Table' }).click();
  await expect(page.getByRole('row', { name: /mm\. 17–20/u })).toBeVisible();
  const tasks = page.locator('vc-plan-tasks');
  await tasks.getByLabel('Something else').fill('Ring the accompanist');
  await tasks.getByRole('button', { name: 'Add' }).click();
  await expect(tasks.getByText('Ring the accompanist')).toBeVisible();
  await tasks.getByRole('checkbox', { name: /Forms and fee/u }).check();
  await expect(tasks.locator('.is-done')).toHaveCount(1);
  await page.setViewportSize({ width: 390, height: 844 });
  await page.getByRole('button', { name: 'Calendar' }).click();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await expectAccessible(page);

  const context = await browser.newContext();
  const desk = await context.newPage();
  await desk.goto(`${address}#${code}`);
  await expect(desk.getByRole('heading', { name: 'Beside playing' })).toBeVisible();
  await expect(desk.locator('.list li').first()).toBeVisible();
  await expect(desk.locator('.list li', { hasText: dragged })).toHaveCount(0);
  await desk.getByRole('checkbox', { name: /Listen to the whole work/u }).check();
  await expect(desk.getByText(/to send/u)).toBeHidden();
  await page.reload();
  await expect(page.locator('vc-plan-tasks .is-done')).toHaveCount(2);
  // What is to be read on paper holds what the screen holds.
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(studentUrl);
  await expect(page.getByText(/^This week: /u)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'History' })).toBeVisible();
  await page.getByText('All of it as tables').click();
  await expect(page.getByRole('table', { name: 'What was planned and played' })).toBeVisible();
  await expectAccessible(page);
  const cues = await pdfText(page, 'Cue sheet for the stand (PDF)');
  expect(cues).toContain('Ilse Vantongeren');
  expect(cues).toContain('58 67 77 86 95 103 110 116');
  const progress = await pdfText(page, 'Progress page (PDF)');
  expect(progress).toContain('Nothing was logged in the last four weeks.');
  expect(progress).toContain('mm. 21–24');
  expect(await printedPages(page, 'Print progress page')).toEqual({ pages: 1, isBlank: false, text: '' });
  await context.close();
});
