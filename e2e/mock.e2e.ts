import { mkdirSync, writeFileSync } from 'node:fs';
import type { Browser, Page } from '@playwright/test';
import { expect, expectAccessible, file, furnishStudio, openPassages, openScore, test } from './studio';

/** A listener on a phone of their own, by link and code. */
async function listener(
  browser: Browser,
  link: { readonly address: string; readonly code: string },
): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  await phone.goto(link.address);
  await phone.getByLabel('Code').fill(link.code);
  await phone.getByRole('button', { name: 'Open' }).click();
  await expect(phone.locator('.criterion').first()).toBeVisible();
  return phone;
}

/** Asks somebody to listen, and reads link and code. */
async function asked(page: Page, nth: number): Promise<{ address: string; code: string }> {
  await page.getByRole('button', { name: 'Make a link' }).click();
  const box = page.locator('.listener').nth(nth).locator('.code');
  await expect(box).toBeVisible();
  const address = (await box.locator('span').innerText()).trim();
  const code = (await box.locator('strong').innerText()).trim();
  return { address, code };
}

/** Gives half a point less than the middle for each criterion, and taps measures. */
async function score(phone: Page, taps: readonly string[]): Promise<void> {
  const criteria = phone.locator('.criterion');
  for (let n = 0; n < (await criteria.count()); n += 1) {
    const more = criteria.nth(n).getByRole('button', { name: /^Less for/u });
    await more.click();
    await more.click();
  }
  for (const number of taps)
    await phone.locator('vc-slip-taps').getByRole('button', { name: number, exact: true }).click();
  await expect(phone.getByText('Everything you gave is kept.')).toBeVisible();
}

test('a mock day: made from the program, run on one screen, scored by two on their phones, sent back to the passages', async ({
  page,
  server,
  browser,
}) => {
  test.slow();
  const { studentUrl } = await furnishStudio(page, server.url, { spans: ['1–8', '9–16'] });
  await page.goto(studentUrl);
  await expect(page.getByRole('heading', { name: 'Ilse Vantongeren', level: 1 })).toBeVisible();
  await page.getByRole('link', { name: 'Mock', exact: true }).click();
  await expect(page.getByRole('checkbox', { name: /Ilse Vantongeren/u })).toBeChecked();
  await page.getByRole('checkbox', { name: /^Record every part/u }).uncheck();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make the day' }).click();
  await expect(page.getByRole('heading', { name: /^Mock day/u })).toBeVisible();
  await expect(page.locator('.items li')).toHaveCount(1);
  await page.getByRole('button', { name: 'Add sight-reading' }).click();
  await expect(page.locator('.items li')).toHaveCount(2);
  await page.getByRole('button', { name: 'Add an ear test' }).click();
  await expect(page.locator('.items li')).toHaveCount(3);
  await page.getByLabel('study, s').nth(1).fill('3');
  await page.getByLabel('pause after, s').first().fill('0');
  await page.getByLabel('pause after, s').first().blur();
  await expect(page.getByLabel('study, s').nth(1)).toHaveValue('3');
  const links = [await asked(page, 0), await asked(page, 1)];
  await expectAccessible(page);

  const phones = [];
  for (const link of links) phones.push(await listener(browser, link));
  const [first, second] = phones;
  if (!first || !second) throw new Error('Two listen.');
  await expectAccessible(first);

  // One message on its way for long is not overtaken by the next: listeners would be left behind.
  const arrived: string[] = [];
  await page.route(/\/place$/u, async (route) => {
    const phase = /"phase":"(\w+)"/u.exec(route.request().postData() ?? '')?.[1] ?? '';
    if (phase === 'playing') await new Promise((done) => setTimeout(done, 1500));
    arrived.push(phase);
    await route.continue();
  });

  // The player's screen: what is called up, and nothing else; one key goes on.
  await page.getByRole('link', { name: 'Run it' }).click();
  await expect(page.getByRole('heading', { name: 'Come in when you are ready' })).toBeVisible();
  await expect(page.getByRole('navigation')).toHaveCount(0);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Ferry Lines' })).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Played/u })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Sight-reading' })).toBeVisible();
  await expect(page.locator('.stage svg')).toHaveCount(0);
  await expect(first.getByRole('button', { name: 'Now: Ilse Vantongeren: Sight-reading' })).toBeVisible();
  await expect(() => expect(arrived).toEqual(['called', 'playing', 'called'])).toPass({ timeout: 15_000 });
  await page.unrouteAll({ behavior: 'wait' });
  await page.keyboard.press('Enter');
  await expect(page.getByText('Study time').first()).toBeVisible();
  await expect(page.locator('.stage svg').first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('timer')).toHaveText('0:00');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'A moment' })).toBeVisible();
  await page.keyboard.press('Enter');

  // The ear test sounds question by question; what is right stands on the listeners' phones only.
  await expect(page.getByRole('heading', { name: 'Ear test' })).toBeVisible();
  await page.keyboard.press('Enter');
  const ear = page.locator('vc-mock-ear');
  await expect(ear).toContainText('Question 1 of 5');
  await expect(ear.getByRole('status')).toHaveText('Answer now.');
  await ear.getByRole('button', { name: 'Hear it again' }).click();
  await expect(ear.getByRole('status')).toHaveText('Listen …');
  await expectAccessible(page);
  await second.getByRole('button', { name: 'Now: Ilse Vantongeren: Ear test' }).click();
  await expect(second.locator('.answers li')).toHaveCount(5);
  await expect(second.locator('.criterion')).toHaveCount(5);
  await expect(second.locator('.criterion').nth(1)).toContainText('Interval');
  await expect(second.locator('.answers li strong').first()).toHaveText(/^beats [1-4]/u);
  await expectAccessible(second);
  for (let n = 2; n <= 5; n += 1) {
    await page.getByRole('button', { name: /^Next question/u }).click();
    await expect(ear).toContainText(`Question ${n} of 5`);
  }
  await page.getByRole('button', { name: /^Played/u }).click();
  await expect(page.getByRole('heading', { name: 'Thank you. That was all.' })).toBeVisible();
  await page.getByRole('button', { name: /^Back to the day/u }).click();

  await score(first, ['3', '10']);
  await second.getByRole('button', { name: 'Ferry Lines' }).click();
  await score(second, ['10', '14']);
  await first.reload();
  await expect(first.getByText('1 of 3 scored')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Results' })).toBeVisible();
  await expect(page.getByText('mm. 10')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'End the day' }).click();
  await expect(page.getByText('what two or more tapped went back to the passages')).toBeVisible();
  await expect(first.getByText('The day is ended; what you gave stands. Thank you.')).toBeVisible();

  await page.goto(studentUrl);
  await expect(page.getByText('tapped by 2 in the mock')).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Open it again' }).click();
  await expect(page.getByRole('button', { name: 'End the day' })).toBeVisible();
  for (const phone of phones) await phone.context().close();
});

test('at the desk a study is read at sight and an ear test answered; both stand in the record', async ({
  page,
  server,
  browser,
}) => {
  test.slow();
  const { studentUrl } = await furnishStudio(page, server.url, { spans: ['1–4'] });
  await page.goto(studentUrl);
  await page.getByRole('button', { name: 'Make a personal link' }).click();
  await expect(page.getByAltText(/^Picture of the link/u)).toBeVisible();
  const address = (await page.locator('.address').innerText()).trim();
  const code = (await page.locator('.code').innerText()).trim();
  const context = await browser.newContext({ viewport: { width: 1180, height: 820 } });
  const desk = await context.newPage();
  await desk.goto(`${address}#${code}`);
  await desk.getByRole('button', { name: 'Sight, ear' }).click();
  await expect(desk.getByRole('heading', { name: 'Sight and ear' })).toBeVisible();
  await expectAccessible(desk);
  await desk.getByRole('button', { name: 'Show me a study' }).click();
  await expect(desk.locator('.stage svg').first()).toBeVisible({ timeout: 30_000 });
  await desk.getByRole('button', { name: 'I am ready' }).click();
  await desk.locator('vc-slip-taps').getByRole('button', { name: '2', exact: true }).click();
  await expectAccessible(desk);
  await desk.getByRole('button', { name: /^1 slipped/u }).click();
  await expect(desk.getByText(/\d+ of \d+ without a slip\./u)).toBeVisible();
  await expect(desk.locator('vc-unit-lines')).toContainText('Sight-reading');

  await desk.getByRole('button', { name: 'Intervals' }).click();
  await desk.getByRole('button', { name: 'Listen' }).click();
  await desk.locator('.choices button').first().click({ timeout: 20_000 });
  await expect(desk.locator('.came')).toHaveText(/^(?:Yes|It was)/u);
  await expect(desk.locator('vc-unit-lines')).toContainText('Intervals');
  await page.goto(`${studentUrl}/takes`);
  await expect(page.locator('vc-unit-lines')).toContainText('Intervals');
  await context.close();
});

/** Four measures for a clarinet and a piano. */
function duo(): string {
  const measure = (step: string, n: number): string => {
    const head =
      n === 1
        ? '<attributes><divisions>1</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>'
        : '';
    const note = `<note><pitch><step>${step}</step><octave>4</octave></pitch><duration>1</duration><type>quarter</type></note>`;
    return `<measure number="${n}">${head}${note.repeat(4)}</measure>`;
  };
  const part = (id: string, step: string): string =>
    `<part id="${id}">${[1, 2, 3, 4].map((n) => measure(step, n)).join('')}</part>`;
  const names = ['Clarinet', 'Piano'].map(
    (name, n) => `<score-part id="P${n + 1}"><part-name>${name}</part-name></score-part>`,
  );
  return `<?xml version="1.0" encoding="UTF-8"?><score-partwise version="4.0"><part-list>${names.join('')}</part-list>${part('P1', 'E')}${part('P2', 'C')}</score-partwise>`;
}

test('a score with other parts is accompanied at any tempo; one of a single part offers nothing', async ({
  page,
  server,
}) => {
  mkdirSync(file('.data/e2e-sounds'), { recursive: true });
  writeFileSync(file('.data/e2e-sounds/duo.musicxml'), duo());
  const music = { work: 'Duo', to: 4, path: '.data/e2e-sounds/duo.musicxml' };
  await openScore(page, await furnishStudio(page, server.url, { music }));
  await openPassages(page);
  const bar = page.getByRole('group', { name: 'Accompaniment' });
  await bar.getByLabel('Tempo').fill('240');
  await bar.getByLabel('What sounds').selectOption('soft');
  await bar.getByRole('button', { name: 'Play, one measure before' }).click();
  await expect(bar.getByRole('button', { name: 'Stop' })).toBeVisible();
  // Five measures of four at 240 last five seconds.
  await expect(bar.getByRole('button', { name: 'Play, one measure before' })).toBeVisible();
  await expectAccessible(page);
  await openScore(page, await furnishStudio(page, server.url));
  await openPassages(page);
  await expect(bar).toHaveCount(0);
});
