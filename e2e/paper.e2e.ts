import {
  addStudent,
  enterSheet,
  expect,
  expectAccessible,
  file,
  makePassage,
  openPassages,
  openStudio,
  test,
} from './studio';

test('a part that is only on paper is told, practised, and later given its digital score without losing a rep', async ({
  page,
  server,
}) => {
  await openStudio(page, server.url);
  await addStudent(page, 'Mara Thistledown', 'clarinet');
  await enterSheet(page);
  await page.getByRole('link', { name: 'Bring the music' }).first().click();
  // Measures and tempo come from the sheet; the meter is all that is missing.
  await expect(page.getByLabel('Last measure')).toHaveValue('28');
  await expect(page.getByLabel('Tempo', { exact: true })).toHaveValue('♩=116');
  await page.getByLabel('Meter', { exact: true }).fill('4/4');
  await page.getByLabel('Letters').fill('A9');
  await page.getByLabel('Where most notes are').fill('11 sixteenths');
  await expect(page.getByLabel('The same in one line')).toHaveValue('1–28 4/4; A9; ♩=116; 11 sixteenths');
  await expect(page.getByText('28 measures, 57.9 s.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'These are the measures' }).click();

  const music = page.getByRole('region', { name: 'Measures as told' });
  await expect(music.getByRole('button', { name: 'Measure 9, letter A' })).toBeVisible();
  await expect(page.getByText(/Measure 11 decides the tempo/u)).toBeVisible();
  await expectAccessible(page);
  await music.getByRole('button', { name: 'Measure 11, sixteenths' }).click();
  await expect(page.getByRole('button', { name: 'Compare editions' })).toBeHidden();

  await makePassage(page, '9–12');
  await page
    .getByRole('button', { name: /^Clean/u })
    .first()
    .click();
  await expect(page.locator('vc-passage-panel')).toContainText('1 rep on 1 day');
  await openPassages(page);
  await expect(page.locator('vc-passage-list')).toContainText('mm. 9–12');

  await page.getByRole('button', { name: 'Change the music' }).click();
  await expect(page.getByLabel('The same in one line')).toHaveValue('1–28 4/4; A9; ♩=116; 11 sixteenths');
  await page.getByLabel('Score file').setInputFiles(file('demo/studies/ferry-lines.musicxml'));
  await expect(page.getByText(/^Against what is there: 4 new measures \(29–32\)/u)).toBeVisible();
  await page.getByRole('button', { name: 'Replace by ferry-lines.musicxml' }).click();
  await expect(page.locator('svg.picture').first()).toBeVisible({ timeout: 30_000 });
  await openPassages(page);
  await expect(page.locator('vc-passage-list')).toContainText('mm. 9–12');
  await page.locator('vc-passage-list').getByText('mm. 9–12').click();
  await expect(page.locator('vc-passage-panel')).toContainText('1 rep on 1 day');
});
