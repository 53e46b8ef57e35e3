/** Signing in, in the page: asked once, led back to where one was, signed out. */
import { violationsOf } from './accessible.ts';
import { expect, test } from './dusting.ts';
import { Dusting } from '../api/harness.ts';

const token = 'the-bees-know-this-one';
let dusting: Dusting;

test.beforeAll(async () => {
  dusting = await Dusting.create({ DUSTING_TOKEN: token });
  await dusting.server();
});
test.afterAll(() => dusting.destroy());

test('asks for the token, says when it is wrong, and goes on to where one was going', async ({ page }) => {
  await page.goto(`${dusting.address}/shots/HA-999`);
  await expect(page).toHaveURL(/sign-in\?to=\/shots\/HA-999/);
  const field = page.getByLabel('Server token');
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeDisabled();
  await field.fill('not-the-token-at-all');
  await field.press('Enter');
  await expect(page.getByText('Wrong token.')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await field.fill(token);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'There is no shot "HA-999".' })).toBeVisible();
  expect(await page.evaluate(() => document.cookie), 'scripts cannot read it').toBe('');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'There is no shot "HA-999".' })).toBeVisible();
  await page.goto(dusting.address);
  await expect(page.getByRole('heading', { name: 'No shots yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/sign-in/);
  await page.goto(`${dusting.address}/`);
  await expect(page.getByLabel('Server token')).toBeVisible();
});

test('leads to no other site, whatever its address says', async ({ page }) => {
  await page.goto(`${dusting.address}/sign-in?to=//evil.example/`);
  await page.getByLabel('Server token').fill(token);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'No shots yet' })).toBeVisible();
  expect(new URL(page.url()).origin).toBe(dusting.address);
});

test('asks again when the session ends under an open page', async ({ page }) => {
  await page.goto(dusting.address);
  await page.getByLabel('Server token').fill(token);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'No shots yet' })).toBeVisible();
  await page.context().clearCookies();
  await page.getByLabel('Import a zip archive, a scene file or pictures').setInputFiles({ name: 'a.obj', mimeType: 'text/plain', buffer: Buffer.from('v 0 0 0') });
  await expect(page.getByLabel('Server token')).toBeVisible();
}); // prettier-ignore
