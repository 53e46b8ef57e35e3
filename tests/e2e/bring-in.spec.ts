/** Bringing shots in through the page: an archive, and what is wrong with one. */
import { expect, test } from './dusting.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { zipped } from './zipped.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;

async function archive(code: string, change: (document: any) => void = () => {}): Promise<Buffer> {
  const shot = await smallShot(code);
  change(shot.document);
  return zipped(filesOf(shot).map(([path, bytes]) => [`${code}/${path}`, bytes]));
}

test('a shot that is broken is refused with every place that is wrong, and nothing is kept', async ({ page }) => {
  await page.goto(address());
  const buffer = await archive('E2E-1', (document) => {
    document.sheets.preview.samples = -4;
    document.objects.wall.material = 'gold';
    document.sheets.final.smaples = 3;
  });
  await page.getByLabel('Import a zip archive, a scene file or pictures').setInputFiles({ name: 'broken.zip', mimeType: 'application/zip', buffer });
  const refusal = page.getByRole('alert');
  await expect(refusal).toContainText('nothing was kept');
  await expect(refusal).toContainText('/sheets/preview/samples is -4, expected at least 4');
  await expect(refusal).toContainText('/sheets/final/smaples');
  await refusal.getByRole('button', { name: 'Dismiss' }).click();
  await expect(page.getByRole('row', { name: /E2E-1/ })).toHaveCount(0);
}); // prettier-ignore

test('a shot that is whole comes in, opens, renders, and has its causes found', async ({ page }) => {
  await page.goto(address());
  const buffer = await archive('E2E-2');
  await page.getByLabel('Import a zip archive, a scene file or pictures').setInputFiles({ name: 'shot.zip', mimeType: 'application/zip', buffer });
  await expect(page).toHaveURL(/shots\/E2E-2/);
  await expect(page.getByRole('heading', { name: 'A straight path crosses 6 faces; paths end at 2' })).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Dismiss …' }).click();
  await page.getByLabel('Why it doesn’t matter here').fill('test panes');
  await page.getByRole('button', { name: 'Dismiss', exact: true }).click();
  await expect(page.getByText('1 dismissed')).toBeVisible();
}); // prettier-ignore

test('what is not there says so', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-999`);
  await expect(page.getByRole('heading', { name: 'There is no shot "HA-999".' })).toBeVisible();
  await page.goto(`${address()}/somewhere/else`);
  await expect(page.getByRole('heading', { name: 'There is no page here.' })).toBeVisible();
});
