import type { Page } from '@playwright/test';
import { giveMicrophone, heardAs, hearing, MICROPHONE_RATE, recordedSamples } from './microphone';
import { expect, expectAccessible, test } from './studio';
import { BPM, LAST, LEAD_SECONDS, openTakes, record, SECONDS, sound } from './take-steps';

/** So little that a microphone skipped changes nothing that is asserted. Units: milliseconds */
const HARMLESS = 60;
const heard = heardAs('from-microphone', sound);

test.use({ launchOptions: hearing(heard) });

/** Records the whole of what the microphone hears, while something holds the page up. */
async function recordAll(page: Page): Promise<void> {
  await record(page);
  await expectAccessible(page);
  // What holds the page up takes nothing from the recording: its own thread goes on.
  await page.waitForTimeout(3000);
  await page.evaluate(() => {
    const end = performance.now() + 2000;
    while (performance.now() < end);
  });
  await page.waitForTimeout((SECONDS - 5) * 1000);
  await page.getByRole('button', { name: 'Stop' }).click();
  const review = page.locator('vc-take-review');
  await expect(review.getByRole('heading', { name: 'Ferry Lines, just recorded' })).toBeVisible();
  await expect(review.locator('vc-take-facts .said')).toBeVisible({ timeout: 60_000 });
}

/** What was recorded is what was heard, sample by sample, but for silence that was put in. Units: milliseconds of it */
async function expectAllOfIt(page: Page): Promise<number> {
  const recorded = await recordedSamples(page);
  expect(recorded.length).toBeGreaterThan((SECONDS - 1) * MICROPHONE_RATE);
  const handedOut = Buffer.from(recorded.filter((sample) => sample !== 0).buffer);
  const place = Buffer.from(heard.samples.buffer).indexOf(handedOut);
  expect(place).toBeGreaterThanOrEqual(0);
  // From before the first note on.
  expect(place / 2 / MICROPHONE_RATE).toBeLessThan(LEAD_SECONDS);
  return ((recorded.length - handedOut.length / 2) / MICROPHONE_RATE) * 1000;
}

/** The numbers of what was played are those that are told. */
async function expectTruth(page: Page): Promise<void> {
  const said = await page.locator('vc-take-review .said').innerText();
  const [, opening = '0'] = /Opens at (\d+)/u.exec(said) ?? [];
  expect(Math.abs(Number(opening) - BPM)).toBeLessThanOrEqual(0.03 * BPM);
  expect(said).toContain('The sheet asks 116.');
  expect(said).toMatch(/Stops for 1\.[4-8] s in measure 4\./u);
}

test('from the microphone to the number: a take is recorded, read, tapped, kept, and becomes a run', async ({
  page,
  server,
}) => {
  test.slow();
  await giveMicrophone(page, heard);
  await openTakes(page, server.url);
  await expectAccessible(page);
  const review = page.locator('vc-take-review');
  await recordAll(page);
  await expect(review.getByText('The sound card skipped')).toHaveCount(0);
  expect(await expectAllOfIt(page)).toBe(0);
  await expectTruth(page);
  await expect(review.locator('.ribbon button')).toHaveCount(LAST);
  await expectAccessible(page);

  await review.getByRole('button', { name: 'measure 3', exact: false }).first().click();
  await page.keyboard.press('x');
  await expect(review.getByText('m. 3')).toBeVisible();
  await review.getByRole('button', { name: 'Keep this take' }).click();
  await page.getByRole('button', { name: 'Take 1', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Take 1, Ferry Lines' })).toBeVisible();
  await expect(page.locator('vc-passage-music svg.picture').first()).toBeVisible({ timeout: 30_000 });
  await expectAccessible(page);

  // It plays, and the ribbon and the music go along.
  await page.keyboard.press(' ');
  await expect(page.locator('.ribbon .is-now')).toHaveAttribute('aria-label', /^measure 2/u, {
    timeout: 20_000,
  });
  await expect(page.locator('.now-ground')).toHaveCount(1);
  await page.keyboard.press(' ');
  await expect(page.getByText('Slipped:')).toBeVisible();
  await page.getByRole('button', { name: 'Log it as a run' }).click();
  await expect(page.getByText('Logged as a run with one slip.')).toBeVisible();
  await page.getByRole('button', { name: 'Take the run back' }).click();
  await expect(page.getByRole('button', { name: 'Log it as a run' })).toBeVisible();
});

test('what Chromium’s own microphone hands out is recorded without a sample lost, and what it skips is told', async ({
  page,
  server,
}) => {
  test.slow();
  await openTakes(page, server.url);
  await recordAll(page);
  // It has no memory: where the machine halts it (a bare page with a reader in a worker too) it hands out nothing, and goes
  // on in its file where it stood.
  const silence = await expectAllOfIt(page);
  const text = await page.locator('vc-take-review').innerText();
  const told = Number(/skipped (\d+) milliseconds/u.exec(text)?.[1] ?? '0');
  expect(Math.abs(told - silence)).toBeLessThanOrEqual(1);
  if (silence <= HARMLESS) await expectTruth(page);
});
