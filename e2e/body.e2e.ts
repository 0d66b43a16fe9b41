import { readFile } from 'node:fs/promises';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import {
  addStudent,
  enterSheet,
  expect,
  expectAccessible,
  furnishStudio,
  openScore,
  openStudio,
  test,
} from './studio';

test('breaths and fingers are worked out, settled, written onto the music and taken back', async ({
  page,
  server,
}) => {
  await openScore(page, await furnishStudio(page, server.url));
  await page.keyboard.press('b');
  const panel = page.locator('vc-body-panel');
  await expect(panel).toContainText(
    'One breath beside the rests; the longest stretch takes 8.3 of 12.8 seconds.',
  );
  await expect(panel).toContainText('not measured yet');
  await expect(panel.getByText('m. 20, at the bar line')).toBeVisible();
  // What is offered stands on the music in another tone than what is settled.
  const signs = page.locator('svg.picture .vc-mark.sign');
  await expect(signs.filter({ hasText: '’' }).first()).toHaveClass(/offered/u);
  await expectAccessible(page);

  // Measures 17 to 24 have no rest: 30 quarters at 116 are 15.5 seconds. More air, and then a faster tempo, need no breath but in the rests; less air needs more.
  const loud = panel.getByLabel('Long tone, loud');
  await loud.fill('19');
  await loud.press('Tab');
  await expect(panel).toContainText('The rests are enough: the longest stretch takes 15.5 of 16.1 seconds.');
  await loud.fill('9');
  await loud.press('Tab');
  await expect(panel).toContainText(
    /breaths beside the rests; the longest stretch takes [\d.]+ of 7\.6 seconds/u,
  );
  await panel.getByLabel('Tempo, in percent of the target').fill('140');
  await expect(panel).toContainText('at ♩=162');
  await panel.getByLabel('Tempo, in percent of the target').fill('100');
  await loud.fill('15');
  await loud.press('Tab');

  // A place that is ruled out is passed over for another, and allowed again.
  await panel.getByRole('button', { name: /^Never breathe at m\. 20/u }).click();
  await expect(panel.getByText('m. 20, at the bar line')).toBeHidden();
  await expect(panel).toContainText('1 place is ruled out.');
  await panel.getByRole('button', { name: 'Allow them again' }).click();
  await expect(panel.getByText('m. 20, at the bar line')).toBeVisible();

  await panel.getByRole('button', { name: 'Write the breath in' }).click();
  await expect(page.getByText('One cue written in')).toBeVisible();
  await expect(page.locator('svg.picture .vc-mark.sign:not(.offered)')).toHaveText('’');
  await expect(panel.getByRole('button', { name: 'Write the breath in' })).toBeHidden();

  // A note's other fingering is kept, and the rest goes round it.
  const note = panel.getByRole('button', { name: /^20, note 2: left/u });
  await note.click();
  await expect(panel.getByRole('button', { name: /^20, note 2: right, settled/u })).toBeVisible();
  await panel.getByRole('button', { name: 'Forget what I pressed' }).click();
  await expect(note).toBeVisible();
  await panel.getByRole('button', { name: /^Write \d+ in$/u }).click();
  await expect(page.getByText('2 cues written in')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(page.locator('svg.picture .vc-mark.sign:not(.offered)')).toHaveCount(1);

  // What was written outlives the page; it says why, and is searched and changed among the cues.
  await page.reload();
  await page.locator('svg.picture').first().waitFor();
  await page.keyboard.press('q');
  const cue = page.locator('vc-cues-panel .cue-list li').first();
  await expect(cue).toContainText('Breathe here');
  await expect(cue).toContainText('after the long note');
  await expect(page.locator('svg.picture .vc-mark.sign')).toHaveText('’');
  await page.getByRole('button', { name: /^Change the cue at m\. 20/u }).click();
  await page.getByLabel('How far it is decided').click();
  await page.getByRole('option', { name: 'to discuss' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(cue).toContainText('to discuss');
  await expect(page.locator('svg.picture .vc-mark.sign')).toHaveClass(/offered/u);
  await expectAccessible(page);
});

test('a cue is written at a note with two keys, moved by hand, copied to the same notes, and may not disagree with itself', async ({
  page,
  server,
}) => {
  await openScore(page, await furnishStudio(page, server.url));
  const picture = page.locator('svg.picture').first();
  const signs = page.locator('.vc-mark.sign[data-cue]');
  // Notes are known once the score is read.
  await page.locator('vc-findings-panel li').first().waitFor();
  await picture.locator('g.measure').nth(1).locator('g.notehead').nth(1).click();
  await expect(page.locator('.vc-mark.chosen-note')).toHaveCount(1);
  await page.keyboard.press('w');
  await expect(page.getByText(/Cue at m\. 2, note 2/u)).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('r');
  await expect(page.getByText('“Right little finger” written in')).toBeVisible();
  await expect(signs).toHaveText('R');
  await expect(signs).toHaveClass(/ink-plum/u);
  await expect(page.getByLabel('What the signs stand for')).toHaveText('Rfingering');

  // By keys alone: the next note, a breath after it.
  await page.keyboard.press('n');
  await page.keyboard.press('w');
  await page.keyboard.press('b');
  await expect(signs).toHaveCount(2);
  await page.keyboard.press('q');
  const list = page.locator('vc-cues-panel .cue-list li');
  await expect(list.filter({ hasText: 'Breathe here' })).toContainText('m. 2, note 3');

  // By hand: the sign is dragged to the first note of its measure.
  const sign = signs.filter({ hasText: 'R' });
  const from = (await sign.boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
  const head = picture.locator('g.measure').nth(1).locator('g.notehead').first();
  const to = (await head.boundingBox()) ?? from;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2 + 4, from.y, { steps: 5 });
  await page.mouse.up();
  await expect(list.filter({ hasText: 'Right little finger' })).toContainText('m. 2, note 1');
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(list.filter({ hasText: 'Right little finger' })).toContainText('m. 2, note 2');

  // Where the same notes come again the cue is copied; changed in one place it disagrees with itself, and is settled.
  await list.filter({ hasText: 'Right little finger' }).locator('button.cue').click();
  await page.getByRole('button', { name: /^Also at /u }).click();
  await expect(list.filter({ hasText: 'Right little finger' })).toHaveCount(2);
  await page.getByRole('button', { name: /^Change the cue at m\. 26/u }).click();
  await page.locator('input[name="sign"]').fill('L');
  await page.getByRole('button', { name: 'Save' }).click();
  await page.keyboard.press('f');
  const note = page.locator('vc-two-ways');
  await expect(note).toContainText('The same notes, fingering two ways: R at m. 2; L at m. 26.');
  await expectAccessible(page);
  await note.getByRole('button', { name: 'R everywhere' }).click();
  await expect(note.getByRole('note')).toHaveCount(0);
  await expect(signs.filter({ hasText: 'R' })).toHaveCount(2);

  // Handed on: other programs read the signs, our own import gives the cues back, and paper has both.
  const saved = async (name: string | RegExp): Promise<Buffer> => {
    await page.getByRole('button', { name: 'Hand on' }).click();
    // Drawing every page takes its time where both processors are busy.
    const coming = page.waitForEvent('download', { timeout: 60_000 });
    await page.getByRole('menuitem', { name }).click();
    return readFile(await (await coming).path());
  };
  const xml = (await saved('Score with cues (MusicXML)')).toString('utf8');
  expect(xml.match(/<fingering color="#7A3E6E">R<\/fingering>/gu)).toHaveLength(2);
  expect((await saved(/\(MIDI\)$/u)).subarray(0, 4).toString()).toBe('MThd');
  const pdf = await getDocument({ data: new Uint8Array(await saved('Pages with cues (PDF)')), verbosity: 0 })
    .promise;
  const { items } = await (await pdf.getPage(1)).getTextContent();
  const words = items
    .map((item) => ('str' in item ? item.str : ''))
    .join(' ')
    .replaceAll(/\s+/gu, ' ');
  expect(words).toContain('Ilse Vantongeren');
  expect(words).toContain('m. 26, note 2 R Right little finger');
  await page.keyboard.press('q');
  for (const _ of [1, 2, 3]) {
    await page
      .getByRole('button', { name: /^Remove the cue/u })
      .first()
      .click();
    await page.waitForTimeout(100);
  }
  await expect(page.getByText('No cues yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Replace the score' }).click();
  const file = { name: 'ferry-lines-cues.musicxml', mimeType: 'text/xml', buffer: Buffer.from(xml) };
  await page.getByLabel('Score file').setInputFiles(file);
  await page.getByRole('button', { name: /^Replace by/u }).click();
  await expect(list).toHaveCount(3);
  await expect(list.filter({ hasText: 'Right little finger' })).toHaveCount(2);
});

test('dynamics are proposed level by level, and a shape is tried where none is printed', async ({
  page,
  server,
}) => {
  await openScore(page, await furnishStudio(page, server.url));
  await page.locator('vc-findings-panel li').first().waitFor();
  await page.keyboard.press('q');
  const panel = page.locator('vc-cues-panel');
  await panel.getByText(/^A wider reading of the dynamics/u).click();
  await panel.getByRole('button', { name: /^Propose these/u }).click();
  await expect(page.getByText(/cues written in$/u)).toBeVisible();
  await expect(panel.locator('.offer')).toHaveCount(0);
  const proposed = page.locator('.vc-mark.sign.offered[data-cue]');
  await expect(proposed.first()).toHaveText(/^[mpf]+$/u);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(proposed).toHaveCount(0);
  // Measures 2 to 8 have no mark of their own.
  await page.locator('svg.picture').first().locator('g.measure').nth(1).locator('g.notehead').first().click();
  for (let n = 0; n < 4; n += 1) await page.keyboard.press('Shift+ArrowRight');
  await panel.getByRole('button', { name: /^arch/u }).click();
  await expect(proposed).toHaveText(['mp', 'mf', 'f', 'mp']);
  await expectAccessible(page);
});

test('a studio draws its cues as it likes, adds a rule of the hands and silences another', async ({
  page,
  server,
}) => {
  const furnished = await furnishStudio(page, server.url, {
    student: ['Freya Lindquist-Amara', 'bassoon'],
    music: { work: 'Slack Water', to: 16, path: 'demo/studies/slack-water.musicxml' },
  });
  await page.goto(`${server.url}/settings`);
  const card = page.locator('vc-book-card');
  await card.getByLabel('Ink of trap').selectOption('moss');
  await expect(card.getByText('Drawn so now.')).toBeVisible();
  await card.getByLabel('Instrument of the rule').fill('Bassoon');
  await card.getByLabel('Where it speaks').selectOption('at a note');
  await card.getByLabel('Written notes of the rule').fill('H3');
  await card.getByLabel('What to do there').fill('Our own way here.');
  await card.getByRole('button', { name: 'Add the rule' }).click();
  await expect(card).toContainText('Write notes with their octave');
  await card.getByLabel('Written notes of the rule').fill('F3, G3, A3, D3, C3, Bb2');
  await card.getByRole('button', { name: 'Add the rule' }).click();
  await expect(card.getByText('The rule is in your book.')).toBeVisible();
  await expectAccessible(page);
  await card.getByLabel('Shipped rules of').selectOption('bassoon');
  for (const box of await card.locator('.rules').last().getByRole('checkbox').all()) await box.uncheck();
  await expect(card.getByText('The rule is silent now.')).toBeVisible();

  await openScore(page, furnished);
  await page.keyboard.press('b');
  const panel = page.locator('vc-body-panel');
  await expect(panel).toContainText('Our own way here.');
  await expect(panel).toContainText('your rule');
  await expect(panel).not.toContainText('common practice');
  await page.locator('svg.picture g.notehead').first().click();
  await page.keyboard.press('w');
  await page.keyboard.press('t');
  await expect(page.locator('.vc-mark.sign[data-cue]')).toHaveClass(/ink-moss/u);
});

test('on paper without notes breaths are marked on the boxes; a long tone is timed, and its best try kept', async ({
  page,
  server,
}) => {
  await openStudio(page, server.url);
  await addStudent(page, 'Mara Thistledown', 'clarinet');
  await enterSheet(page);
  await page.getByRole('link', { name: 'Bring the music' }).first().click();
  await page.getByLabel('Meter', { exact: true }).fill('4/4');
  await page.getByRole('button', { name: 'These are the measures' }).click();
  await page.getByRole('region', { name: 'Measures as told' }).waitFor();
  await page.keyboard.press('b');
  const panel = page.locator('vc-body-panel');
  await expect(panel).toContainText('No choice of breaths fits 12.8 seconds of air at this tempo.');
  const breath = (measure: number) => panel.getByRole('button', { name: `Breath after m. ${measure}:` });
  for (const measure of [6, 12, 18, 24]) await breath(measure).click();
  // 28 measures at 116 last 57.9 seconds; six measures 12.4.
  await expect(panel).toContainText(
    '4 breaths beside the rests; the longest stretch takes 12.4 of 12.8 seconds.',
  );
  await panel.getByRole('button', { name: 'Rest at the end of m. 12: none' }).click();
  await expect(panel.getByRole('button', { name: 'Rest at the end of m. 12: 1 beat' })).toBeVisible();
  await expect(panel).toContainText('3 breaths beside the rests');
  await panel.getByRole('button', { name: 'Settle these 3' }).click();
  await expect(breath(6)).toHaveAccessibleName('Breath after m. 6: taken');
  await expectAccessible(page);
  // What was marked is on the measures, and stays.
  await page.reload();
  await expect(page.getByRole('region', { name: 'Measures as told' })).toContainText(
    'Rest of 1 beat at the end',
  );

  await page.clock.install();
  await page.keyboard.press('b');
  await panel.getByRole('button', { name: 'Time a loud tone' }).click();
  await page.clock.runFor(9_000);
  await panel.getByRole('button', { name: 'Stop: the loud tone ended' }).click();
  await panel.getByRole('button', { name: 'Time a loud tone' }).click();
  await page.clock.runFor(11_000);
  await panel.getByRole('button', { name: /^Stop/u }).click();
  await expect(panel.getByRole('checkbox', { name: 'steady' })).toHaveCount(2);
  await panel.getByRole('checkbox', { name: 'steady' }).last().uncheck();
  await panel.getByRole('button', { name: /^Keep 9\.\d s loud$/u }).click();
  await expect(panel.getByLabel('Long tone, loud')).toHaveValue(/^9/u);
  await expect(panel).toContainText('measured on');
});
