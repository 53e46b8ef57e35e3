/** What a shot holds is told, part by part, before anything of it is deleted; archiving keeps all of it. */
import { violationsOf } from './accessible.ts';
import { expect, test } from './dusting.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { zipped } from './zipped.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;

test('a shot is archived, taken out again, told by its parts and deleted', async ({ page }) => {
  await page.goto(address());
  const buffer = await zipped(filesOf(await smallShot('STORE-1', { samples: 4096 })));
  await page.getByLabel('Import a zip archive, a scene file or pictures').setInputFiles({ name: 'shot.zip', mimeType: 'application/zip', buffer });
  await expect(page).toHaveURL(/shots\/STORE-1/);
  const state = async () => (await page.request.get(`${address()}/api/shots/STORE-1`)).json();
  // The demo's render may go before it; the first pixels of this one will do.
  await expect.poll(async () => (await state()).renders[0].samplesDone, { timeout: 60_000 }).toBeGreaterThan(0);
  await page.request.post(`${address()}/api/renders/${(await state()).renders[0].id}/stop`);
  await expect.poll(async () => (await state()).renders[0].state).toBe('stopped');
  await page.goto(address());
  await expect(page.getByText(/Shots use [\d.]+ [kMG]?B; [\d.]+ [MGT]B free on disk/)).toBeVisible();
  const row = page.getByRole('row', { name: /STORE-1/ });
  const more = page.getByRole('button', { name: 'More about STORE-1' });

  // Low enough for the list to scroll to the row: that must not close the row's menu.
  await page.setViewportSize({ width: 1280, height: 420 });
  await more.click();
  await page.getByRole('menuitem', { name: 'Archive' }).click();
  await expect(row).toHaveCount(0);
  await page.getByLabel(/Show \d+ archived/).check();
  await expect(row.getByText('archived')).toBeVisible();
  await more.click();
  await page.getByRole('menuitem', { name: 'Restore from archive' }).click();
  await expect(row.getByText('archived')).toHaveCount(0);
  await page.setViewportSize({ width: 1280, height: 800 });

  await more.click();
  await page.getByRole('menuitem', { name: 'Storage …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Storage of STORE-1' });
  await expect(dialog.getByText(/Uses [\d.]+ [kM]B\. Deleting the shot frees/)).toBeVisible();
  await expect(dialog.getByRole('row', { name: /Version 1: Imported.*Can’t be deleted: it is the current version/ })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await dialog.getByRole('button', { name: /Delete Render \d+/ }).click();
  const confirm = page.getByRole('alertdialog');
  await expect(confirm).toContainText(/Frees [\d.]+ [kM]?B\. This can’t be undone/);
  await confirm.getByRole('button', { name: 'Cancel' }).click();
  expect((await state()).renders).toHaveLength(1);
  await dialog.getByRole('button', { name: /Delete Render \d+/ }).click();
  await confirm.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(dialog.getByRole('row', { name: /Render \d+/ })).toHaveCount(0);
  expect((await state()).renders).toHaveLength(0);
  await page.keyboard.press('Escape');

  const other = await page.context().newPage();
  await other.goto(`${address()}/shots/STORE-1`);
  await expect(other.getByRole('heading', { name: /STORE-1 three panes/ })).toBeVisible();
  await more.click();
  await page.getByRole('menuitem', { name: 'Delete …' }).click();
  await expect(confirm).toContainText(/This deletes all versions, renders, trials, pictures and logs of STORE-1 three panes/);
  await confirm.getByRole('button', { name: 'Delete STORE-1' }).click();
  await expect(row).toHaveCount(0);
  expect((await page.request.get(`${address()}/api/shots/STORE-1`)).status()).toBe(404);
  await expect(other.getByRole('heading', { name: 'There is no shot "STORE-1".' }), 'also where it was open').toBeVisible();
}); // prettier-ignore
