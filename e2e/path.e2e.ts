import {
  addStudent,
  enterSheet,
  expect,
  expectAccessible,
  freshLogin,
  makePassage,
  openPassages,
  openStudio,
  scriptBytes,
  test,
  uploadScore,
} from './studio';

test('a new user goes from a sheet and a score to a readiness number, and all of it outlives a restart', async ({
  page,
  server,
}) => {
  const login = freshLogin();
  await page.goto(server.url);
  await expectAccessible(page);
  await openStudio(page, server.url, login);
  await expect(page.getByText('No students yet')).toBeVisible();
  await expectAccessible(page);

  await addStudent(page, 'Ilse Vantongeren', 'clarinet');
  await enterSheet(page);
  await expect(page.getByText('30 days to the audition')).toBeVisible();
  await expect(page.getByText('♩=116')).toBeVisible();
  await expectAccessible(page);

  await uploadScore(page);
  await expect(page.getByRole('option')).toHaveCount(32);
  await expect(page.getByRole('option', { name: /^measure 29, not asked/u })).toBeVisible();
  await expect(page.locator('svg.picture g.measure')).toHaveCount(32);

  await openPassages(page);
  // A passage by dragging over the ribbon from measure 9 to 12 …
  const box = async (n: number): Promise<{ x: number; y: number }> => {
    const found = await page.locator(`#measure-${n}`).boundingBox();
    return { x: (found?.x ?? 0) + (found?.width ?? 0) / 2, y: (found?.y ?? 0) + 35 };
  };
  const [from, to] = [await box(8), await box(11)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByLabel('New passage')).toHaveValue('9–12');
  await expect(page.getByText('8.3 s at the target tempo')).toBeVisible();
  await page.getByLabel('Name of the passage, if it has one').fill('the return');
  await page.getByRole('button', { name: 'Make it' }).click();
  const panel = page.locator('vc-passage-panel');
  await expect(panel.getByRole('heading', { name: /the return/u })).toBeVisible();

  // … its ladder from half tempo in eight rungs, clean and slip by button and by key.
  await expect(panel.getByRole('list', { name: /Ladder/u }).getByRole('button')).toHaveCount(8);
  await expect(panel.locator('.tempo')).toContainText('58');
  await expect(panel.locator('.chance')).toHaveText('–');
  await panel.getByRole('button', { name: 'Clean' }).click();
  await page.keyboard.press('c');
  await expect(panel.locator('.streak')).toContainText('2 of 3');
  await page.keyboard.press('x');
  await expect(panel.locator('.streak')).toContainText('0 of 3');
  for (let n = 0; n < 3; n += 1) await page.keyboard.press('c');
  await expect(panel.locator('.tempo')).toContainText('67');
  await expect(panel.locator('vc-rung-glyph')).toContainText('Grounded');
  await expect(panel.locator('.chance')).toContainText('%');
  await expect(panel.getByText('6 reps on 1 day')).toBeVisible();
  await expect(panel.locator('.sentence')).toContainText('the sheet asks ♩=116');
  await page.keyboard.press('u');
  await expect(panel.locator('.tempo')).toContainText('58');
  await expect(panel.getByText('5 reps on 1 day')).toBeVisible();
  await page.keyboard.press('c');
  await expect(panel.getByText('6 reps on 1 day')).toBeVisible();
  await expectAccessible(page);

  // … and one by typing, with a target of its own.
  await makePassage(page, '17–20');
  await panel.getByRole('button', { name: 'Change this passage' }).click();
  const dialog = page.getByRole('dialog', { name: 'Change the passage' });
  await dialog.getByLabel('Target tempo').fill('100');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  await expect(panel.locator('.tempo')).toContainText('50');

  const address = page.url();
  await page.getByRole('button', { name: 'Odalys Brandvold' }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await server.stop();
  await server.start();
  await page.goto(address);
  await page.getByLabel('E-mail').fill(login.email);
  await page.getByLabel('Password').fill(login.password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();

  await page.getByRole('button', { name: 'the return, mm. 9–12, Grounded' }).click();
  await expect(panel.locator('.tempo')).toContainText('67');
  await expect(panel.getByText('6 reps on 1 day')).toBeVisible();
  await page.getByRole('link', { name: 'Season' }).click();
  await expect(page.getByRole('row', { name: /Ilse Vantongeren.*30 days.*slips a run/u })).toBeVisible();
  await expectAccessible(page);
});

test('the whole path works by keyboard from the ribbon to a logged rep', async ({ page, server }) => {
  await openStudio(page, server.url);
  await addStudent(page, 'Jory Penhallick', 'violin');
  await enterSheet(page);
  await uploadScore(page);
  await page.getByRole('listbox', { name: 'Measures' }).focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Home');
  for (let n = 0; n < 3; n += 1) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  const panel = page.locator('vc-passage-panel');
  await expect(panel.getByRole('heading', { name: 'mm. 1–4' })).toBeVisible();
  await page.keyboard.press('c');
  await expect(panel.getByText('1 rep on 1 day')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden();
});

test('the first page carries under 350 kB of compressed script, and the engraving engine comes only with a score', async ({
  page,
  server,
}) => {
  const weight = scriptBytes(page);
  const engine: string[] = [];
  page.on('requestfinished', (request) => {
    if (request.url().includes('/verovio/')) engine.push(request.url());
  });
  await openStudio(page, server.url);
  await expect(page.getByText('No students yet')).toBeVisible();
  const total = await weight();
  expect(total).toBeGreaterThan(50_000);
  expect(total).toBeLessThan(350_000);
  expect(engine).toEqual([]);
});
