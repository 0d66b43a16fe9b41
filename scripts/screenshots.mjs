// One picture of each main view, from the demo data, at 1280×800.
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';
import { executablePath } from './chromium.mjs';

const address = process.argv[2];
const folder = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const browser = await chromium.launch({
  executablePath,
  args: ['--no-sandbox', '--headless', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const picture = async (name) => {
  await page.mouse.move(0, 0);
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${folder}${name}.png` });
};

await page.goto(address);
await page.getByRole('heading', { name: 'Sign in' }).waitFor();
await page.getByRole('button', { name: 'Sign in as the demo instructor' }).click();
await page.getByRole('link', { name: 'Ilse Vantongeren' }).waitFor();
// The forecasts of a new story are reckoned first.
await page.locator('.ahead').nth(5).waitFor({ timeout: 120_000 });
await picture('season');
await page.getByRole('link', { name: 'Ilse Vantongeren' }).click();
await page.getByRole('heading', { name: 'Ilse Vantongeren' }).waitFor();
await page
  .getByText(/^This week: /u)
  .first()
  .waitFor();
await picture('student');
await page.locator('vc-history-card canvas').scrollIntoViewIfNeeded();
await page.evaluate(() => document.querySelector('#history-title')?.scrollIntoView({ block: 'start' }));
await picture('history');
await page.getByRole('main').getByRole('link', { name: 'Climb' }).click();
await page.locator('vc-staircase .row').first().waitFor();
await page.getByRole('button', { name: 'Staircases' }).click();
await picture('climb');
await page.goBack();
await page.getByRole('link', { name: 'Open the score' }).first().click();
await page.locator('svg.picture').first().waitFor({ timeout: 30_000 });
await page.locator('vc-findings-panel .list li').first().waitFor();
await page.keyboard.press('.');
await picture('findings');
await page.keyboard.press('Escape');
await page.keyboard.press('b');
await page.getByRole('button', { name: 'measure 18', exact: true }).waitFor();
await page.locator('div.score').evaluate((score) => score.scrollTo(0, 260));
await picture('body');
// Cues at their notes, written with two keys each.
for (const [measure, note, key] of [
  [16, 2, 'r'],
  [17, 1, 'l'],
  [18, 0, 't'],
]) {
  await page.locator('g.measure').nth(measure).locator('g.notehead').nth(note).click();
  await page.keyboard.press('w');
  await page.keyboard.press(key);
  await page.waitForTimeout(900);
}
await page.keyboard.press('q');
await page.keyboard.press('w');
await page.locator('vc-cue-keys').waitFor();
await page.getByRole('button', { name: 'Close' }).last().click();
await picture('cues');
await page.goto(`${address}/season`);
await page.getByRole('link', { name: 'Caspian Roe' }).click();
await page.getByRole('link', { name: 'Open the score' }).first().click();
await page.locator('vc-page-lines .box').first().waitFor();
await page.locator('vc-typed-strips svg.picture').first().waitFor();
await page.getByRole('tab', { name: /^Passages/u }).click();
await page
  .getByRole('button', { name: /^calls/u })
  .first()
  .click();
await page.locator('.own-lines .box').first().waitFor();
await picture('page-room');
await page.getByRole('button', { name: 'Change the music' }).click();
await page.getByRole('button', { name: 'Correct those that are here' }).click();
await page.locator('vc-page-sheet .number').first().waitFor();
await page.locator('#board-title').click();
for (let n = 0; n < 9; n += 1) await page.keyboard.press('ArrowRight');
await picture('page-board');
await page.getByRole('link', { name: 'Sheet', exact: true }).click();
await page.getByRole('link', { name: /^Orrin Sound/u }).click();
await page.locator('vc-text-table').first().waitFor();
await page.locator('vc-sheet-text td .known', { hasText: '132' }).first().hover();
await page.waitForTimeout(600);
await page.screenshot({ path: `${folder}sheet.png` });
await page.goto(`${address}/settings`);
await page.getByRole('button', { name: 'Save the settings' }).waitFor();
await picture('settings');
await page.goto(`${address}/season`);
await page.getByRole('link', { name: 'Ilse Vantongeren' }).click();
await page.getByRole('button', { name: /link$/u }).click();
await page.locator('.fresh .code').waitFor();
const link = `${await page.locator('.fresh .address').innerText()}#${await page.locator('.fresh .code').innerText()}`;
await page
  .getByRole('button', { name: /^Take back the link/u })
  .last()
  .waitFor();
// Takes: one with its curve, two beside each other.
await page.locator('.page-head').getByRole('link', { name: 'Takes' }).click();
await page.getByRole('button', { name: 'Take 3', exact: true }).click();
await page.locator('vc-passage-music svg.picture').first().waitFor({ timeout: 30_000 });
await page.locator('.ribbon button').nth(17).click();
await page.locator('.now-ground').waitFor();
await page.locator('#panel-title').waitFor();
await picture('take');
await page.getByLabel('Lay another take beside it').selectOption({ label: 'Beside take 1' });
await page.locator('vc-take-curve').nth(1).waitFor();
await picture('takes-two');
// A mock day: what is called up, its results, a listener on a phone.
await page.getByRole('link', { name: 'Mock', exact: true }).click();
await page.locator('.days a').first().click();
await page.getByRole('heading', { name: 'Results' }).waitFor();
await picture('results');
await page.getByRole('button', { name: 'Make a link' }).click();
await page.locator('.listener .code').last().waitFor();
const listening = page.locator('.listener .code').last();
const heard = `${await listening.locator('span').innerText()}#${await listening.locator('strong').innerText()}`;
await page.evaluate(() => document.querySelector('#called-title')?.scrollIntoView({ block: 'start' }));
await picture('mock');
const listener = await browser.newPage({ viewport: { width: 390, height: 844 } });
await listener.goto(heard);
await listener.locator('.criterion').first().waitFor();
for (const criterion of ['Tone', 'Notes and intonation', 'Rhythm and tempo'])
  await listener.getByRole('button', { name: `More for ${criterion}` }).click();
await listener.getByText('Everything you gave is kept.').waitFor();
await listener.evaluate(() => window.scrollTo(0, 0));
await listener.waitForTimeout(600);
await listener.screenshot({ path: `${folder}listener.png` });
await page.goto(`${address}/season`);
await page.getByRole('link', { name: 'Ilse Vantongeren' }).click();
await page.getByRole('heading', { name: 'Ilse Vantongeren' }).waitFor();
await page.setViewportSize({ width: 820, height: 1180 });
await page.getByRole('link', { name: 'Lesson' }).click();
await page.locator('.hear li').first().waitFor();
await picture('lesson');
await page.setViewportSize({ width: 1280, height: 800 });
const phone = await browser.newPage({ viewport: { width: 390, height: 844 } });
await phone.goto(link);
await phone.locator('.list li').first().waitFor();
await phone.waitForTimeout(600);
await phone.screenshot({ path: `${folder}desk-phone.png` });
await page.goto(link);
await page.locator('vc-desk-today button.what').first().click();
await page.locator('vc-passage-music svg.picture').first().waitFor({ timeout: 30_000 });
await picture('desk');
await browser.close();
