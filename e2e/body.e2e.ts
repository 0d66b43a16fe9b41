import { expect, expectAccessible, furnishStudio, openScore, test } from './studio';

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
  const cue = page.locator('vc-cues-panel li').first();
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
