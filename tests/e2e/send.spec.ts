/** A shot made ready to be sent: files brought in, the package tried, the renderer it is for, what the show expects. */
import { readFileSync } from 'node:fs';
import { violationsOf } from './accessible.ts';
import { cancelWork, expect, test, type Page } from './dusting.ts';
import { defaultMap } from '../../core/document/defaults.ts';
import { writePng } from '../../core/formats/png.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { zipped } from './zipped.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;

async function bringIn(page: Page, code: string, change: (shot: Awaited<ReturnType<typeof smallShot>>) => void = () => {}) {
  const shot = await smallShot(code);
  change(shot);
  await page.goto(address());
  const buffer = await zipped(filesOf(shot));
  await page.getByLabel('Import a zip archive, a scene file or pictures').setInputFiles({ name: 'shot.zip', mimeType: 'application/zip', buffer });
  await expect(page).toHaveURL(new RegExp(`shots/${code}`));
} // prettier-ignore
const accessible = async (page: Page) => {
  expect(await violationsOf(page)).toEqual([]);
};

// Each test has a shot of its own, and looks no further than its intake.
test.afterEach(() => cancelWork(address()));

test('a missing file is told by what it does, found among others by name, and the package holds', async ({ page }) => {
  await bringIn(page, 'SEND-1', ({ document }) => {
    document.textures.label = { file: 'textures/label.png', colourSpace: 'srgb' };
    document.maps.label = { ...defaultMap('image'), texture: 'label' };
    document.materials.wall.baseColourMap = 'label';
  });
  await page.goto(`${address()}/shots/SEND-1/intake?section=files`);
  await page.getByRole('row', { name: /textures\/label\.png/ }).click({ timeout: 60_000 });
  await expect(page.getByText('1 thing without its texture; the name of the file stands on it')).toBeVisible();
  await page.getByRole('row', { name: /textures\/label\.png/ }).click({ button: 'right' });
  await expect(page.getByRole('menuitem', { name: 'Copy path' })).toBeVisible();
  await page.getByRole('menuitem', { name: 'Show /wall in the scene' }).click();
  await expect(page).toHaveURL(/panel=scene/);
  await page.goBack();
  await accessible(page);
  await page.getByRole('button', { name: 'As a chain' }).click();
  await page.getByLabel('Find a check, a file or an object').fill('label.png');
  const tree = page.locator('.chain');
  await expect(tree.getByRole('row', { name: /\/wall object/ })).toBeVisible();
  await expect(tree.getByText('missing').first()).toBeVisible();
  await tree.getByRole('row', { name: /\/wall object/ }).click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(tree.locator('tr[aria-selected=true]')).toHaveAttribute('aria-level', '3');
  await accessible(page);
  await page.getByLabel('Find a check, a file or an object').fill('');
  await page.getByLabel('Import files of the shot').setInputFiles({ name: 'LABEL.png', mimeType: 'image/png', buffer: Buffer.from(writePng(1, 1, Uint8Array.of(9, 9, 9))) });
  await expect(page.getByRole('heading', { name: 'Every file can be sent' })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Dry run' }).click();
  await expect(page.getByText(/The package holds: opened alone it renders the same/)).toBeVisible({ timeout: 60_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Download the package' }).click()]);
  expect(readFileSync(await download.path()).subarray(0, 2).toString()).toBe('PK');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('heading', { name: 'One file can’t be sent as it is' })).toBeVisible({ timeout: 60_000 });
}); // prettier-ignore

test('the renderer a shot is for tells what it drops; a trial shows it', async ({ page }) => {
  await bringIn(page, 'SEND-2');
  await page.goto(`${address()}/shots/SEND-2/intake?section=target`);
  await expect(page.getByRole('heading', { name: 'No target renderer chosen' })).toBeVisible({ timeout: 60_000 });
  await page.getByLabel('Target', { exact: true }).click();
  await page.getByRole('option', { name: 'Plover' }).click();
  await expect(page.getByText('Glass is opaque').first()).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('region', { name: 'Dials of the target' })).toContainText('quality');
  await accessible(page);
  await page.getByRole('button', { name: 'See it in a trial' }).click();
  await expect(page).toHaveURL(/trial=/);
  await expect(page.getByText('As Plover has it: material features').first()).toBeVisible();
});

test('what a show expects is written down, compared, given out, and checked against', async ({ page }) => {
  await bringIn(page, 'SEND-3');
  await page.goto(`${address()}/shots/SEND-3/intake`);
  await page.getByRole('button', { name: 'Edit …' }).click({ timeout: 60_000 });
  const dialog = page.getByRole('dialog');
  // The dialog gives focus to its first field once it is open: who types before that types into nothing.
  await expect(dialog.getByLabel('Name', { exact: true })).toBeFocused();
  await dialog.getByLabel('Name', { exact: true }).fill('Pressed comb');
  await dialog.getByLabel('width, pixels').fill('640');
  await dialog.getByLabel('width, pixels').blur();
  const sampling = dialog.getByLabel('samples its pictures are rendered with');
  await sampling.fill('camera samples');
  await sampling.blur();
  await expect(dialog.getByRole('alert')).toHaveText(/line 1 is camera samples, expected a name and a number/);
  await sampling.fill('camera samples, 64');
  await sampling.blur();
  await expect(dialog.getByRole('alert')).toHaveCount(0);
  await dialog.getByLabel('Compare with').click();
  await page.getByRole('option', { name: 'No show' }).click();
  await expect(dialog.getByRole('list', { name: 'Differences' })).toContainText('/width null there, 640 here');
  await accessible(page);
  const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Export' }).click()]);
  expect(JSON.parse(readFileSync(await download.path(), 'utf8'))).toMatchObject({ schema: 'dusting.preflight/1', name: 'Pressed comb', width: 640, sampling: { 'camera samples': 64 } });
  await dialog.getByRole('button', { name: 'Save' }).click();
  const row = page.getByRole('row', { name: /^blocker Resolution/ });
  await expect(row).toBeVisible({ timeout: 60_000 });
  // The same list in which the picture's findings stand leads back here.
  await page.goto(`${address()}/shots/SEND-3`);
  await page.getByRole('option', { name: /^blocker: Resolution/ }).click();
  await page.getByRole('link', { name: 'picture-size' }).click();
  await expect(page).toHaveURL(/intake\?check=picture-size/);
  await expect(row).toBeVisible();
  await page.keyboard.press('Shift+R');
  await expect(row).toHaveCount(0, { timeout: 60_000 });
}); // prettier-ignore

test('a log of an unknown shape is read by a format that is tried on it while it is written', async ({ page }) => {
  await bringIn(page, 'SEND-4');
  await page.goto(`${address()}/shots/SEND-4/intake?section=log`);
  const log = Array.from({ length: 12 }, (_, i) => `${i % 4 ? 'ok' : 'hm'} | step ${i}`).join('\n');
  await page.getByLabel('Import the log of a render').setInputFiles({ name: 'odd.log', mimeType: 'text/plain', buffer: Buffer.from(log) });
  await page.getByRole('button', { name: 'Formats …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('Name', { exact: true })).toBeFocused();
  const format = { schema: 'dusting.log-format/1', name: 'Odd', lines: ['^(?<severity>ok|hm) \\| (?<message>.*)$'], severities: { ok: 'info', hm: 'warning' }, time: 'seconds', memoryUnit: 1, closing: 'step 11' };
  await dialog.getByLabel('Profile as JSON').fill(JSON.stringify({ ...format, lines: ['^(?<severity>ok) '] }));
  await expect(dialog.getByRole('heading', { name: /It reads 9 of the first 12 lines/ })).toBeVisible();
  await dialog.getByLabel('Profile as JSON').fill('{');
  await expect(dialog.getByRole('alert')).toContainText('Not JSON yet');
  await dialog.getByLabel('Profile as JSON').fill(JSON.stringify(format));
  await expect(dialog.getByRole('heading', { name: /It reads 12 of the first 12 lines/ })).toBeVisible();
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/Odd log · 12 lines/)).toBeVisible();
  await page.getByLabel('Import the statistics of this render').setInputFiles({ name: 's.csv', mimeType: 'text/csv', buffer: Buffer.from('frame,seconds\n1001,60\n1002,90\n') });
  await expect(page.getByText(/Seconds a frame \(bars\), 2 frames/)).toBeVisible();
  await page.getByLabel('Compare with another log').click();
  await page.getByRole('option', { name: 'our preview render' }).click();
  await expect(page.getByRole('region', { name: 'What is different' })).toContainText('New warning');
}); // prettier-ignore
