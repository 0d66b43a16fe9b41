import { readFileSync, writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { readScore } from '@vivid-cue/core/score';
import { writeWav, type Sound } from '@vivid-cue/core/takes';
import { performed } from '@vivid-cue/core/takes/testing';
import { giveMicrophone, heardAs, hearing, MICROPHONE_RATE, recordedSamples } from './microphone';
import { expect, expectAccessible, file, furnishStudio, test } from './studio';

/** What the microphone hears: the first eight measures, at a tempo of its own, with one stop. */
const BPM = 100;
const LAST = 8;
const STOP_SECONDS = 1.6;
/** A machine that is busy opens its microphone slowly. */
const LEAD_SECONDS = 3;
/** So little that a microphone skipped changes nothing that is asserted. Units: milliseconds */
const HARMLESS = 60;
const sound = performance();
const heard = heardAs('microphone', sound);
/** So long is recorded. Units: seconds */
const SECONDS = sound.samples.length / sound.rate;

function performance(): Sound {
  const read = readScore(readFileSync(file('demo/studies/ferry-lines.musicxml')));
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return performed(read.value, {
    ...{ timbre: 'clarinet', seed: 20, spans: [{ fromIndex: 0, endIndex: LAST }], bpm: BPM },
    vary: () => ({ unsteady: 0.006, before: LEAD_SECONDS, pauses: new Map([[3, STOP_SECONDS]]) }),
  }).sound;
}

test.use({ launchOptions: hearing(heard) });

const music = { work: 'Ferry Lines', to: LAST, path: 'demo/studies/ferry-lines.musicxml' };

/** The takes page of a student whose etude has two passages. */
async function openTakes(page: Page, url: string): Promise<string> {
  const { studentUrl } = await furnishStudio(page, url, { music, spans: ['1–4', '5–8'] });
  await page.goto(`${studentUrl}/takes`);
  await expect(page.getByRole('heading', { name: 'Ilse Vantongeren, takes' })).toBeVisible();
  return studentUrl;
}

/** Opens the microphone with the press that records, so that the take begins where the file does. */
async function record(page: Page): Promise<void> {
  await page
    .getByRole('button', { name: /^Record/u })
    .first()
    .click();
  await page.getByLabel('Count-in').selectOption('none');
  await page.locator('vc-record-panel').getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('recording', { exact: false }).first()).toBeVisible();
}

async function dropTake(page: Page): Promise<void> {
  const review = page.locator('vc-take-review');
  await review.getByRole('button', { name: 'Drop it' }).click();
  await review.getByRole('button', { name: 'Drop it for good' }).click();
  await expect(review).toHaveCount(0);
}

/** Records the whole of what the microphone hears, while something holds the page up. */
async function recordAll(page: Page): Promise<void> {
  await record(page);
  await expectAccessible(page);
  // What holds the page up takes nothing from the recording: its own thread goes on.
  await page.waitForTimeout(3000);
  await page.evaluate(() => {
    const end = window.performance.now() + 2000;
    while (window.performance.now() < end);
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

test('a recording outlives its page, and is dropped only when somebody says so twice', async ({
  page,
  server,
}) => {
  await openTakes(page, server.url);
  await record(page);
  await page.waitForTimeout(3500);
  await page.reload();
  await expect(page.getByText('Recorded on this device, neither kept nor dropped.')).toBeVisible();
  await page.getByRole('button', { name: 'Look at it' }).click();
  const review = page.locator('vc-take-review');
  await expect(review.getByRole('button', { name: /^Listen/u })).toBeVisible();
  await dropTake(page);
  await expect(page.getByText('No take yet.')).toBeVisible();
});

test('bad sounds and a refused microphone get one sentence each, and files are read like recordings', async ({
  page,
  server,
}) => {
  test.slow();
  await openTakes(page, server.url);
  await page
    .getByRole('button', { name: /^Record/u })
    .first()
    .click();
  const bring = page.locator('input[type=file]');
  const name = 'take.wav';
  await bring.setInputFiles({ name, mimeType: 'audio/wav', buffer: Buffer.from('no sound at all') });
  await expect(page.getByRole('alert')).toContainText('no sound that this browser can play');
  const long = file('.data/e2e-sounds/forty-minutes.wav');
  writeFileSync(long, writeWav({ samples: new Float32Array(40 * 60 * 8000), rate: 8000 }));
  await bring.setInputFiles(long);
  await expect(page.getByRole('alert')).toContainText('A take lasts at most 12 minutes; this one has 40.');
  const silent = writeWav({ samples: new Float32Array(3 * 8000), rate: 8000 });
  await bring.setInputFiles({ name, mimeType: 'audio/wav', buffer: Buffer.from(silent) });
  const review = page.locator('vc-take-review');
  await expect(review.getByRole('status')).toContainText('The take is silent.', { timeout: 30_000 });
  await review.getByRole('button', { name: 'Drop it' }).click();
  await review.getByRole('button', { name: 'Drop it for good' }).click();

  await bring.setInputFiles({ name, mimeType: 'audio/wav', buffer: Buffer.from(writeWav(sound)) });
  await expect(review.locator('.said')).toContainText(/Opens at (?:99|100|101)/u, { timeout: 60_000 });
  await review.getByRole('button', { name: 'Keep this take' }).click();
  await expect(page.getByRole('button', { name: 'Take 1', exact: true })).toBeVisible();

  for (const [error, sentence] of [
    ['NotAllowedError', 'This page may not use the microphone.'],
    ['NotFoundError', 'There is no microphone.'],
    ['NotReadableError', 'Another program holds the microphone.'],
  ] as const) {
    await page.evaluate((kind) => {
      navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('', kind));
    }, error);
    await page.getByRole('button', { name: 'Try the microphone' }).click();
    await expect(page.getByRole('alert')).toContainText(sentence);
  }
});

test('a device without room says so, and the take is kept all the same, through a worklet too', async ({
  page,
  server,
}) => {
  // A browser that does not hand a worker the track itself.
  await page.addInitScript(() => Reflect.deleteProperty(window, 'MediaStreamTrackProcessor'));
  // After the second piece the device has no room: said where pieces are written, which is in a worker of its own.
  const full = `{
    const own = IDBObjectStore.prototype.put;
    let pieces = 0;
    IDBObjectStore.prototype.put = function (...row) {
      if (this.name === 'pieces' && (pieces += 1) > 2) throw new DOMException('', 'QuotaExceededError');
      return own.apply(this, row);
    };
  }
`;
  await page.route('**/worker-*.js', async (route) => {
    const answer = await route.fetch();
    const script = await answer.text();
    await route.fulfill({ response: answer, body: script.includes('unwritten') ? full + script : script });
  });
  await openTakes(page, server.url);
  await record(page);
  await expect(page.getByRole('alert')).toContainText('This device has no room left');
  await page.getByRole('button', { name: 'Stop' }).click();
  const review = page.locator('vc-take-review');
  await expect(review.getByRole('button', { name: /^Listen/u })).toBeVisible();
  await review.getByRole('button', { name: 'Keep this take' }).click();
  await expect(page.getByRole('button', { name: 'Take 1', exact: true })).toBeVisible();
});

test('a microphone that is pulled out loses nothing', async ({ page, server }) => {
  await openTakes(page, server.url);
  // The track that ends by itself is the microphone that was pulled out.
  await page.evaluate(() => {
    const own = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
    navigator.mediaDevices.getUserMedia = async (wish) => {
      const stream = await own(wish);
      (window as unknown as { pulled: MediaStreamTrack | undefined }).pulled = stream.getTracks()[0];
      return stream;
    };
  });
  await record(page);
  await page.waitForTimeout(2500);
  await page.evaluate(() => {
    (window as unknown as { pulled: MediaStreamTrack }).pulled.dispatchEvent(new Event('ended'));
  });
  await expect(page.getByRole('alert')).toContainText('The microphone was pulled out.');
  const review = page.locator('vc-take-review');
  await expect(review.getByRole('button', { name: /^Listen/u })).toBeVisible();
  await expect(review.getByText(/^[23]\.\d s/u)).toBeVisible();
});

test('at the desk a take is recorded without a connection, and sent when it is back; only its student hears it', async ({
  page,
  server,
  browser,
}) => {
  test.slow();
  const { studentUrl } = await furnishStudio(page, server.url, { music, spans: ['1–4'] });
  await page.goto(studentUrl);
  await page.getByRole('button', { name: 'Make a personal link' }).click();
  await expect(page.getByAltText(/^Picture of the link/u)).toBeVisible();
  const address = (await page.locator('.address').innerText()).trim();
  const code = (await page.locator('.code').innerText()).trim();
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const desk = await context.newPage();
  await desk.goto(`${address}#${code}`);
  await expect(desk.getByRole('heading', { name: 'Today' })).toBeVisible();
  await desk.getByRole('button', { name: 'Takes' }).click();
  await expect(desk.getByRole('heading', { name: 'My takes' })).toBeVisible();
  await expectAccessible(desk);
  // What records and packs is on the device some seconds after the desk was opened.
  await desk.waitForTimeout(5000);
  await context.setOffline(true);
  await record(desk);
  await desk.waitForTimeout(4000);
  await desk.getByRole('button', { name: 'Stop' }).click();
  await desk.getByRole('button', { name: 'Keep this take' }).click();
  await expect(desk.getByText('No connection: takes are kept on this device')).toBeVisible();
  await context.setOffline(false);
  await expect(desk.getByRole('button', { name: 'Take 1', exact: true })).toBeVisible({ timeout: 30_000 });
  await page.goto(`${studentUrl}/takes`);
  await expect(page.getByText('by the student')).toBeVisible();
  await context.close();
});
