import type { Browser, BrowserContext, Page } from '@playwright/test';
import {
  addStudent,
  enterSheet,
  expect,
  expectAccessible,
  expectAccessibleDim,
  makePassage,
  openStudio,
  test as base,
  uploadScore,
} from './studio';

interface Size {
  readonly what: string;
  readonly width: number;
  readonly height: number;
  /** Whether each page is judged in a dim room too. */
  readonly alsoDim: boolean;
}

const LAPTOP: Size = { what: 'a laptop', width: 1280, height: 800, alsoDim: true };
const WIDE: Size = { what: 'a wide screen', width: 1440, height: 900, alsoDim: false };
const TABLET: Size = { what: 'a tablet in portrait', width: 820, height: 1180, alsoDim: false };
const PHONE: Size = { what: 'a phone', width: 390, height: 844, alsoDim: true };
/** A page moves what stands on it by less than this. Source: the "good" bound of the Layout Instability metric is 0.1. */
const MAX_SHIFT = 0.05;

/** A page of a studio and what stands on it when it is complete. */
interface Place {
  readonly address: string;
  readonly complete: string;
}

interface Furnished {
  readonly places: readonly Place[];
  readonly state: Awaited<ReturnType<BrowserContext['storageState']>>;
}

const test = base.extend<object, { furnished: Furnished }>({
  furnished: [
    async ({ browser, server }, use) => {
      await use(await furnish(browser, server.url));
    },
    { scope: 'worker', timeout: 120_000 },
  ],
});

/** Where a link of the student's program leads. */
async function linkOf(page: Page, name: string): Promise<string> {
  const link = page.getByRole('region').getByRole('link', { name, exact: true }).first();
  return new URL((await link.getAttribute('href')) ?? '', page.url()).href;
}

/** A studio with a student, a program, a score, a passage and a rep. */
async function furnish(browser: Browser, url: string): Promise<Furnished> {
  const context = await browser.newContext();
  const page = await context.newPage();
  await openStudio(page, url);
  await addStudent(
    page,
    'A student with a remarkably long double-barrelled name',
    'contrabass clarinet in B♭',
  );
  await enterSheet(page);
  const student = page.url();
  const program = await linkOf(page, 'Choices and verdict');
  const sheet = await linkOf(page, 'Sheet');
  await uploadScore(page);
  await makePassage(page, '9–12');
  await page.keyboard.press('c');
  const panel = page.locator('vc-passage-panel');
  await expect(panel.getByText('1 rep on 1 day')).toBeVisible();
  await expect(panel.locator('.reps li.is-waiting')).toHaveCount(0);
  const score = page.url();
  const state = await context.storageState();
  await context.close();
  return {
    state,
    places: [
      { address: `${url}/season`, complete: 'tbody tr, .cards li' },
      { address: student, complete: 'section a[href^="/score/"]' },
      { address: `${url}/sheets`, complete: 'a[href^="/sheets/"] >> text=Archipelago' },
      { address: `${url}/sheets/new`, complete: 'textarea' },
      { address: `${url}/settings`, complete: 'text=Save the settings' },
      { address: program, complete: 'article a[href^="/score/"]' },
      { address: sheet, complete: '#measures-0' },
      { address: `${sheet}/revisions`, complete: 'textarea' },
      { address: score, complete: 'svg.picture >> nth=0' },
    ],
  };
}

async function openEach(
  page: Page,
  { state, places }: Furnished,
  look: (place: Place) => Promise<void>,
): Promise<void> {
  await page.context().addCookies(state.cookies);
  for (const place of places) {
    await page.goto(place.address);
    await expect(page.locator('h1')).toBeVisible();
    await expect(page.locator(place.complete).first()).toBeVisible({ timeout: 30_000 });
    await look(place);
  }
}

for (const { what, width, height, alsoDim } of [LAPTOP, WIDE, TABLET, PHONE])
  test(`on ${what} no page scrolls sideways, moves under the hand or breaks an accessibility rule`, async ({
    page,
    furnished,
  }) => {
    test.setTimeout(120_000);
    await page.setViewportSize({ width, height });
    await page.addInitScript(() => {
      const seen = window as unknown as { shift: number };
      seen.shift = 0;
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) {
          const { value, hadRecentInput } = entry as unknown as { value: number; hadRecentInput: boolean };
          // What a hand has just asked for may move: that is how the metric counts too.
          if (!hadRecentInput) seen.shift += value;
        }
      }).observe({ type: 'layout-shift', buffered: true });
    });
    const shifted = (): Promise<number> =>
      page.evaluate(() => (window as unknown as { shift: number }).shift);
    await openEach(page, furnished, async ({ address }) => {
      await expectAccessible(page);
      const overflow = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(overflow, `${address} on ${what}`).toBeLessThanOrEqual(0);
      expect(await shifted(), `${address} on ${what}`).toBeLessThan(MAX_SHIFT);
      if (alsoDim) await expectAccessibleDim(page);
    });
    await expectMusicFirst(page);
    expect(await shifted(), `the room in use on ${what}`).toBeLessThan(MAX_SHIFT);
  });

/** In the score room: with every layer on the music has half of the window and stands first; a passage shows its name. */
async function expectMusicFirst(page: Page): Promise<void> {
  const [music, beside] = [page.locator('.room .score').first(), page.locator('.room aside')];
  for (const key of ['2', '3', '4', '5', '6', '7']) await page.keyboard.press(key);
  await expect(page.getByRole('switch', { checked: true })).toHaveCount(7);
  await expect(page.getByRole('list', { name: 'Dynamics' })).toBeAttached();
  const size = page.viewportSize();
  const box = await music.boundingBox();
  const side = await beside.boundingBox();
  if (!size || !box || !side) throw new Error('no room');
  expect(box.height).toBeGreaterThanOrEqual(size.height / 2 - 2);
  if (size.width <= 980) expect(side.y).toBeGreaterThanOrEqual(box.y + box.height);
  for (const key of ['2', '3', '4', '5', '6', '7']) await page.keyboard.press(key);
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: /^Passages/u }).click();
  await page.locator('vc-passage-list button').first().click();
  await expect(page.locator('vc-passage-panel h2')).toBeInViewport();
}

for (const { what, width, height } of [LAPTOP, PHONE])
  test(`in a dim room on ${what} the score room in use breaks no accessibility rule`, async ({
    page,
    furnished,
  }) => {
    test.setTimeout(120_000);
    await page.setViewportSize({ width, height });
    await page.addInitScript(() => {
      localStorage.setItem('vivid-cue-theme', 'dim');
    });
    const room = furnished.places.at(-1);
    if (!room) throw new Error('no room');
    await openEach(page, { ...furnished, places: [room] }, () => expectAccessible(page));
    await page.getByRole('tab', { name: /^Passages/u }).click();
    await page.getByRole('button', { name: 'mm. 9–12, Grounded' }).click();
    await expectAccessible(page);
    // What stands there only while a score is read is judged too.
    await page.getByRole('tab', { name: /^Findings/u }).click();
    await page.route(/worker-[^/]*\.js$/u, async (route) => {
      await new Promise((done) => setTimeout(done, 8000));
      await route.continue().catch(() => undefined);
    });
    await page.reload();
    await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
    await expectAccessible(page);
    await page.unrouteAll({ behavior: 'ignoreErrors' });
  });
