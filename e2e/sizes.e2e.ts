import type { Page } from '@playwright/test';
import {
  addStudent,
  enterSheet,
  expect,
  expectAccessible,
  makePassage,
  openStudio,
  test,
  uploadScore,
} from './studio';

const SIZES = [
  ['a laptop', 1280, 800],
  ['a wide screen', 1440, 900],
  ['a tablet in portrait', 820, 1180],
  ['a phone', 390, 844],
] as const;

/** Where a link of the student's program leads. */
async function linkOf(page: Page, name: string): Promise<string> {
  const link = page.getByRole('region').getByRole('link', { name, exact: true }).first();
  return new URL((await link.getAttribute('href')) ?? '', page.url()).href;
}

test('no page scrolls sideways or breaks an accessibility rule, from a phone to a wide screen, light and dim', async ({
  page,
  server,
}) => {
  test.setTimeout(360_000);
  await openStudio(page, server.url);
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
  await expect(page.locator('vc-passage-panel').getByText('1 rep on 1 day')).toBeVisible();
  const score = page.url();
  const addresses = [
    `${server.url}/season`,
    student,
    `${server.url}/sheets`,
    `${server.url}/sheets/new`,
    `${server.url}/settings`,
    program,
    sheet,
    `${sheet}/revisions`,
    score,
  ];
  for (const [what, width, height] of SIZES) {
    await page.setViewportSize({ width, height });
    for (const address of addresses) {
      await page.goto(address);
      await expect(page.locator('h1')).toBeVisible();
      await page.waitForLoadState('networkidle');
      const overflowPx = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(overflowPx, `${address} on ${what}`).toBeLessThanOrEqual(0);
      await expectAccessible(page);
    }
  }
  await page.evaluate(() => localStorage.setItem('vivid-cue-theme', 'dim'));
  await page.setViewportSize({ width: 1280, height: 800 });
  for (const address of addresses) {
    await page.goto(address);
    await expect(page.locator('h1')).toBeVisible();
    await page.waitForLoadState('networkidle');
    if (address === score) await page.getByRole('button', { name: 'mm. 9–12, Grounded' }).click();
    await expectAccessible(page);
  }
});
