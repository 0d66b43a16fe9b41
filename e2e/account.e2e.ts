import { addStudent, expect, expectAccessible, freshLogin, openStudio, test } from './studio';

test('a password is changed, the studio removed and brought back with everything in it', async ({
  page,
  server,
}) => {
  const login = freshLogin();
  const password = 'three wet herons waiting';
  await openStudio(page, server.url, login);
  await addStudent(page, 'Ilse Vantongeren', 'clarinet');
  await page.goto(`${server.url}/settings`);
  await page.getByLabel('Password now').fill(login.password);
  await page.getByLabel('New password').fill('aaaaaaaaaaaa');
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('This password is easily guessed')).toBeVisible();
  await page.getByLabel('New password').fill(password);
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('Password changed')).toBeVisible();
  await page.getByText('Remove the studio', { exact: true }).first().click();
  await expect(page.getByText('For 30 days signing in brings all of it back')).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel('Your password, to be sure').fill(password);
  await page.getByRole('button', { name: 'Remove the studio' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.getByLabel('E-mail').fill(login.email);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByText('This studio was removed.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Bring the studio back' }).click();
  await expect(page.getByRole('link', { name: 'Ilse Vantongeren' }).first()).toBeVisible();
});
