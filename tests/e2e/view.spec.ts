/** Looking in a browser: a picture that OpenImageIO wrote is brought in, walked, lifted, probed, compared; a sequence is played. */
import { violationsOf } from './accessible.ts';
import { expect, type Page, test } from './dusting.ts';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { srgbFromLinear } from '../../core/data/colour.ts';
import { createPicture } from '../../core/data/picture.ts';
import { readExrHeader } from '../../core/formats/exr/header.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { randomNumbers } from '../unit/size.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;
const folder = mkdtempSync(join(tmpdir(), 'dusting-look-'));
const frames = join(import.meta.dirname, '../../demo/ha-020/frames');
const names = ['R', 'G', 'B', 'A', ...['diffuse', 'specular', 'transmission', 'emission', 'albedo'].flatMap((layer) => ['R', 'G', 'B'].map((c) => `${layer}.${c}`)), 'N.X', 'N.Y', 'N.Z', 'Z', 'error.beauty']; // prettier-ignore
/** Of the whole picture, and of a box in its middle; a corner is below 0. All are exact halves. */
const plain = names.map((_, i) => 0.125 + i / 64);
const box = names.map((_, i) => 0.5 + i / 16);

test.beforeAll(() => {
  const oiio = (...args: string[]) => execFileSync('oiiotool', args, { cwd: folder });
  const make = (name: string, inBox: number[]) =>
    oiio('--create', '96x54', String(names.length), `--fill:color=${plain.join()}`, '96x54', `--fill:color=${inBox.join()}`, '32x18+32+18', `--fill:color=${plain.map(() => -0.5).join()}`, '4x4+0+0', '--chnames', names.join(), '-d', 'half', '--compression', 'zip', '-o', name); // prettier-ignore
  make('mixed.exr', box);
  make('other.exr', box.map((v) => v * 2)); // prettier-ignore
});
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

const stage = (page: Page) => page.locator('.viewport canvas').first();
const bring = (page: Page, ...files: string[]) => page.getByLabel('Import pictures').setInputFiles(files);
/** One of a list, by its name. */
async function choose(page: Page, list: string, name: string): Promise<void> {
  await page.getByRole('combobox', { name: list }).click();
  await page.getByRole('option', { name, exact: true }).click();
}
/** Display bytes of the canvas at a share of its width and height. */
const seen = (page: Page, x: number, y: number): Promise<number[]> =>
  stage(page).evaluate((canvas: HTMLCanvasElement, [u, v]) => [...canvas.getContext('2d')!.getImageData(Math.floor(canvas.width * u), Math.floor(canvas.height * v), 1, 1).data], [x, y]); // prettier-ignore
const shown = (...linear: number[]) => [...linear.map((v) => Math.round(255 * srgbFromLinear(Math.min(1, v)))), 255];

test.describe.configure({ mode: 'serial' });

test('a picture with 24 channels comes in, and its pixels are the file’s', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010/look`);
  await bring(page, join(folder, 'mixed.exr'));
  await expect(stage(page)).toHaveAttribute('aria-label', 'beauty of mixed.exr');
  await expect.poll(() => seen(page, 0.5, 0.5)).toEqual(shown(box[0], box[1], box[2]));
  await page.getByRole('tab', { name: 'Probe' }).click();
  const bounds = (await page.locator('.viewport').boundingBox())!;
  await page.mouse.move(bounds.x + bounds.width / 2 + 2, bounds.y + bounds.height / 2 + 2);
  const probe = page.getByRole('region', { name: 'Probe' });
  await expect(probe.getByRole('row', { name: /^beauty/ })).toContainText('0.500  0.563  0.625  0.688');
  await expect(probe.getByRole('row', { name: /^transmission/ })).toContainText(box.slice(10, 13).map((v) => v.toPrecision(3)).join('  ')); // prettier-ignore
  await expect(probe.getByRole('row', { name: /^Z/ })).toContainText(box[22].toPrecision(3));
  await page.keyboard.press('h');
  await page.mouse.move(bounds.x + 2, bounds.y + 2);
  await expect(probe.getByRole('row', { name: /^Z/ })).toContainText(box[22].toPrecision(3));
});

test('exposure, offset, channels and transforms change pixels as their formulas say', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010/look?mode=one`);
  await expect.poll(() => seen(page, 0.5, 0.2)).toEqual(shown(plain[0], plain[1], plain[2]));
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await expect.poll(() => seen(page, 0.5, 0.2)).toEqual(shown(...plain.slice(0, 3).map((v) => v * 2)));
  await expect(page).toHaveURL(/exposure=1/);
  await page.keyboard.press('l');
  const lifted = plain.slice(0, 3).map((v) => Math.round(255 * srgbFromLinear(Math.min(1, v * 4)) ** 0.8));
  await expect.poll(() => seen(page, 0.5, 0.2)).toEqual([...lifted, 255]);
  await page.keyboard.press('0');
  await page.keyboard.press('o');
  await expect.poll(() => seen(page, 0.5, 0.2)).toEqual(shown(plain[0], plain[0], plain[0]));
  await page.keyboard.press('0');
  await choose(page, 'View transform', 'None');
  await expect.poll(() => seen(page, 0.5, 0.2)).toEqual([...plain.slice(0, 3).map((v) => Math.round(255 * v)), 255]);
});

test('its passes are walked from the keyboard, beside each other and large', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010/look`);
  await expect(stage(page)).toHaveAttribute('aria-label', 'beauty of mixed.exr');
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('.layers [aria-selected=true]')).toHaveText('diffuse');
  await expect.poll(() => seen(page, 0.5, 0.5)).toEqual(shown(box[4], box[5], box[6]));
  await page.keyboard.press('a');
  await expect(page.locator('.viewport canvas')).toHaveCount(6);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.locator('.viewport canvas')).toHaveCount(1);
  await expect(stage(page)).toHaveAttribute('aria-label', /^emission of/);
});

test('its health is read, and where something is wrong is hatched', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010/look?panel=health`);
  const health = page.getByRole('region', { name: 'Health' });
  const finding = health.locator('.findings li', { hasText: 'go below 0' });
  await expect(finding).toContainText('down to -0.500 in 16 pixels');
  await expect(health.locator('.findings li', { hasText: 'do not add up to the beauty' })).toBeVisible();
  await expect.poll(() => seen(page, 0.5, 0.5)).toEqual(shown(box[0], box[1], box[2]));
  const corner = () =>
    stage(page).evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      let hatched = 0;
      for (let i = 0; i < data.length; i += 4)
        if (data[i] === 214 && data[i + 1] === 220 && data[i + 2] === 92) hatched++;
      return hatched;
    });
  expect(await corner()).toBe(0);
  await finding.getByRole('button', { name: 'Show where' }).click();
  await expect.poll(corner).toBeGreaterThan(20);
  expect(await seen(page, 0.5, 0.5), 'elsewhere the picture is as it was').toEqual(shown(box[0], box[1], box[2]));
});

test('it is held against another one: wiped, subtracted, measured', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010/look`);
  await bring(page, join(folder, 'other.exr'));
  await expect(stage(page)).toHaveAttribute('aria-label', 'beauty of other.exr');
  await page
    .getByRole('listitem')
    .filter({ hasText: 'mixed.exr' })
    .getByRole('button', { name: 'Compare', exact: true })
    .click();
  const compare = page.getByRole('region', { name: 'Compare' });
  // 576 of 5,184 pixels differ by the box's own values: √(mean square over three channels / 9).
  const rmse = Math.sqrt((box[0] ** 2 + box[1] ** 2 + box[2] ** 2) / 3 / 9);
  await expect(compare.locator('dd').first()).toHaveText(rmse.toPrecision(3));
  await expect(page.getByRole('slider', { name: /^Wipe/ })).toBeVisible();
  // In a region inside the box every pixel differs by its values.
  await page.keyboard.press('g');
  const middle = await stage(page).evaluate((canvas) => {
    const { x, y, width, height } = canvas.getBoundingClientRect();
    return { x: x + width / 2, y: y + height / 2 };
  });
  await page.mouse.move(middle.x - 20, middle.y - 20);
  await page.mouse.down();
  await page.mouse.move(middle.x + 20, middle.y + 20);
  await page.mouse.up();
  await expect(compare.locator('dd').first()).toHaveText((3 * rmse).toPrecision(3));
  await compare.getByRole('button', { name: 'Whole frame' }).click();
  await expect(compare.locator('dd').first()).toHaveText(rmse.toPrecision(3));
  await page.keyboard.press('d');
  await expect.poll(() => seen(page, 0.5, 0.5)).toEqual(shown(box[0], box[1], box[2]));
  await expect.poll(() => seen(page, 0.5, 0.2)).toEqual([0, 0, 0, 255]);
  await choose(page, 'Kind of difference', 'In stops');
  // The box of B is a stop darker, less the floor that keeps black from dividing: just below half of two stops, in blue.
  await expect.poll(() => seen(page, 0.5, 0.5)).toEqual([35, 65, 127, 255]);
  await page.keyboard.press('Shift+D');
  await expect(page.locator('.viewport canvas')).toHaveCount(2);
});

test('a view is named, and comes back from its own address', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010/look?exposure=1.5&layer=diffuse&panel=looks`);
  await expect(stage(page)).toHaveAttribute('aria-label', /^diffuse of/);
  await page.getByLabel('Save this view as').fill('the box, lifted');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const kept = page.locator('.looks li', { hasText: 'the box, lifted' });
  await expect(kept).toContainText('diffuse, 1.5 stops');
  await page.goto(`${address()}/shots/HA-010/look?panel=looks`);
  await kept.getByRole('button', { name: 'Show' }).click();
  await expect(stage(page)).toHaveAttribute('aria-label', /^diffuse of/);
  await expect(page.getByLabel('Exposure')).toHaveValue('1.5 stops');
});

test('an upload goes on after a reload, and a file that cannot be read says why', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010/look`);
  await page.route('**/pictures?name=*', (route) => route.abort());
  await bring(page, ...[1001, 1002, 1007].map((frame) => join(frames, `lantern-push.${frame}.exr`)));
  await expect(page.locator('.sending')).toContainText('lantern-push.1001.exr and 2 more');
  await page.unroute('**/pictures?name=*');
  await page.reload();
  await expect(page.getByRole('listitem').filter({ hasText: 'lantern-push.####.exr' })).toContainText('3 frames, 4 missing, 1 cut short'); // prettier-ignore
  await page.getByLabel('Import pictures').setInputFiles({ name: 'torn.exr', mimeType: 'image/x-exr', buffer: Buffer.from('torn') }); // prettier-ignore
  await expect(page.getByRole('alert').first()).toContainText(
    'torn.exr: at byte 0: does not begin as an EXR file does',
  );
});

test('a sequence is stepped through and charted, its gaps named', async ({ page }) => {
  await page.goto(`${address()}/shots/HA-010/look?panel=frames`);
  await page.getByRole('listitem').filter({ hasText: 'lantern-push' }).getByRole('button').first().click();
  const panel = page.getByRole('region', { name: 'Frames' });
  await expect(panel).toContainText('Frames 1003, 1004, 1005, 1006 are missing.');
  await expect(panel).toContainText('Frame 1007 is cut short: 3 chunks are missing.');
  await expect(stage(page)).toHaveAttribute('aria-label', /lantern-push\.1001/);
  await page.keyboard.press('ArrowRight');
  await expect(stage(page)).toHaveAttribute('aria-label', /lantern-push\.1002/);
  await panel.getByRole('button', { name: 'Measure flicker' }).click();
  await expect(panel).toContainText(/Where nothing moves .* of its noise is new each time/);
  await page.keyboard.press(' ');
  await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
  await page.keyboard.press(' ');
});

test('light groups are set against each other and kept, and a render of ours is looked at in the same way', async ({
  page,
}) => {
  await page.goto(`${address()}/shots/HA-010/look?panel=lights`);
  await page.getByRole('listitem').filter({ hasText: 'lantern-push' }).getByRole('button').first().click();
  const lights = page.getByRole('region', { name: 'Lights' });
  await lights.locator('.group', { hasText: 'flame' }).getByRole('button', { name: 'Mute' }).click();
  await lights.getByRole('button', { name: 'Save with the shot' }).click();
  await expect.poll(async () => (await (await page.request.get(`${address()}/api/shots/HA-010/pictures`)).json()).balance).toEqual({ lg_flame: { stops: 0, isMuted: true } }); // prettier-ignore
  await page.getByRole('listitem').filter({ hasText: /Version \d/ }).getByRole('button').first().click(); // prettier-ignore
  await expect(stage(page)).toHaveAttribute('aria-label', /^Beauty of Version/);
  await expect(page.locator('.layers')).toContainText('Transmission direct');
  // Every pass of it goes out again as a file.
  const href = await page.getByRole('link', { name: 'Save as EXR' }).first().getAttribute('href');
  const bytes = new Uint8Array(await (await page.request.get(`${address()}${href}`)).body());
  const [part] = readExrHeader(bytes, 'saved.exr').parts;
  const channels = part.channels.map(({ name }) => name);
  expect(channels).toEqual(expect.arrayContaining(['R', 'diffuse.direct.G', 'error.beauty', 'crypto_object00.R']));
  expect(Number(part.attributes['dusting/samples'])).toBeGreaterThanOrEqual(4);
});

test('causes of a picture are found, and its plan is in numbers once its samples are known', async ({ page }) => {
  const random = randomNumbers(5);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const noisy = createPicture(160, 100, ['', 'diffuse.', 'refraction.'].flatMap((layer) => [...'RGB'].map((c) => layer + c))); // prettier-ignore
  for (let i = 0; i < 160 * 100; i++) {
    const [diffuse, refraction] = [0.1 + 0.02 * normal(), 0.05 + 0.002 * normal()];
    for (const c of 'RGB') {
      noisy.channels.get(`diffuse.${c}`)![i] = diffuse;
      noisy.channels.get(`refraction.${c}`)![i] = refraction;
      noisy.channels.get(c)![i] = diffuse + refraction;
    }
  }
  writeFileSync(join(folder, 'noisy.exr'), writeExr(noisy, { deflate: deflateSync, display: noisy }));
  await page.goto(`${address()}/shots/HA-010/look`);
  await bring(page, join(folder, 'noisy.exr'));
  await expect(stage(page)).toHaveAttribute('aria-label', 'beauty of noisy.exr');
  await page.getByRole('tab', { name: 'Causes' }).click();
  const causes = page.getByRole('region', { name: 'Causes' });
  await expect(causes).toContainText(
    /Noise \d+\.\d of 255 in the midtones with shadows boosted; diffuse carries \d+ % of it/,
  );
  await expect(causes).toContainText('texture as fine as a pixel is taken for noise');
  const all = causes.getByRole('listitem').filter({ hasText: '× the samples of everything' });
  await expect(all).toHaveText(/everything noise [\d.]+ → 2\.0 of 255/);
  await page.getByRole('tab', { name: 'Health' }).click();
  await page.getByLabel('Samples per pixel').fill('64');
  // What is typed stays while others change the shot.
  const balance = page.waitForResponse((response) => response.url().endsWith('/pictures'));
  await page.request.put(`${address()}/api/shots/HA-010/balance`, { data: { key: { stops: 1, isMuted: false } } });
  await balance;
  await expect(page.getByLabel('Samples per pixel')).toHaveValue('64');
  await page.getByLabel('Samples per pixel').press('Enter');
  await page.getByRole('tab', { name: 'Causes' }).click();
  await expect(all).toHaveText(/everything: samples 64 → \d{3,} noise/);
  // In the dials of the renderer that the shot is for, which is chosen at intake.
  const choose = (target: string | null) => page.request.post(`${address()}/api/shots/HA-010/profiles`, { data: { show: null, target } }); // prettier-ignore
  expect((await choose('Heron')).ok()).toBe(true);
  await page.reload();
  await expect(all).toHaveText(/everything: camera paths 64 → \d{3,} noise/);
  await choose(null);
});

test('the page stays accessible', async ({ page }) => {
  for (const panel of ['health', 'compare', 'frames']) {
    await page.goto(`${address()}/shots/HA-010/look?panel=${panel}`);
    await expect(stage(page)).toBeVisible();
    expect(await violationsOf(page)).toEqual([]); // prettier-ignore
  }
});
