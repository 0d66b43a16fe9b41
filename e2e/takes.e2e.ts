import { writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { writeWav } from '@vivid-cue/core/takes';
import { heardAs, hearing } from './microphone';
import { expect, expectAccessible, file, furnishStudio, test } from './studio';
import { music, openTakes, record, sound } from './take-steps';

test.use({ launchOptions: hearing(heardAs('takes', sound)) });

async function dropTake(page: Page): Promise<void> {
  const review = page.locator('vc-take-review');
  await review.getByRole('button', { name: 'Drop it' }).click();
  await review.getByRole('button', { name: 'Drop it for good' }).click();
  await expect(review).toHaveCount(0);
}

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
  await dropTake(page);

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
