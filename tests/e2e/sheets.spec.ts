/** A dial carried from one sheet to the other; a sheet saved as a preset, and taken in again. */
import { readFile } from 'node:fs/promises';
import { violationsOf } from './accessible.ts';
import { expect, test } from './dusting.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;

test('one dial is carried between sheets, and presets go out and come in', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010?panel=sheets`);
  const panel = page.getByRole('region', { name: 'Sheets' });
  const final = panel.getByRole('spinbutton', { name: 'Samples, final', exact: true });
  const preview = await panel.getByRole('spinbutton', { name: 'Samples, preview', exact: true }).inputValue();
  await panel.getByRole('button', { name: 'Carry samples from preview to final' }).click();
  await expect(final).toHaveValue(preview);
  await expect(panel.getByRole('status')).toContainText('1 value set, not kept yet');
  await panel.getByRole('button', { name: 'Discard' }).click();

  const more = panel.getByRole('button', { name: 'More about sheets: copy, presets' });
  await more.click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Save preview as a preset file' }).click();
  const file = await (await download).path();
  expect(JSON.parse(await readFile(file, 'utf8')).dials['/samples']).toBe(Number(preview));
  const load = async (buffer: Buffer) => {
    await more.click();
    const asked = page.waitForEvent('filechooser');
    await page.getByRole('menuitem', { name: 'Load a preset into final …' }).click();
    await (await asked).setFiles({ name: 'preset.json', mimeType: 'application/json', buffer });
  };
  await load(await readFile(file));
  await expect(page.getByText(/HA-010 preview: \d+ values set in the final sheet, not kept yet/)).toBeVisible();
  await expect(final).toHaveValue(preview);
  expect(await violationsOf(page)).toEqual([]);
  await load(Buffer.from('{"schema":"dusting.sheet/1","dials":{"/samples":5}}'));
  await expect(page.getByText(/\/sheets\/final\/samples is 5/)).toBeVisible();
  await expect(final, 'nothing of it was set').toHaveValue(preview);
});
