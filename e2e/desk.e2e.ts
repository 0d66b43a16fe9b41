import type { Browser, BrowserContext, Page } from '@playwright/test';
import { expect, expectAccessible, furnishStudio, scriptBytes, test } from './studio';

/** A studio with a student whose etude has two passages, and the student's link with its code; the student's page is open. */
async function studioWithLink(page: Page, url: string): Promise<{ address: string; code: string }> {
  const { studentUrl } = await furnishStudio(page, url, { spans: ['9–12', '17–20'] });
  await page.goto(studentUrl);
  await page.getByRole('button', { name: 'Make a personal link' }).click();
  await expect(page.getByAltText(/^Picture of the link/u)).toBeVisible();
  const address = (await page.locator('.address').innerText()).trim();
  const code = (await page.locator('.code').innerText()).trim();
  return { address, code };
}

async function device(browser: Browser): Promise<{ context: BrowserContext; desk: Page }> {
  const context = await browser.newContext({ viewport: { width: 1180, height: 820 } });
  return { context, desk: await context.newPage() };
}

const clean = (desk: Page): Promise<void> => desk.getByRole('button', { name: /^Clean/u }).click();

test('a student practises by a personal link: list, passage, click, reps, a surprise and a note', async ({
  page,
  server,
  browser,
}) => {
  const { address, code } = await studioWithLink(page, server.url);
  await expectAccessible(page);
  const { context, desk } = await device(browser);
  const weight = scriptBytes(desk);
  await desk.goto(`${address}#${code}`);
  await expect(desk.getByRole('heading', { name: 'Today' })).toBeVisible();
  // The code does not stay in sight.
  expect(desk.url()).toBe(address);
  await expect(desk.locator('.list li').first()).toBeVisible();
  // A phone on a slow line has its list soon: the engraving engine comes with the first passage.
  const bytes = await weight();
  expect(bytes).toBeGreaterThan(50_000);
  expect(bytes).toBeLessThan(250_000);
  await expectAccessible(desk);

  await desk
    .getByRole('button', { name: /mm\. 9–12/u })
    .first()
    .click();
  await expect(desk.locator('vc-passage-music svg.picture').first()).toBeVisible({ timeout: 30_000 });
  await expect(desk.locator('.bpm')).toHaveText('58');
  await expectAccessible(desk);
  // Three clean at first sight are two rungs: by button, by key and by pedal.
  await clean(desk);
  await expect(desk.getByRole('status').filter({ hasText: 'Clean, 1 of 3' })).toBeVisible();
  await desk.getByRole('heading', { name: 'mm. 9–12' }).focus();
  await desk.keyboard.press(' ');
  await desk.keyboard.press('PageDown');
  await expect(desk.getByText('Up to ♩=77.')).toBeVisible();
  await expect(desk.locator('.bpm')).toHaveText('77');
  // Two slips lead a rung down.
  await desk.keyboard.press('x');
  await desk.keyboard.press('PageUp');
  await expect(desk.getByText(/One rung down, to ♩=67/u)).toBeVisible();
  await desk.keyboard.press('u');
  await expect(desk.getByText('Taken back.')).toBeVisible();

  await desk.getByRole('button', { name: /^Click/u }).click();
  await expect(desk.locator('.pulse .is-now')).toBeVisible();
  await desk.getByRole('button', { name: /^clicks/u }).click();
  await desk.getByLabel('Falls silent').selectOption('alternate');
  await expect(desk.getByRole('button', { name: /silent every other measure/u })).toBeVisible();
  await desk.getByRole('button', { name: 'Stop the click' }).click();

  await desk.getByRole('button', { name: 'Drills' }).click();
  await desk.getByRole('button', { name: /^\d+′ ?Dotted/u }).click();
  await expect(
    desk.getByRole('img', { name: 'Engraved: Dotted' }).locator('svg.picture').first(),
  ).toBeVisible({
    timeout: 30_000,
  });
  await desk.getByRole('button', { name: 'Hear it' }).click();
  await expect(desk.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expectAccessible(desk);
  await desk.getByRole('button', { name: 'Stop', exact: true }).click();
  await desk.getByRole('button', { name: 'Click', exact: true }).click();
  await desk.getByRole('button', { name: 'Hear it' }).click();
  const sheet = desk.waitForEvent('download', { timeout: 60_000 });
  await desk.getByRole('button', { name: 'Save as PDF' }).click();
  expect((await sheet).suggestedFilename()).toBe('dotted.pdf');
  // A test from anywhere has a result, and each place of it is a rep.
  await desk.getByRole('button', { name: /^\d+′ ?Start anywhere/u }).click();
  const places = desk.locator('.turns li');
  await places
    .first()
    .getByRole('button', { name: /clean$/u })
    .click();
  await places.last().getByRole('button', { name: /slip$/u }).click();
  await expect(desk.getByText(/^1 of 2 places clean\. Not yet from \d/u)).toBeVisible();
  await desk.getByRole('button', { name: 'Drills' }).click();

  await desk.getByRole('button', { name: 'That surprised me' }).click();
  await desk.getByRole('group', { name: 'In which measure?' }).getByRole('button', { name: '11' }).click();
  await desk.getByLabel('What was it? (if you like)').fill('the F sharp');
  await desk.getByRole('button', { name: 'Tell my teacher' }).click();
  await expect(desk.getByText('Held here: your teacher looks at the surprise first')).toBeVisible();

  await desk.getByRole('button', { name: 'Desk', exact: true }).click();
  await desk.getByLabel('A line to my teacher').fill('Can we look at 11?');
  await desk.getByRole('button', { name: 'Send' }).click();
  await expect(desk.getByText('It is on its way.')).toBeVisible();
  await expect(desk.getByText(/to send/u)).toBeHidden();

  await page.reload();
  await expect(page.getByText(/m\. 11 of “mm\. 9–12” surprised/u)).toBeVisible();
  await expect(page.getByText('“Can we look at 11?”')).toBeVisible();
  await page.getByRole('button', { name: 'Looked at' }).click();
  await expect(page.getByText(/surprised at/u)).toBeHidden();
  await desk.reload();
  await desk
    .getByRole('button', { name: /mm\. 9–12/u })
    .first()
    .click();
  await expect(desk.getByText('3 in a row moves you up')).toBeVisible();

  // A wrong code says so; a link that was taken back ends the desk at once.
  const stranger = await device(browser);
  await stranger.desk.goto(address);
  await stranger.desk.getByLabel('Code').fill('abcd-efgh');
  await stranger.desk.getByRole('button', { name: 'Open my desk' }).click();
  await expect(stranger.desk.getByRole('alert')).toContainText('That is not the code of this link');
  await stranger.context.close();
  await page.getByRole('button', { name: /^Take back the link/u }).click();
  await expect(page.getByRole('button', { name: 'Make a personal link' })).toBeVisible();
  await desk.reload();
  await expect(desk.getByRole('heading', { name: 'This link is not good any more' })).toBeVisible();
  await context.close();
});

test('the desk opens and counts without a connection, on two devices at once, and every rep arrives once', async ({
  page,
  server,
  browser,
}) => {
  const { address, code } = await studioWithLink(page, server.url);
  const phone = await device(browser);
  const tablet = await device(browser);
  for (const { desk } of [phone, tablet]) {
    await desk.goto(`${address}#${code}`);
    await desk
      .getByRole('button', { name: /mm\. 17–20/u })
      .first()
      .click();
    await expect(desk.locator('vc-passage-music svg.picture').first()).toBeVisible({ timeout: 30_000 });
  }
  // The worker keeps what this visit used.
  await phone.desk.waitForFunction(async () => (await caches.match('/index.html')) !== undefined, undefined, {
    timeout: 30_000,
  });
  await phone.desk.waitForFunction(
    async () => (await caches.match('/verovio/verovio-module.mjs')) !== undefined,
    undefined,
    { timeout: 30_000 },
  );
  await phone.context.setOffline(true);
  await phone.desk.reload();
  await expect(phone.desk.getByText(/No connection: everything works/u)).toBeVisible();
  await expect(phone.desk.locator('vc-passage-music svg.picture').first()).toBeVisible({ timeout: 30_000 });
  await clean(phone.desk);
  await clean(phone.desk);
  await expect(phone.desk.getByText('2 to send')).toBeVisible();
  await clean(tablet.desk);
  await clean(tablet.desk);
  await expect(tablet.desk.getByText(/to send/u)).toBeHidden();
  await phone.desk.reload();
  await expect(phone.desk.getByText('2 to send')).toBeVisible();
  await phone.context.setOffline(false);
  await expect(phone.desk.getByText(/to send/u)).toBeHidden({ timeout: 30_000 });
  await expect(phone.desk.getByText(/No connection/u)).toBeHidden();

  await page.getByRole('link', { name: 'Open the score' }).first().click();
  await page.getByRole('tab', { name: /^Passages/u }).click();
  await page.locator('vc-passage-list').getByText('mm. 17–20').click();
  await expect(page.locator('vc-passage-panel')).toContainText('4 reps on 1 day');

  // On a phone the music and both buttons fit one screen, and a run of the whole is tapped.
  const { desk } = phone;
  await desk.setViewportSize({ width: 390, height: 844 });
  const place = await desk.getByRole('button', { name: /^Slip/u }).boundingBox();
  expect((place?.y ?? 999) + (place?.height ?? 0)).toBeLessThan(844);
  expect(await desk.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await expectAccessible(desk);
  await desk.getByRole('button', { name: 'Desk', exact: true }).click();
  await desk.getByRole('button', { name: /^Everything once/u }).click();
  await desk.getByRole('button', { name: '18', exact: true }).click();
  await desk.getByRole('button', { name: '1 slipped: keep the run' }).click();
  await expect(desk.getByText(/to send/u)).toBeHidden();
  await page.reload();
  await page.getByRole('tab', { name: /^Passages/u }).click();
  await page.locator('vc-passage-list').getByText('mm. 17–20').click();
  await expect(page.locator('vc-passage-panel')).toContainText('5 reps on 1 day');
  await phone.context.close();
  await tablet.context.close();
});

test('a lesson says what to hear and why, counts what was heard, and asks until the next one', async ({
  page,
  server,
  browser,
}) => {
  const { address, code } = await studioWithLink(page, server.url);
  const { context, desk } = await device(browser);
  await desk.goto(`${address}#${code}`);
  await desk
    .getByRole('button', { name: /mm\. 9–12/u })
    .first()
    .click();
  for (let n = 0; n < 3; n += 1) await clean(desk);
  await expect(desk.getByText('Up to ♩=77.')).toBeVisible();
  await expect(desk.getByText(/to send/u)).toBeHidden();

  await page.setViewportSize({ width: 820, height: 1180 });
  await page.getByRole('link', { name: 'Lesson' }).click();
  await expect(page.getByRole('heading', { name: 'Hear this, in this order' })).toBeVisible();
  await expect(page.locator('.hear')).toContainText('never heard by you');
  await expectAccessible(page);
  await page
    .locator('.hear')
    .getByRole('button', { name: /mm\. 9–12/u })
    .click();
  await expect(page.getByRole('heading', { name: 'Now: mm. 9–12 at ♩=77' })).toBeVisible();
  await page.getByRole('button', { name: 'Clean', exact: true }).click();
  await page.getByRole('button', { name: 'Slip', exact: true }).click();
  await expect(page.getByText('Heard by you: 1 of 2 clean.')).toBeVisible();
  // The whole is heard once, and what slipped in it is tapped.
  await page.locator('select[name=passage]').selectOption('Ferry Lines, from beginning to end');
  await page.getByRole('button', { name: '11', exact: true }).click();
  await page.getByRole('button', { name: '1 slipped: keep the run' }).click();
  await expect(page.getByText('Kept: 1 slipped.')).toBeVisible();
  await expectAccessible(page);
  await page
    .locator('.hear')
    .getByRole('button', { name: /mm\. 9–12/u })
    .click();
  await page.getByLabel('What is asked until next time').fill('three clean on two days');
  await page.getByRole('button', { name: 'Ask of mm. 9–12' }).click();
  await page.getByLabel('Notes').fill('Sound first, then speed.');
  // Nothing that was entered is lost by leaving.
  await page.reload();
  await expect(page.getByLabel('Notes')).toHaveValue('Sound first, then speed.');
  await page.getByRole('button', { name: 'Send to the desk' }).click();
  await expect(page.getByText('On the desk, and in the record')).toBeVisible();
  await page.reload();
  await expect(page.locator('.promised')).toContainText('mm. 9–12 three clean on two days.');
  await desk.reload();
  await desk.getByRole('button', { name: 'Desk', exact: true }).click();
  await expect(desk.getByRole('heading', { name: 'Until the next lesson' })).toBeVisible();
  await expect(desk.getByText('three clean on two days')).toBeVisible();
  await context.close();
});
