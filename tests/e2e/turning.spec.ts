/** Lights added over a point, turned, deleted and taken back; frames rendered and played; the history gone back in. */
import { violationsOf } from './accessible.ts';
import { expect, importJarShelf, type Page, test } from './dusting.ts';
import { stateOf } from './state.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;
const shotState = (page: Page) => stateOf(page, 'HA-010');
const scene = (page: Page) => page.getByRole('region', { name: 'Scene' });

test.describe.configure({ mode: 'serial' });

test('a light is added over a point of the picture, turned, and what is set survives a reload', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010`);
  const canvas = page.locator('.frame canvas').first();
  await expect(canvas).toBeVisible();
  const box = (await canvas.boundingBox())!;
  const at = { x: box.x + box.width * 0.1, y: box.y + box.height * 0.15 };
  await page.mouse.move(at.x, at.y);
  await expect(page.locator('.bar').filter({ hasText: 'Exposure' })).toContainText(/\d\.\d/, { timeout: 20_000 });
  await page.mouse.click(at.x, at.y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Add light here' }).hover();
  await page.getByRole('menuitem', { name: 'Spot' }).click();
  await expect.poll(async () => Object.keys((await shotState(page)).document.lights)).toContain('spot-light');
  const { transform } = (await shotState(page)).document.lights['spot-light'];
  // Over a wall that faces the camera: it shines away from where the camera stands.
  expect(transform[10]).toBeGreaterThan(0.9);
  const height = scene(page).getByRole('spinbutton', { name: 'Position, Y' });
  await expect(height).not.toHaveValue('');
  await height.fill('0.75');
  await height.press('Enter');
  await expect(scene(page).getByRole('status')).toContainText('1 value set, not kept yet');
  await page.reload();
  await expect(scene(page).getByRole('status')).toContainText('1 value set, not kept yet');
  await scene(page).getByRole('button', { name: 'Keep untried' }).click();
  await expect.poll(async () => (await shotState(page)).document.lights['spot-light'].transform[13]).toBe(0.75);
  await expect(scene(page).getByRole('status')).toHaveCount(0);
});

test('the history tells it in words, and a version is named and gone back to', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010?panel=history`);
  const history = page.getByRole('region', { name: 'History' });
  await expect(history).toContainText(/spot light, Position: .* → .*0\.75/);
  await expect(history).toContainText('spot light: new light');
  expect(await violationsOf(page)).toEqual([]);
  await history.getByRole('button', { name: 'More about version 1' }).first().click();
  await page.getByRole('menuitem', { name: 'Name …' }).click();
  await history.getByRole('textbox', { name: 'Name of version 1' }).fill('as it came');
  await page.keyboard.press('Enter');
  await expect(history).toContainText('as it came');
  const before = (await shotState(page)).document;
  await history.getByRole('button', { name: 'More about version 1' }).last().click();
  await page.getByRole('menuitem', { name: 'Go back to version 1' }).click();
  await expect(history).toContainText('Back to version 1, as it came');
  expect(Object.keys((await shotState(page)).document.lights)).not.toContain('spot-light');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await shotState(page)).document).toEqual(before);
});

test('a light is deleted with a question where something is told of it, and comes back by undo', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010?panel=scene&item=/lights/spot-light`);
  await scene(page).getByRole('button', { name: 'More about spot light' }).click();
  await page.getByRole('menuitem', { name: 'Delete …' }).click();
  await expect.poll(async () => Object.keys((await shotState(page)).document.lights)).not.toContain('spot-light');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => Object.keys((await shotState(page)).document.lights)).toContain('spot-light');
  // Of two undos the second takes the light's move back.
  await page.goto(`${address()}/shots/HA-010?panel=scene&item=/cameras/shelf`);
  await scene(page)
    .getByRole('button', { name: /^More about/ })
    .click();
  await page.getByRole('menuitem', { name: 'Delete …' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'no other camera' })).toBeVisible();
});

test('frames are named, rendered as one, and played', async ({ page }) => {
  await importJarShelf(address(), 'HA-018', { samples: 4, width: 96, height: 54 });
  await page.goto(`${address()}/shots/HA-018?panel=scene&item=/frame`);
  await scene(page).getByRole('button', { name: 'Render frames …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Render frames' });
  const list = dialog.getByRole('textbox');
  await list.fill('1002-1001');
  await expect(dialog.getByRole('status')).toHaveText(/ends before it begins/);
  await list.fill('1001-1002');
  await dialog.getByRole('button', { name: 'Render 2 frames' }).click();
  await expect(dialog).toHaveCount(0);
  await page.goto(`${address()}/shots/HA-018/look?panel=frames`);
  const strip = page.getByRole('region', { name: 'Pictures' });
  await expect(strip).toContainText(/Frames, version 1, preview\s*1001-1002, /);
  await strip.getByRole('button', { name: /^Frames, version/ }).click({ timeout: 90_000 });
  await expect(strip.getByRole('group', { name: 'Frames' }).getByRole('button')).toHaveText(['1001', '1002'], { timeout: 90_000 });
  // Frames render together, and whichever has samples first is the one that came up.
  await strip.getByRole('group', { name: 'Frames' }).getByRole('button', { name: '1001' }).click();
  const shown = strip.getByRole('group', { name: 'Frames' }).locator('.on');
  await expect(shown).toHaveText('1001');
  await page.keyboard.press('ArrowRight');
  await expect(shown).toHaveText('1002');
  await expect(page.getByRole('region', { name: 'Frames' })).toContainText('All frames are there and whole', { timeout: 90_000 });
}); // prettier-ignore

test('the stage shows the scene from outside: what is clicked there is chosen, and handles move it', async ({
  page,
}) => {
  await page.goto(`${address()}/shots/HA-010?panel=scene&item=/lights/spot-light&stage=1`);
  const stage = page.getByRole('region', { name: 'Stage' });
  await expect(stage).toHaveAttribute('aria-busy', 'false', { timeout: 30_000 });
  await expect(stage.getByRole('alert')).toHaveCount(0);
  await expect(stage).toContainText('spot light');
  // Surfaces are shown in other ways, with their seams, and before they are subdivided; nothing of it fails.
  await stage.getByRole('combobox', { name: 'Surfaces as' }).click();
  await page.getByRole('option', { name: 'printed label' }).click();
  await stage.getByRole('button', { name: 'Seams' }).click();
  await stage.getByRole('button', { name: 'Base mesh' }).click();
  await expect(stage.getByRole('button', { name: 'Base mesh' })).toHaveAttribute('aria-pressed', 'true');
  await expect(stage.getByRole('alert')).toHaveCount(0);
  await stage.getByRole('combobox', { name: 'Surfaces as' }).click();
  await page.getByRole('option', { name: 'Shaded', exact: true }).click();
  const canvas = stage.locator('canvas');
  const drawn = () => canvas.evaluate((one: HTMLCanvasElement) => one.toDataURL().length);
  expect(await drawn()).toBeGreaterThan(1000);
  const box = (await canvas.boundingBox())!;
  await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.55);
  await expect(stage).not.toContainText('spot light');
  expect(await violationsOf(page)).toEqual([]);
});
