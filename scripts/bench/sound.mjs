import { mkdirSync, writeFileSync } from 'node:fs';
import { readScore } from '../../core/dist/score/index.js';
import { performed } from '../../core/dist/takes/testing/rehearsal.js';
import { writeWav } from '../../core/dist/takes/index.js';
import { fill, isBuilt, origin, root, signedIn, withServer } from './bench-studio.mjs';
import { longStudy } from './long-study.mjs';
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
    const { browser, page } = await signedIn(studio.email, [
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-audio-capture=${microphone()}`,
    ]);
    const takes = `${origin}/students/${studio.studentId}/takes`;
    await page.goto(takes);
    await measureRecording(page, studio);
    await measurePlayback(page, takes);
    await browser.close();
  });
}

/** What the microphone hears: the first measures of the study, and then again. */
function microphone() {
  const score = readScore(Buffer.from(longStudy(MEASURES)));
  const spans = [{ fromIndex: 0, endIndex: 12 }];
  const { sound } = performed(score.value, { timbre: 'clarinet', seed: 4, spans, bpm: 100 });
  const folder = `${root}.data/bench-sounds`;
  mkdirSync(folder, { recursive: true });
  writeFileSync(`${folder}/microphone.wav`, writeWav(sound));
  return `${folder}/microphone.wav`;
}

/** Another window of the same browser opens, reads and engraves the whole study while this one records. */
async function measureRecording(page, { partId }) {
  await page
    .getByRole('button', { name: /^Record/u })
    .first()
    .click();
  await page.getByLabel('Count-in').selectOption('none');
  await page.locator('vc-record-panel').getByRole('button', { name: 'Record', exact: true }).click();
  const other = await page.context().newPage();
  await other.goto(`${origin}/score/${partId}`);
  await page.waitForTimeout(SECONDS * 1000);
  const drawn = await other.locator('svg.picture g.measure').count();
  await other.close();
  await page.getByRole('button', { name: 'Stop' }).click();
  const review = page.locator('vc-take-review');
  await review.getByRole('button', { name: 'Keep this take' }).waitFor({ timeout: 120_000 });
  const lost = /skipped (\d+) milliseconds/u.exec(await review.innerText())?.[1] ?? '0';
  line(
    `Recorded while ${MEASURES} measures are engraved: lost`,
    ms(Number(lost)),
    `promise: nothing; ${drawn} measures drawn in ${SECONDS} s`,
  );
  await review.getByRole('button', { name: 'Keep this take' }).click();
  await page.getByRole('button', { name: 'Take 1', exact: true }).waitFor();
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
