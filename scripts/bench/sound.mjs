import { mkdirSync, writeFileSync } from 'node:fs';
import { pathOf } from '../../contract/dist/routes.js';
import { writeWav } from '../../core/dist/takes/index.js';
import { microphoneOf, pressRecord } from '../recording.mjs';
import { fill, isBuilt, origin, root, signedIn, withServer } from './bench-studio.mjs';
import { line, median, ms } from './timing.mjs';

const MEASURES = 1024;
const SECONDS = 20;
const TRIES = 5;

/** What a recording loses while another page engraves a long score, and how soon a take sounds once it is asked for. */
export async function benchSound() {
  if (!isBuilt()) {
    line('Recording and playback', '–', 'the web application is not built: npm run build');
    return;
  }
  await withServer(async (db) => {
    const studio = await fill(db, MEASURES);
    const { browser, page } = await signedIn(studio.email, microphoneOf(microphone()));
    const takes = `${origin}/students/${studio.studentId}/takes`;
    await page.goto(takes);
    await measureRecording(page, studio);
    await measurePlayback(page, takes);
    await browser.close();
  });
}

/** The microphone hears a saw of known steps: any sample that is missing shows. Units: samples */
const PERIOD = 4410;
const RATE = 44_100;

function microphone() {
  const samples = Float32Array.from({ length: RATE * 60 }, (_, n) => 0.9 * ((n % PERIOD) / PERIOD));
  const folder = `${root}.data/bench-sounds`;
  mkdirSync(folder, { recursive: true });
  writeFileSync(`${folder}/microphone.wav`, writeWav({ samples, rate: RATE }));
  return `${folder}/microphone.wav`;
}

/** Runs within the page: how much of the saw is missing in a take's sound. Units: milliseconds */
async function missingOf({ address, period, rate }) {
  const bytes = await (await globalThis.fetch(address)).arrayBuffer();
  const context = new globalThis.OfflineAudioContext(1, 1, rate);
  const samples = (await context.decodeAudioData(bytes)).getChannelData(0);
  let [missing, expected, silent] = [0, null, 0];
  for (const sample of samples) {
    const phase = Math.round((sample / 0.9) * period);
    silent = sample === 0 ? silent + 1 : 0;
    // What the clock skipped is silence of more than the one sample that the saw has.
    if (silent > 1 || (silent === 1 && expected !== 0)) continue;
    if (expected !== null) missing += (phase - expected + period) % period;
    expected = (phase + 1) % period;
  }
  return { missingMs: (1000 * missing) / rate, seconds: samples.length / rate };
}

/** Another window of the same browser opens, reads and engraves the whole study while this one records. */
async function measureRecording(page, { partId }) {
  await pressRecord(page);
  const other = await page.context().newPage();
  await other.goto(`${origin}/score/${partId}`);
  await page.waitForTimeout(SECONDS * 1000);
  const drawn = await other.locator('svg.picture g.measure').count();
  await other.close();
  await page.getByRole('button', { name: 'Stop' }).click();
  const review = page.locator('vc-take-review');
  await review.getByRole('button', { name: 'Keep this take' }).waitFor({ timeout: 120_000 });
  const told = /skipped (\d+) milliseconds/u.exec(await review.innerText())?.[1] ?? '0';
  await review.getByRole('button', { name: 'Keep this take' }).click();
  await page.getByRole('button', { name: 'Take 1', exact: true }).click();
  await page.getByRole('heading', { name: /^Take 1/u }).waitFor();
  const takeId = /[^/]+$/u.exec(new URL(page.url()).pathname)?.[0] ?? '';
  const address = pathOf('readTakeSound', { takeId });
  const { missingMs, seconds } = await page.evaluate(missingOf, { address, period: PERIOD, rate: RATE });
  line(
    `Recorded while ${MEASURES} measures are engraved: lost`,
    ms(missingMs),
    `promise: nothing; ${seconds.toFixed(1)} s recorded, ${drawn} measures drawn, pauses of the microphone told: ${ms(Number(told))}`,
  );
}

/** From the key to the first sound: each time the page is opened anew. */
async function measurePlayback(page, takes) {
  const all = [];
  for (let n = 0; n < TRIES; n += 1) {
    await page.goto(takes);
    await page.getByRole('button', { name: 'Take 1', exact: true }).click();
    await page.getByRole('heading', { name: /^Take 1/u }).waitFor();
    await page.waitForTimeout(2500);
    await page.evaluate(watchSound);
    await page.keyboard.press(' ');
    await page.waitForFunction(() => globalThis.soundsAfter !== null);
    all.push(await page.evaluate(() => globalThis.soundsAfter));
  }
  all.sort((a, b) => a - b);
  line('A take sounds after the key', ms(median(all)), `promise: under 300 ms; longest ${ms(all.at(-1))}`);
}

/** Notes when the ribbon's sound begins to move. */
function watchSound() {
  globalThis.soundsAfter = null;
  const own = globalThis.HTMLMediaElement.prototype.play;
  globalThis.HTMLMediaElement.prototype.play = function play() {
    const look = () => {
      if (this.currentTime > 0) globalThis.soundsAfter ??= performance.now() - globalThis.pressedMs;
      else requestAnimationFrame(look);
    };
    look();
    return own.call(this);
  };
  globalThis.addEventListener('keydown', () => (globalThis.pressedMs = performance.now()), {
    ...{ capture: true, once: true },
  });
}
