import { readFileSync } from 'node:fs';
import { addStudent, dayFromNow, expect, expectAccessible, openStudio, test, uploadScore } from './studio';

const american = (days: number): string =>
  new Intl.DateTimeFormat('en-US', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  }).format(new Date(`${dayFromNow(days)}T00:00:00Z`));
const TEXT = `ARCHIPELAGO ALL-REGION WINDS
2027 Audition Requirements – Clarinet

Etude 1: “Ferry Lines”, p. 14, mm. 1–28, ♩ = 116, no repeats. 60 points.
Scale: concert B♭ major, two octaves, eighth notes at ♩ = 88, slurred. 40 points.
Etude 1 should be played at ♩ = 104.
Wear something warm.
Live audition: ${american(40)}, 9:30 a.m. GMT.
`;

test.beforeEach(async ({ page, server }) => {
  await openStudio(page, server.url);
  await addStudent(page, 'Ilse Vantongeren', 'clarinet');
});

test('a pasted text becomes a sheet, a question is answered in place, an erratum is read, laid against it and moved over', async ({
  page,
}) => {
  await page.getByRole('link', { name: 'Enter a sheet' }).first().click();
  await page.getByLabel('Published text').fill(TEXT);
  await page.getByRole('button', { name: 'Read it' }).click();
  // What was recognised stands out; pointing at one side lights the other.
  await expect(page.locator('vc-sheet-text .text .unread')).toHaveText('Wear something warm.');
  await page.locator('vc-sheet-text .known', { hasText: '“Ferry Lines”' }).hover();
  await expect(page.locator('fieldset.is-lit').getByLabel('Called')).toHaveValue('Etude 1');
  // Two tempos of one etude: neither is taken, both are offered, the answer is kept with its reason.
  await expect(page.getByText('The sheet gives 2 tempos for Etude 1. Which one holds?')).toBeVisible();
  await page.getByLabel(/^Reason: The sheet gives 2 tempos/u).fill('asked the chair by telephone');
  await page.getByRole('button', { name: '♩=116' }).click();
  await expect(page.getByText('all answered')).toBeVisible();
  await expect(page.getByText('because asked the chair by telephone')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Save and give it' }).click();
  await expect(page.getByRole('heading', { name: /Archipelago All-Region Winds/u })).toBeVisible();
  await uploadScore(page);

  await page.goto(page.url().replace(/\/score\/.*/u, '/sheets'));
  await page.getByRole('link', { name: /Archipelago All-Region Winds/u }).click();
  await page.getByRole('link', { name: 'A notice came' }).click();
  await page
    .getByLabel('Errata notice')
    .fill('Erratum\nEtude 1 is extended from mm. 1–28 to mm. 1–32.\nThe scale remains unchanged.');
  await page.getByRole('button', { name: 'Read the notice' }).click();
  await expect(page.getByLabel('Will stand: Etude 1, measures')).toHaveValue('1–32');
  await expect(page.getByText('Confirmed as unchanged: The scale remains unchanged.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make revision 2' }).click();
  await expect(page.getByText('mm. 29–32 are new: no passage covers them.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Move over' }).click();
  await expect(page.getByText(/older revision/u)).toBeHidden();
  await expect(page.getByText('Revision 2').last()).toBeVisible();
});

test('a program is chosen, judged and practised: the scale is written out, the verdict turns', async ({
  page,
}) => {
  await page.getByRole('link', { name: 'Enter a sheet' }).first().click();
  await page.getByLabel('Published text').fill(TEXT.replace('Etude 1 should be played at ♩ = 104.\n', ''));
  await page.getByRole('button', { name: 'Read it' }).click();
  await page.getByRole('button', { name: 'Save and give it' }).click();
  await page.getByRole('link', { name: 'Choices and verdict' }).click();
  await expect(page.getByText('"Ferry Lines" has no score yet').first()).toBeVisible();
  await page
    .locator('article', { hasText: 'Scale' })
    .getByRole('button', { name: /^Details of/u })
    .click();
  await expectAccessible(page);
  await page.getByRole('combobox', { name: 'Octaves' }).click();
  await page.getByRole('option', { name: '4 octaves' }).click();
  await page.getByRole('button', { name: 'Write it out' }).click();
  await expect(page.getByText(/4 octaves do not fit .* 2.5 octaves do/u)).toBeVisible();
  // The refusal moves what stands below it, and a list that is just opening closes when the page moves under it.
  await expect(async () => {
    await page.getByRole('combobox', { name: 'Octaves' }).click();
    await page.getByRole('option', { name: '2 octaves', exact: true }).click({ timeout: 2000 });
  }).toPass();
  await page.getByRole('button', { name: 'Write it out' }).click();
  await page.locator('article', { hasText: 'Scale' }).getByRole('link', { name: 'Open the score' }).click();
  await expect(page.locator('svg.picture').first()).toBeVisible({ timeout: 30_000 });
});

test('nonsense, a text too long, right-to-left letters and a broken table are taken calmly; nothing entered is lost', async ({
  page,
}) => {
  await page.getByRole('link', { name: 'Enter a sheet' }).first().click();
  const box = page.getByRole('textbox', { name: 'Published text' });
  const paste = (text: string): Promise<void> =>
    box.evaluate((element, pasted) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', pasted);
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    }, text);
  // Two megabytes are refused before they are put into the page.
  await paste('x '.repeat(1_000_000));
  await expect(
    page.getByText(/A sheet has at most 400 thousand characters; 2000 thousand came/u),
  ).toBeVisible();
  await paste(`${'qwe rty ♩ = 12 (((. '.repeat(5)}\n`.repeat(2000));
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByLabel('Audition body')).toBeVisible({ timeout: 15_000 });
  await page.getByRole('button', { name: 'Change the text' }).click();
  await box.fill('דרישות אודישן 2027 🎺\nEtude 1: “שיר”, mm. 1–8, ♩ = 96');
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.locator('#measures-0')).toHaveValue('1–8');
  await expect(page.locator('#work-0')).toHaveValue('שיר');
  // Good rows are kept, wrong ones are named.
  const csv = 'label,kind,measures,tempo\nExcerpt A,excerpt,mm. 9-24,quarter = 96\n,scale,,\nSolo,sollo,,\n';
  await page
    .getByLabel('Import JSON or CSV')
    .setInputFiles({ name: 'parts.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  await expect(page.getByText('Row 3: The label is missing.')).toBeVisible();
  await expect(page.getByText(/Row 4: "sollo" is no kind of a part/u)).toBeVisible();
  await expect(page.getByLabel('Called').last()).toHaveValue('Excerpt A');
  await expect(page.locator('#work-0')).toHaveValue('שיר');
});

test('a sheet is exported, imported, copied for the next year, reordered by keys, and removed with Undo', async ({
  page,
}) => {
  await page.getByRole('link', { name: 'Enter a sheet' }).first().click();
  await page.getByLabel('Published text').fill(TEXT);
  await page.getByRole('button', { name: 'Read it' }).click();
  await page.getByRole('button', { name: 'Move part 2 up' }).click();
  await expect(page.getByLabel('Called').first()).toHaveValue('Scale');
  await page.getByRole('button', { name: 'Save and give it' }).click();
  await expect(page.getByRole('link', { name: 'Choices and verdict' })).toBeVisible();
  await page.getByRole('link', { name: 'Sheet', exact: true }).first().click();
  await page.getByRole('link', { name: /Archipelago/u }).click();
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('menuitem', { name: 'Save as JSON' }).click();
  const path = await (await download).path();
  const structure = JSON.parse(readFileSync(path, 'utf8')) as { parts: { label: string }[] };
  expect(structure.parts.map(({ label }) => label)).toEqual(['Scale', 'Etude 1']);
  await page.goto(page.url().replace(/\/sheets\/.*/u, '/sheets/new'));
  await page.getByLabel('Import JSON or CSV').setInputFiles(path);
  await expect(page.getByLabel('Called').first()).toHaveValue('Scale');
  await page.goto(page.url());
  await page.getByRole('combobox', { name: 'Start from another sheet' }).click();
  await page.getByRole('option', { name: /Archipelago/u }).click();
  await expect(page.getByLabel('Year')).toHaveValue('2028');
  await page.goto(page.url().replace('/sheets/new', '/sheets'));
  await page.getByRole('button', { name: /^Remove Archipelago/u }).click();
  await expect(page.getByText(/is used by 1 student/u)).toBeVisible();
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByText(/With the programs of Ilse/u)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: /Archipelago/u })).toBeVisible();
});

test('settings turn every word to bars and crotchets; a calendar address is made, read and revoked', async ({
  page,
}) => {
  await page
    .getByRole('button', { name: /Odalys|Test|Instructor/u })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'Settings' }).click();
  await page.getByRole('combobox', { name: 'Words' }).click();
  await page.getByRole('option', { name: 'bar, crotchet, minim' }).click();
  await page.getByRole('button', { name: 'Save the settings' }).click();
  await expect(page.getByText('Settings saved')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make an address' }).click();
  const address = (await page.locator('.fresh code').textContent()) ?? '';
  expect((await page.request.get(address)).status()).toBe(200);
  await page.getByRole('button', { name: 'Revoke the address of the whole studio' }).click();
  await expect(page.getByText('No address is out.')).toBeVisible();
  expect((await page.request.get(address)).status()).toBe(404);
  await page.getByRole('link', { name: 'Sheet', exact: true }).click();
  await page.getByRole('link', { name: 'Enter a sheet' }).first().click();
  await page.getByRole('button', { name: 'Enter it by hand' }).click();
  await expect(page.getByLabel('Bars of part 1')).toBeVisible();
});

test('parts are dragged from list to list and a choice and a note are entered by hand', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 1400 });
  await page.getByRole('link', { name: 'Enter a sheet' }).first().click();
  const lists =
    'SKERRY BOARD OF GRADED MUSIC\nFlute Grade 5, 2027\n\nList A\nP1 Petrel Song — L. Osk\nP2 Salt Road — B. Vey\nList B\nQ1 Quiet Sound — M. Tarn\n';
  await page.getByLabel('Published text').fill(lists);
  await page.getByRole('button', { name: 'Read it' }).click();
  const grip = page.locator('fieldset', { has: page.locator('#label-1') }).locator('[cdkDragHandle]');
  const target = page.locator('fieldset', { has: page.locator('#label-2') });
  await grip.hover();
  await page.mouse.down();
  const listB = page.locator('.group', { has: page.getByRole('heading', { name: 'List B' }) });
  // Where the target is now: what was just read may still be finding its place.
  await expect(async () => {
    const box = (await target.boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
    await page.mouse.move(box.x + 40, box.y + 20, { steps: 8 });
    await page.mouse.move(box.x + 40, box.y + box.height - 10, { steps: 8 });
    await expect(listB.locator('.cdk-drag-placeholder')).toBeVisible({ timeout: 1000 });
  }).toPass();
  await page.mouse.up();
  await expect(listB.getByLabel('Called')).toHaveCount(2);
  await page.getByRole('button', { name: 'Add a choice' }).click();
  for (const label of ['P1', 'P2', 'Q1']) await page.getByRole('checkbox', { name: label }).check();
  await page.getByRole('combobox', { name: 'Rule' }).click();
  await page.getByRole('option', { name: 'one from each group' }).click();
  await page.getByRole('button', { name: 'Add the choice' }).click();
  await expect(page.getByText(/One from each of: P1; (?:Q1 \/ P2|P2 \/ Q1)/u)).toBeVisible();
  await page.getByLabel('A note of the sheet').fill('Page turns are not judged.');
  await page.getByLabel('A note of the sheet').press('Enter');
  await expect(page.getByText('Page turns are not judged.')).toBeVisible();
  await expectAccessible(page);
});

const DOCUMENT = `ORRIN SOUND SCHOOL BANDS
Woodwind Audition List 2026–27

Every etude is from “Twelve Tides and a Calm” by Ottoline Vask.

Part         2025–26    2026–27    Page    Tempo

CLARINET
Lyrical      No. 9      No. 16     24      dotted quarter = 63–66
Technical    No. 10     No. 18     27      ♩ = 132

ALTO SAXOPHONE
Lyrical      No. 12     No. 31     40      ♩ = 58
Technical    No. 14     No. 23     34      ♩ = 96

Heron, by the weir

Auditions: ${american(40)}, 9:30 a.m. GMT.
`;

test('a document for several instruments is looked through for one’s own, put right in the text, and found again', async ({
  page,
}) => {
  const line = (label: string) =>
    page.locator('button.line', { has: page.getByText(label, { exact: true }) }).first();
  await page.getByRole('link', { name: 'Enter a sheet' }).first().click();
  await page.getByLabel('Published text').fill(DOCUMENT);
  await page.getByRole('button', { name: 'Read it' }).click();
  // The instruments of the students first, the rest folded away.
  await expect(page.locator('vc-desk-counts')).toContainText('2 parts');
  await expect(line('Lyrical')).toContainText('no. 16, p. 24');
  await page.getByRole('button', { name: 'Alto Saxophone', exact: true }).click();
  await expect(page.locator('vc-desk-counts')).toContainText('4 parts');
  await expectAccessible(page);
  // Another year is in force: said at the head of the column, the whole text is read again.
  await page
    .getByRole('button', { name: /^Column 2 holds/u })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'What is asked now, or of one instrument' }).click();
  await expect(line('Lyrical')).toContainText('no. 9, p. 24');
  // Words are given to a field; what they would say there is shown before.
  await page.locator('.text .unread').dblclick({ position: { x: 8, y: 8 } });
  await expect(page.locator('vc-word-giver')).toContainText('reads as Heron');
  await page.getByRole('combobox', { name: 'Part that the words are for' }).click();
  await page.getByRole('option', { name: 'Clarinet lyrical' }).click();
  await expectAccessible(page);
  const kept = page.waitForResponse(
    (answer) =>
      answer.request().method() === 'PUT' &&
      /sheet-drafts/u.test(answer.url()) &&
      (answer.request().postData() ?? '').includes('\\"field\\":\\"title\\"'),
  );
  await page.getByRole('button', { name: 'Give', exact: true }).click();
  await expect(line('Lyrical')).toContainText('Heron');
  // Both are found again, on another device too: nothing of this page is left on this one.
  await kept;
  await expect(page.locator('vc-desk-counts')).toContainText(/draft kept (?!on this device)/u);
  await page.evaluate(() => indexedDB.deleteDatabase('vivid-cue-drafts'));
  await page.goto(page.url());
  await expect(page.getByText('Here is what you had entered until')).toBeVisible();
  await expect(line('Lyrical')).toContainText('Heron');
  await expect(line('Lyrical')).toContainText('no. 9, p. 24');
  await page.getByRole('button', { name: 'Save and give it' }).click();
  await expect(page.getByRole('heading', { name: /Orrin Sound/u })).toBeVisible();
  // A student of an instrument gets the parts for it.
  await expect(page.getByText('no. 9, p. 24').first()).toBeVisible();
  await expect(page.getByText('no. 12, p. 40')).toHaveCount(0);
});

test('on a phone the text is unfolded, a line is told what it is, and nothing runs out of the page', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(page.url().replace(/\/students.*|\/$/u, '/sheets/new'));
  await page.getByLabel('Published text').fill(DOCUMENT);
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.locator('vc-desk-counts')).toContainText('1 phrase unread');
  await page.getByRole('button', { name: 'Show the published text' }).click();
  await page
    .locator('.row', { hasText: 'Heron, by the weir' })
    .getByRole('button', { name: /Say what it is/u })
    .click();
  await page.getByRole('menuitem', { name: 'Nothing of use' }).click();
  await expect(page.locator('vc-desk-counts')).toContainText('every phrase read');
  expect(
    await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth),
  ).toBeLessThanOrEqual(0);
  await expectAccessible(page);
});
