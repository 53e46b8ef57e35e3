/** A place of the picture is asked what lights it; a missing shadow is told, set right and seen to be there, before anything is kept. */
import { violationsOf } from './accessible.ts';
import { expect, test } from './dusting.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { zipped } from './zipped.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;

test('a missing shadow is asked about where it should fall, and is back once its setting is put right', async ({
  page,
}) => {
  const shot = await smallShot('LIGHT-1');
  shot.document.lights.window.castsShadows = false;
  const buffer = await zipped(filesOf(shot));
  await page.request.post(`${address()}/api/shots`, { multipart: { files: { name: 'shot.zip', mimeType: 'application/zip', buffer } } }); // prettier-ignore
  await page.goto(`${address()}/shots/LIGHT-1?panel=light`);
  const panel = page.getByRole('region', { name: 'Light here' });
  await expect(panel).toContainText('What lights a place, and why is there no shadow?');
  const canvas = page.locator('.frame canvas').first();
  await expect(canvas).toBeVisible();
  const box = (await canvas.boundingBox())!;
  const at = { x: box.x + (77.5 / 96) * box.width, y: box.y + (56.5 / 64) * box.height };
  await page.mouse.move(at.x, at.y);
  await expect(page.locator('.bar').filter({ hasText: 'Exposure' })).toContainText(/\d\.\d/, { timeout: 60_000 });
  await page.mouse.click(at.x, at.y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'What lights this?' }).click();
  await expect(panel).toContainText('The shadow of pane 0, pane 1 and pane 2 by window is missing: window casts no shadows.', { timeout: 30_000 }); // prettier-ignore
  await expect(page).toHaveURL(/at=77(%2C|,)56/);
  expect(await violationsOf(page)).toEqual([]);

  await panel.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(panel).toContainText(/In the shadow of pane|gets past pane/);
  await expect(panel).not.toContainText('is missing');
  const state = await (await page.request.get(`${address()}/api/shots/LIGHT-1`)).json();
  expect(state.head.number, 'nothing is kept yet').toBe(1);

  // A harder edge, by the size of the light: width, height and intensity, so that it stays as bright. Of a smaller light another pane
  // holds back most, so that it is about what was asked for: from more than two metres to little more than half of one.
  const edge = panel.getByRole('spinbutton', { name: 'Edge of the shadow of window here, millimetres' });
  await edge.fill('500');
  await edge.press('Enter');
  await edge.blur();
  await expect(panel).toContainText('Of version 1 with 4 values set');
  await expect(edge).toHaveValue(/^[4-7]\d\d mm$/);

  // From the keyboard, at another place; and from its address.
  await page.mouse.move(box.x + 0.1 * box.width, box.y + 0.1 * box.height);
  await page.keyboard.press('Shift+L');
  await expect(panel).toContainText(/Lit by .*window \(5\d %\)/);
  await page.reload();
  await expect(panel).toContainText(/Lit by .*window \(5\d %\)/);
});

test('a region is asked, and the environment turned while it is told what the place gets', async ({ page }) => {
  const shot = await smallShot('LIGHT-2');
  shot.document.lights.window.castsShadows = false;
  Object.assign(shot.document.environment, { kind: 'daylight', intensity: 0.002 });
  const buffer = await zipped(filesOf(shot));
  await page.request.post(`${address()}/api/shots`, { multipart: { files: { name: 'shot.zip', mimeType: 'application/zip', buffer } } }); // prettier-ignore
  await page.goto(`${address()}/shots/LIGHT-2?panel=light&region=60,40,30,20`);
  const panel = page.getByRole('region', { name: 'Light here' });
  await panel.getByRole('button', { name: 'Ask about the region' }).click();
  await expect(panel).toContainText(/On \d+ % of it a shadow of window is missing\./, { timeout: 30_000 });
  const row = panel.getByRole('row').filter({ hasText: 'Window' });
  await expect(row).toContainText(/missing on \d+ %/);
  await expect(panel).toContainText('Most telling point:');
  await expect(page).toHaveURL(/at=region/);
  expect(await violationsOf(page)).toEqual([]);

  const rotation = panel.getByRole('spinbutton', { name: 'Rotation of the environment, degrees' });
  await rotation.fill('90');
  await rotation.press('Enter');
  await rotation.blur();
  await expect(panel).toContainText('Of version 1 with 1 value set');
  await expect(rotation).toHaveValue('90°');
  // Back to the place alone: there is none yet, and it is told how one is chosen.
  await panel.getByRole('button', { name: 'Place', exact: true }).click();
  await expect(panel).toContainText('What lights a place, and why is there no shadow?');
  await page.reload();
  await panel.getByRole('button', { name: 'Ask about the region' }).click();
  await expect(panel).toContainText('Region of');
});

test('preview shadows stand beside the traced ones, are fitted, and say why they are wrong while they are turned', async ({ page }) => {
  const buffer = await zipped(filesOf(await smallShot('LIGHT-3')));
  await page.request.post(`${address()}/api/shots`, { multipart: { files: { name: 'shot.zip', mimeType: 'application/zip', buffer } } }); // prettier-ignore
  await page.goto(`${address()}/shots/LIGHT-3?panel=light`);
  const maps = page.getByRole('region', { name: 'Preview shadows' });
  await maps.getByRole('button', { name: 'Compare with traced' }).click();
  await maps.getByRole('button', { name: 'Keep them in the shot' }).click({ timeout: 30_000 });
  const distance = maps.getByRole('spinbutton', { name: 'Map distance' });
  await expect(maps.getByRole('button', { name: 'Fit to this camera' })).toBeDisabled();
  await distance.fill('0.1');
  await distance.blur();
  await expect(maps.getByRole('list', { name: 'Why it is wrong' })).toContainText('beyond the map’s distance');
  await expect(maps.getByRole('status')).toContainText(/\d % lacks its shadow/);
  expect(await violationsOf(page)).toEqual([]);
  await maps.getByRole('button', { name: 'Fit to this camera' }).click();
  await expect(maps.getByText('beyond the map’s distance')).toHaveCount(0);
  await maps.getByRole('button', { name: 'Remove from the shot' }).click();
  await expect(maps.getByRole('button', { name: 'Keep them in the shot' })).toBeVisible();
}); // prettier-ignore

test('occlusion is drawn at any distance, and the one that tells most is set', async ({ page }) => {
  await page.goto(`${address()}/shots/LIGHT-3?panel=light`);
  const occlusion = page.getByRole('region', { name: 'Occlusion by distance' });
  await occlusion.getByRole('button', { name: 'Find the distance' }).click();
  await expect(occlusion.getByRole('status')).toContainText(/bits a place, most from/, { timeout: 30_000 });
  const slider = occlusion.getByRole('slider', { name: 'Occlusion distance, logarithmic' });
  const said = await occlusion.getByRole('status').textContent();
  await slider.focus();
  await page.keyboard.press('Home');
  await expect(occlusion.getByRole('status')).not.toHaveText(said!);
  await occlusion.getByRole('button', { name: /tells most$/ }).click();
  await occlusion.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(occlusion.getByRole('button', { name: 'Set', exact: true })).toBeDisabled();
  expect(await violationsOf(page)).toEqual([]);
  await expect(page.getByRole('button', { name: 'Close' })).toBeVisible();
});
