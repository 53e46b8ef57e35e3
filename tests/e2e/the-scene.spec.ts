/** Controls of the scene in a browser: found by a word, set, kept, taken back; data passes on screen. */
import { stateOf } from './state.ts';
import { violationsOf } from './accessible.ts';
import { expect, type Page, test } from './dusting.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;
const shotState = (page: Page) => stateOf(page, 'HA-010');

test('a light is found by a word, its intensity set and kept, and undone from the keyboard', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010?panel=scene`);
  const scene = page.getByRole('region', { name: 'Scene' });
  await scene.getByRole('textbox', { name: /Find an item or a control/ }).fill('window');
  await scene
    .getByRole('option', { name: /window/ })
    .first()
    .click();
  const intensity = scene.getByRole('spinbutton', { name: 'Intensity' });
  await expect(intensity).toHaveValue('1');
  await intensity.fill('2.5');
  await intensity.press('Enter');
  await expect(scene.getByRole('status')).toHaveText(/1 value set, not kept yet/);
  await scene.getByRole('button', { name: 'Keep untried' }).click();
  await expect.poll(async () => (await shotState(page)).document.lights.window.intensity).toBe(2.5);
  await page.locator('.frame').click();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await shotState(page)).document.lights.window.intensity).toBe(1);
});

test('a control is found by what it does, and the page stays accessible', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010?panel=scene`);
  const scene = page.getByRole('region', { name: 'Scene' });
  await scene.getByRole('textbox', { name: /Find an item or a control/ }).fill('shadow distance');
  await scene
    .getByRole('option', { name: /window/ })
    .first()
    .click();
  await expect(scene.locator('.found')).toHaveText([/Shadow distance/]);
  expect(await violationsOf(page)).toEqual([]);
  await scene.getByRole('textbox', { name: /Find an item or a control/ }).fill('nothing like this');
  await scene.getByRole('button', { name: /Lights/ }).click();
  await expect(scene).toContainText('Nothing in the scene matches');
});

test('a dial of the sheets is found by a word, and can be switched off where it may', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010?panel=sheets`);
  const sheets = page.getByRole('region', { name: 'Sheets' });
  await sheets.getByRole('textbox', { name: /Find a control/ }).fill('firefl');
  const clamp = sheets.getByRole('spinbutton', { name: 'Indirect clamp, preview' });
  await expect(clamp).toHaveAttribute('placeholder', 'off');
  await clamp.fill('4');
  await clamp.press('Enter');
  await expect(sheets.getByRole('status')).toHaveText(/1 value set/);
  await clamp.fill('');
  await clamp.press('Enter');
  await expect(sheets.getByRole('status')).toHaveCount(0);
});

test('data passes are on screen: objects in flat colours, told by name', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010?pass=object`);
  const canvas = page.locator('.frame canvas').first();
  const colours = () =>
    canvas.evaluate((c: HTMLCanvasElement) => {
      const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
      const seen = new Set<number>();
      for (let i = 0; i < data.length; i += 4) seen.add((data[i] << 16) | (data[i + 1] << 8) | data[i + 2]);
      return seen.size;
    });
  await expect.poll(colours, { timeout: 60_000 }).toBeGreaterThan(10);
  expect(await colours()).toBeLessThan(80);
  const box = (await canvas.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.1, box.y + box.height * 0.1);
  await expect(page.locator('.bar').filter({ hasText: 'Exposure' })).toContainText('back wall', { timeout: 10_000 });
});

test('glass tells what it lets through, and takes the colour that is wished for', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010?panel=scene&item=/materials/glass`);
  const tint = page.getByRole('region', { name: 'Tint of this glass' });
  const shares = tint.getByRole('list', { name: 'What gets through, by channel' });
  await expect(shares).toContainText(/green 90 %/);
  const bodies = tint.getByRole('spinbutton', { name: 'Bodies of glass in a row' });
  await bodies.fill('20');
  await bodies.blur();
  await expect(shares).toContainText(/green 2\d %/);
  await expect(tint).toContainText(/No glass of this index lets so much through/);
  await bodies.fill('2');
  await bodies.blur();
  await tint.getByRole('button', { name: 'Set the base colour' }).click();
  await expect(shares).toContainText('green 70 %');
  await expect(page.getByText('1 value set, not kept yet')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Discard' }).click();
});
