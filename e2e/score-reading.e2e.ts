import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { furnishStudio, openScore, expect, expectAccessible, file, openPassages, test } from './studio';

const LANTERN = 'core/testdata/lantern-walk.musicxml';

/** Opens the score room of lantern-walk: what stands in it is known by construction. */
async function openLanternWalk(page: Page, url: string): Promise<void> {
  const music = { work: 'Lantern Walk', to: 16, path: LANTERN };
  await openScore(page, await furnishStudio(page, url, { music }));
  await expect(finding(page, 'The return is not the same.')).toBeVisible();
  await expect(page.locator('.score g.measure')).toHaveCount(16);
}

function finding(page: Page, title: string): Locator {
  return page.locator('vc-findings-panel .list li').filter({ hasText: title });
}

function edited(change: (xml: string) => string): { name: string; mimeType: string; buffer: Buffer } {
  const xml = readFileSync(file(LANTERN), 'utf8');
  return { name: 'corrected.musicxml', mimeType: 'application/xml', buffer: Buffer.from(change(xml)) };
}

/** A measure more in front of the first, all numbers one higher. */
function withFrontMeasure(xml: string): string {
  const moved = xml.replace(
    /<measure number="(\d+)"/gu,
    (_, n: string) => `<measure number="${Number(n) + 1}"`,
  );
  return moved.replace(
    '<measure number="2"',
    '<measure number="1"><attributes><divisions>1</divisions></attributes><note><rest measure="yes"/><duration>4</duration></note></measure><measure number="2"',
  );
}

test('findings are seen, compared, kept, set aside, restored and turned into cues, and outlive a reload and a corrected file', async ({
  page,
  server,
}) => {
  await openLanternWalk(page, server.url);
  const first = page.locator('vc-findings-panel .list li').first();
  await expect(first).toContainText('decides the tempo');
  await expectAccessible(page);

  // The return of measure 3 in 7: two notes of each are marked, side by side and in the score.
  await page.keyboard.press('.');
  await page.keyboard.press('.');
  const back = finding(page, 'The return is not the same.');
  await expect(back).toHaveClass(/is-chosen/u);
  await expect(back).toContainText('In 7, not as in 3: note 2 is B4, not B♭4; note 3 is C♯5, not C5.');
  const pair = page.locator('vc-pair-view');
  await expect(pair.locator('.excerpt').first().locator('.chosen-note')).toHaveCount(2);
  await expect(pair.locator('.excerpt').last().locator('.chosen-note')).toHaveCount(2);
  await expect(page.locator('.score .chosen-note')).toHaveCount(2);
  await expect(page.getByRole('option', { name: /^measure 7/u })).toHaveAttribute('aria-selected', 'true');
  await expectAccessible(page);

  // One key makes it a cue, one sets the next aside, one keeps the one after: at once, while the server is slow to answer.
  let answered = 0;
  page.on('response', (response) => {
    if (response.url().includes('/finding-marks')) answered += 1;
  });
  await page.route('**/api/**', async (route) => {
    await new Promise((done) => setTimeout(done, 800));
    await route.continue();
  });
  for (const key of ['w', '.', 'd', 'k']) await page.keyboard.press(key);
  await expect(back).toContainText('has a cue');
  await expect(page.getByText('1 set aside')).toBeVisible();
  await expect(finding(page, 'E♭ comes twice.')).toContainText('kept');
  expect(answered).toBeLessThan(3);
  await expect.poll(() => answered).toBe(3);
  await expect(page.getByText('1 set aside')).toBeVisible();
  await page.unrouteAll({ behavior: 'wait' });

  await page.reload();
  await expect(page.getByText('1 set aside')).toBeVisible();
  await expect(finding(page, 'E♭ comes twice.')).toContainText('kept');
  await page.getByText('1 set aside').click();
  await page.getByRole('button', { name: /^Restore: The only B♮/u }).click();
  await expect(page.getByText('set aside')).toHaveCount(0);
  await finding(page, 'A double dot.').getByRole('button').first().click();
  await page.keyboard.press('d');
  await expect(page.getByText('1 set aside')).toBeVisible();

  // A corrected file with one measure more in front: what was decided stays with its music, and so does the cue.
  await page.getByRole('button', { name: 'Replace the score' }).click();
  await page.getByLabel('Score file').setInputFiles(edited(withFrontMeasure));
  await expect(page.getByText(/^Against what is there: 1 new measure/u)).toBeVisible();
  await page.getByRole('button', { name: /^Replace by/u }).click();
  await expect(page.getByText('1 passage or cue went along with the music to other measures')).toBeVisible();
  await expect(page.getByRole('option')).toHaveCount(17);
  await expect(finding(page, 'The return is not the same.')).toContainText('Measures 6–8 come back to 2–4');
  await expect(finding(page, 'The return is not the same.')).toContainText('has a cue');
  await expect(page.getByText('1 set aside')).toBeVisible();
  await page.keyboard.press('q');
  await expect(page.locator('vc-cues-panel .cue-list li')).toHaveCount(1);
  await expect(page.locator('vc-cues-panel .cue-list li')).toContainText('note 3 is C♯5, not C5');
  await expect(page.locator('vc-cues-panel .cue-list li')).toContainText('m. 8');
});

test('layers show demand, articulations, dynamics, asked notes, rhythms and repeats', async ({
  page,
  server,
}) => {
  await openLanternWalk(page, server.url);
  const score = page.locator('.score');
  // Notes that begin in the part: 16 measures hold this many that are not continuations of ties.
  const notes = await page.locator('.score g.note').count();
  await page.keyboard.press('2');
  await expect(score.locator('.heat')).toHaveCount(16);
  await expect(page.locator('.track .heat')).toHaveCount(16);
  await page.keyboard.press('3');
  await expect(page.getByRole('list', { name: 'Articulations' })).toContainText('staccato');
  const marked = score.locator('.articulation');
  await expect.poll(() => marked.count()).toBeGreaterThan(notes - 5);
  expect(await marked.count()).toBeLessThanOrEqual(notes);
  await page.keyboard.press('4');
  await expect(page.getByRole('list', { name: 'Dynamics' })).toContainText('mf');

  // Every E♭: by construction two, both in measure 11.
  await page.keyboard.press('5');
  await page.getByRole('combobox', { name: 'Notes to show' }).click();
  await page.getByRole('option', { name: /^every E♭, 2/u }).click();
  await expect(page.getByText('2 in m. 11')).toBeVisible();
  await expect(score.locator('.asked-name')).toHaveCount(2);
  await page.keyboard.press('Escape');
  await page.locator('h1').click();
  await page.keyboard.press('6');
  await page.keyboard.press('7');
  // Measures 5 and 6 are 1 and 2 again; 7 is like 3.
  await expect(score.locator('.mark-label')).toContainText(['= 1', '= 2', 'like 3']);
  await expectAccessible(page);
  for (const key of ['1', '2', '3', '4', '5', '6', '7']) await page.keyboard.press(key);
  await expect(score.locator('.vc-mark')).toHaveCount(0);

  // Measures are walked and their facts read by keyboard; one is pinned as the one that decides.
  await page.keyboard.press('i');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  const facts = page.locator('vc-facts-panel');
  await expect(facts.getByRole('heading', { name: 'm. 2' })).toBeVisible();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(facts.getByRole('heading', { name: 'mm. 2–3' })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await facts.getByRole('button', { name: 'Let this measure decide the tempo' }).click();
  await expect(facts.getByText('This measure decides the tempo.')).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('f');
  await expect(page.locator('vc-findings-panel .list li').first()).toContainText(
    'Measure 4 decides the tempo.',
  );
  await expect(page.locator('vc-findings-panel .list li').first()).toContainText('pinned');
});

test('suggested passages are joined, cut, dragged, named and taken with their seams; a measure is found by chance', async ({
  page,
  server,
}) => {
  await openLanternWalk(page, server.url);
  const ghosts = page.locator('.ghost');
  // Opening, its return, the sixteenths from B, close: as they lie in the music.
  await expect(ghosts).toHaveCount(4);
  await expect(page.getByRole('button', { name: 'Suggested: the sixteenths, mm. 9–12' })).toBeVisible();
  await expectAccessible(page);
  await ghosts.nth(0).click();
  await page.getByRole('button', { name: 'Cut at 3' }).click();
  await expect(ghosts).toHaveCount(5);
  await page.getByRole('button', { name: 'Join the next' }).click();
  await expect(page.getByRole('button', { name: 'Suggested: opening, mm. 1–4' })).toBeVisible();
  await page.getByRole('button', { name: 'Suggested: close, mm. 13–16' }).focus();
  await page.keyboard.press('s');
  await expect(ghosts).toHaveCount(5);
  await page.keyboard.press('m');
  await expect(ghosts).toHaveCount(4);
  await page.getByLabel('Name of the suggested passage').fill('the last page');
  // The border between the sixteenths and the close is dragged one measure to the right.
  const lane = await page.locator('.lane').boundingBox();
  const handle = await page.locator('.handle').nth(2).boundingBox();
  if (!lane || !handle) throw new Error('the lane is drawn');
  await page.mouse.move(handle.x + handle.width / 2, handle.y + 15);
  await page.mouse.down();
  await page.mouse.move(handle.x + handle.width / 2 + lane.width / 16, handle.y + 15, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Suggested: the sixteenths, mm. 9–13' })).toBeVisible();
  await page.getByRole('button', { name: /^Take all/u }).click();
  await openPassages(page);
  const list = page.locator('vc-passage-list li');
  await expect(list).toHaveCount(7);
  await expect(list.filter({ hasText: 'seam' })).toHaveCount(3);
  await expect(list.filter({ hasText: 'the last page' })).toContainText('mm. 14–16');
  await expect(list.filter({ hasText: 'the sixteenths' })).toContainText('notes a second');
  await expect(ghosts).toHaveCount(0);
  await expectAccessible(page);

  await page.keyboard.press('a');
  await expect(page.getByText(/^Start at m\. \d+/u)).toBeVisible();
  await expect(page.locator('.cell.is-selected')).toHaveCount(1);

  // Counted otherwise: passages keep their music and take the new numbers, in the engraving too.
  await page.getByRole('listbox', { name: 'Measures' }).focus();
  await page.keyboard.press('Home');
  await page.getByRole('tab', { name: 'Facts' }).click();
  await page.getByText('Measure numbers').click();
  await page.getByLabel('This measure is number').fill('101');
  await page.getByRole('button', { name: 'Count from here' }).click();
  await expect(page.getByRole('option', { name: /^measure 116/u })).toBeVisible();
  await expect(page.getByRole('img', { name: /^Engraved music/u })).toContainText('105');
  await openPassages(page);
  await expect(list.filter({ hasText: 'the last page' })).toContainText('mm. 114–116');
});

test('two editions are compared measure by measure without the other leaving the device', async ({
  page,
  server,
}) => {
  await openLanternWalk(page, server.url);
  const requests: string[] = [];
  page.on('request', (request) => {
    if (request.method() !== 'GET') requests.push(request.url());
  });
  await page.getByRole('button', { name: 'Compare editions' }).click();
  const dialog = page.getByRole('dialog', { name: 'Compare with another edition' });
  const chooser = dialog.locator('input[type=file]');
  await chooser.setInputFiles(file(LANTERN));
  await expect(
    dialog.getByText('The two editions agree in every note, length, sign and dynamic.'),
  ).toBeVisible();
  await chooser.setInputFiles(edited(withFrontMeasure));
  await expect(dialog.getByText('1 measure differs.')).toBeVisible();
  await expect(dialog.getByText('Only the other edition has this measure.')).toBeVisible();
  await chooser.setInputFiles(
    edited((xml) => xml.replace(/(<measure number="7"[\s\S]*?)<staccato[^>]*\/>/u, '$1<accent/>')),
  );
  await expect(dialog.getByText('1 measure differs.')).toBeVisible();
  await dialog
    .getByRole('button', { name: /^7 In the other edition note \d is accent, not staccato/u })
    .click();
  await expect(dialog.locator('.excerpt').first().locator('.chosen-note')).toHaveCount(1);
  await expectAccessible(page);
  // The first two measures in ABC notation, and nothing after them.
  const abc = (tune: string): { name: string; mimeType: string; buffer: Buffer } => ({
    name: 'other.abc',
    mimeType: 'text/plain',
    buffer: Buffer.from(`X:1\nT:Lantern Walk\nM:4/4\nL:1/8\nK:F\n${tune}\n`),
  });
  await chooser.setInputFiles(abc('!mf!(d2 fe) .d.c.B.A | (G2 BA) !>!G2 z2 |'));
  await expect(dialog.getByText('14 measures differ.')).toBeVisible();
  await chooser.setInputFiles(abc(''));
  await expect(dialog.getByRole('alert')).toContainText('This ABC text holds no notes.');
  await chooser.setInputFiles({
    name: 'x.xml',
    mimeType: 'application/xml',
    buffer: Buffer.from('no music'),
  });
  await expect(dialog.getByRole('alert')).toContainText(/file/iu);
  expect(requests).toEqual([]);
});
