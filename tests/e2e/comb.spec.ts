/** Displacement and seams in a browser: what closes a crack, its islands drawn, the map read beside its controls. */
import type { Effect } from '../../core/contracts/figures.ts';
import { buildPressedComb } from '../../demo/ha-030/build.ts';
import { expect, importDemo, test } from './dusting.ts';
import { stateOf } from './state.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;

test('a crack is told by what closes it, its seam drawn on the tiles, and closed by a trial as told', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await importDemo(address(), buildPressedComb(), 'HA-038', { width: 160, height: 90, samples: 16 });
  await page.goto(`${address()}/shots/HA-038`);
  const findings = page.getByRole('region', { name: 'Findings' });
  await findings.getByText(/seams are open by up to/).click({ timeout: 180_000 });
  await expect(findings.getByText('UVs at island borders are smoothed away')).toBeVisible();
  const islands = findings.getByRole('img', { name: 'Borders of UV islands' });
  await expect(islands.locator('path.bad')).toHaveCount(1);
  const saved = page.waitForEvent('download');
  await findings.getByRole('button', { name: 'Save as PNG' }).click();
  expect((await saved).suggestedFilename()).toBe('uv-islands.png');
  await findings.getByRole('button', { name: 'Try here' }).first().click();
  await expect.poll(async () => (await stateOf(page, 'HA-038')).trials[0]?.state, { timeout: 90_000 }).toBe('done');
  const [trial] = (await stateOf(page, 'HA-038')).trials as { predicted: Effect; measured: Effect }[];
  const gap = trial.measured.figures.find(({ id }) => id === 'gap-area')!;
  expect(gap.after! / gap.before!).toBeLessThan(0.01);
  expect(gap).toEqual(trial.predicted.figures.find(({ id }) => id === 'gap-area'));
});

test('a displacement map is read beside its controls, and its rest level set from it', async ({ page }) => {
  await importDemo(address(), buildPressedComb(), 'HA-039', { width: 64, height: 36, samples: 4 });
  await page.goto(`${address()}/shots/HA-039?panel=scene`);
  await page.getByRole('option', { name: /beeswax/ }).click();
  const map = page.getByRole('region', { name: 'Displacement map' });
  await expect(map.getByText(/It goes both ways, flat at 0.5/)).toBeVisible({ timeout: 30_000 });
  await map.getByRole('button', { name: /Rest level 0.5/ }).click();
  await expect(page.getByRole('region', { name: 'Scene' }).getByText(/1 value set, not kept yet/)).toBeVisible();
  const amplitude = map.getByRole('spinbutton', { name: /From lowest to highest/ });
  await expect(amplitude).toHaveValue('18 mm');
  await amplitude.fill('9');
  await amplitude.press('Enter');
  await expect(page.getByRole('spinbutton', { name: 'Displacement scale' })).toHaveValue('0.009');
});
