import {
  addStudent,
  dayFromNow,
  expect,
  expectAccessible,
  makePassage,
  openPassages,
  openStudio,
  test,
  openHandSheet,
} from './studio';

/** A duet: the wanted part stands below the one that accompanies. */
function duet(): Buffer {
  const part = (id: string, step: string): string => {
    const note = `<note><pitch><step>${step}</step><octave>5</octave></pitch><duration>4</duration><voice>1</voice><type>whole</type></note>`;
    const measures = [1, 2, 3, 4].map((number) => {
      const head =
        '<attributes><divisions>1</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>';
      return `<measure number="${number}">${number === 1 ? head : ''}${note}</measure>`;
    });
    return `<part id="${id}">${measures.join('')}</part>`;
  };
  const list =
    '<score-part id="P1"><part-name>Piano</part-name></score-part><score-part id="P2"><part-name>Oboe</part-name></score-part>';
  return Buffer.from(
    `<?xml version="1.0"?><score-partwise version="4.0"><work><work-title>Skiff Duet</work-title></work><part-list>${list}</part-list>${part('P1', 'C')}${part('P2', 'E')}</score-partwise>`,
  );
}

test('a score with several parts opens at the student’s and can be switched; words for a tempo ask for a number', async ({
  page,
  server,
}) => {
  await openStudio(page, server.url);
  await addStudent(page, 'Anouk Sverdrup', 'oboe');
  await openHandSheet(page);
  await page.getByLabel('Audition body').fill('Northwater Youth Philharmonic');
  await page.getByLabel('Instrument').fill('oboe');
  await page.getByLabel('Date', { exact: true }).fill(dayFromNow(40));
  await page.getByLabel('Tempo as printed').fill('Allegro');
  await page.getByRole('button', { name: 'Save and give it' }).click();
  await expect(page.getByText('the whole piece')).toBeVisible();
  await page.getByRole('link', { name: 'Bring the music' }).click();
  await page
    .getByLabel('Score file')
    .setInputFiles({ name: 'duet.musicxml', mimeType: 'application/xml', buffer: duet() });
  await expect(page.locator('svg.picture g.measure')).toHaveCount(4, { timeout: 30_000 });
  await expect(page.locator('svg.picture g.staff')).toHaveCount(4);
  await expect(page.getByText(/Oboe · the whole piece/u)).toBeVisible();
  await expect(page.getByText('The sheet gives no tempo number (Allegro).')).toBeVisible();
  await page.getByText('1 thing to know about this file').click();
  await expect(
    page.getByText('The file states no tempo, so no seconds can be told from it alone.'),
  ).toBeVisible();
  await expectAccessible(page);

  await openPassages(page);
  await page.getByLabel('New passage').fill('1–2');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByText('set the part’s target tempo first')).toBeVisible();
  await page.getByLabel('Beats a minute').fill('900');
  await page.getByRole('button', { name: 'Set the target' }).click();
  await expect(page.getByText('A tempo lies between 10 and 400 beats a minute; 900 came.')).toBeVisible();
  await page.getByLabel('Beats a minute').fill('96');
  await page.getByRole('button', { name: 'Set the target' }).click();
  await expect(page.getByText(/♩=96 · 10\.0 s/u)).toBeVisible();
  await makePassage(page, '1–2');
  await expect(page.locator('vc-passage-panel .tempo')).toContainText('48');

  await page.getByRole('combobox', { name: 'Part of the score' }).click();
  await page.getByRole('option', { name: 'Piano' }).click();
  await expect(page.getByText(/Piano · the whole piece/u)).toBeVisible();
  await expect(page.getByRole('button', { name: 'mm. 1–2, Mapped' })).toBeVisible();
});
