/** Several values beside each other, and the region rendered in the browser while a dial moves. */
import { stateOf } from './state.ts';
import { violationsOf } from './accessible.ts';
import { expect, type Page, test } from './dusting.ts';
import { unpackPicture } from '../../core/picture/planes.ts';
import { PLAIN_VIEW, viewColour } from '../../core/picture/view.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;
const REGION = { x: 200, y: 120, width: 48, height: 40 };
const query = `region=${Object.values(REGION).join()}`;
const shotState = (page: Page) => stateOf(page, 'HA-010');

test('a dial is swept from where it stands, and one of its values kept and taken back', async ({ page }) => {
  test.setTimeout(180_000);
  await page.goto(`${address()}/shots/HA-010?panel=sheets&${query}`);
  const sheets = page.getByRole('region', { name: 'Sheets' });
  await sheets.locator('[data-dial="/extraSamples/light"]').hover();
  await sheets.getByRole('button', { name: 'Sweep light samples' }).click();
  const dialog = page.getByRole('dialog', { name: 'Sweep light samples' });
  const values = dialog.getByRole('textbox');
  await expect(values).toHaveValue('2, 4, 8');
  await values.fill('2, many');
  await expect(dialog.getByRole('status')).toHaveText('“many” is not a number.');
  await expect(dialog.getByRole('button', { name: /^Render/ })).toBeDisabled();
  await values.fill('2, 4');
  await expect(dialog.getByRole('status')).toContainText(
    '3 renders of the region, 48 × 40 pixels, by the preview sheet',
  );
  await dialog.getByRole('button', { name: 'Render 2 values' }).click();

  const cells = page.getByRole('listbox', { name: 'Steps of Light samples' });
  await expect(cells.getByRole('option')).toHaveText([/^1\s*now/, /^2/, /^4/]);
  await expect(page).toHaveURL(/sweep=\d+/);
  const four = cells.getByRole('option', { name: '4' });
  await four.click();
  const keep = page.getByRole('button', { name: 'Keep 4 …' });
  await expect(keep).toBeEnabled({ timeout: 120_000 });
  await expect(four).toContainText(/noise \d+\.\d/);
  await expect(four).toContainText(/rays × \d\.\d\d/);
  expect(await violationsOf(page)).toEqual([]);

  // By the keyboard to the step before, compared at full size, and back to the sheet.
  await cells.focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/trial \d+: before \| after/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(cells).toBeVisible();

  await four.click();
  await keep.click();
  await page.getByRole('button', { name: 'Keep in both sheets' }).click();
  await expect.poll(async () => (await shotState(page)).document.sheets.final.extraSamples.light).toBe(4);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.locator('.viewport').click();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await shotState(page)).document.sheets.final.extraSamples.light).toBe(1);
});

/** Display bytes of a canvas, of the region alone. */
const bytesOf = (page: Page, selector: string, { x, y, width, height }: typeof REGION): Promise<number[]> =>
  page.evaluate(
    ({ name, u, v, w, h }) => {
      const canvas = document.querySelector<HTMLCanvasElement>(name)!;
      return [...canvas.getContext('2d')!.getImageData(u, v, w, h).data];
    },
    { name: selector, u: x, v: y, w: width, h: height },
  );
const differing = (a: number[], b: number[]) => a.filter((value, i) => Math.abs(value - b[i]) > 1).length;

test('the region is rendered in the browser as the server renders it, and again while a dial moves', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const made = await page.request.post(`${address()}/api/shots/HA-010/renders`, { data: { sheet: 'preview', region: REGION } }); // prettier-ignore
  const { id } = (await made.json()) as { id: number };
  await page.goto(`${address()}/shots/HA-010?panel=sheets&${query}`);
  const state = async () => (await shotState(page)).renders.find((r: { id: number }) => r.id === id).state as string;
  await expect.poll(state, { timeout: 120_000 }).toBe('done');
  await page.locator('.viewport').click();
  await page.keyboard.press('e');
  const told = page.locator('.region.live');
  await expect(told).toHaveText(/live · 32 samples · noise/, { timeout: 60_000 });
  const whole = { ...REGION, x: 0, y: 0 };
  const now = await bytesOf(page, '.part canvas', whole);
  const answer = await page.request.get(`${address()}/api/renders/${id}/picture?passes=beauty`);
  const { picture } = unpackPicture(new Uint8Array(await answer.body()).buffer);
  const rendered = new Uint8ClampedArray(now.length);
  const [r, g, b] = picture.channels.values();
  viewColour(r, g, b, PLAIN_VIEW, rendered);
  // Engines may differ in the last bit of a sine, which can send a path elsewhere.
  expect(differing(now, [...rendered]) / now.length).toBeLessThan(0.01);

  // Whatever it stands at, to the left end of it everything is darker.
  const name = page.locator('[data-dial="/limits/overall"] .scrub');
  await name.hover();
  await page.mouse.down();
  const box = (await name.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2 - 400, box.y + 5, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole('region', { name: 'Sheets' }).getByRole('status')).toHaveText(/1 value set/);
  await expect(page.locator('canvas[data-first-pixels]')).toHaveAttribute('data-first-pixels', /^\d+$/);
  await expect(told).toHaveText(/live · 32 samples · noise/, { timeout: 60_000 });
  expect(differing(await bytesOf(page, '.part canvas', whole), now) / now.length).toBeGreaterThan(0.02);

  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(told).toHaveText(/live · 32 samples · noise/, { timeout: 60_000 });
  await expect
    .poll(async () => differing(await bytesOf(page, '.part canvas', whole), now), { timeout: 60_000 })
    .toBe(0);
  await page.keyboard.press('e');
  await expect(told).toHaveCount(0);
});
