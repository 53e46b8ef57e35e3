/** A broken scene is dropped, read, repaired and reported. */
import { readFileSync } from 'node:fs';
import { violationsOf } from './accessible.ts';
import { cancelWork, expect, test } from './dusting.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { zipped } from './zipped.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;
const bringIn = 'Import a zip archive, a scene file or pictures';

// Each test has a shot of its own, and looks no further than its intake.
test.afterEach(() => cancelWork(address()));

test('a scene of an open format comes in, and says what of it was not understood', async ({ page }) => {
  await page.goto(address());
  const buffer = await zipped([
    ['yard/yard.usda', '#usda 1.0\n(metersPerUnit = 1)\ndef Mesh "Cube_003" { point3f[] points = [(0,0,0), (1,0,0), (1,1,0), (0,1,0)]\n int[] faceVertexCounts = [4, 4]\n int[] faceVertexIndices = [0,1,2,3, 1,0,3,2]\n uniform token subdivisionScheme = "none" }\ndef BasisCurves "grass" {}'],
  ]);
  await page.getByLabel(bringIn).setInputFiles({ name: 'yard.zip', mimeType: 'application/zip', buffer });
  await expect(page).toHaveURL(/shots\/yard/);
  await page.getByRole('button', { name: /^Intake/ }).click();
  await expect(page.getByRole('heading', { name: 'One blocker before this shot can be sent' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('row', { name: /Duplicate faces/ })).toContainText('warning');
  await page.getByRole('row', { name: /Default names/ }).click();
  await expect(page.getByRole('list', { name: 'Offenders of Default names' })).toContainText('is called "Cube_003"');
  await page.getByRole('button', { name: /^Import/ }).click();
  await expect(page.getByText('BasisCurves "grass"')).toBeVisible();
  await expect(page.getByText('yard/yard.usda:7')).toBeVisible();
  await page.getByRole('button', { name: /^Files/ }).click();
  await expect(page.getByRole('row', { name: /geometry\/scene\.glb/ })).toContainText('there');
}); // prettier-ignore

test('a scene that cannot be read is refused by file and line, and nothing is kept', async ({ page }) => {
  await page.goto(address());
  const buffer = Buffer.from('v 0 0 0\nv nan 0 0\nf 1 2 1\n');
  await page.getByLabel(bringIn).setInputFiles({ name: 'bent.obj', mimeType: 'model/obj', buffer });
  await expect(page.getByRole('alert')).toContainText('bent.obj:2: "nan" is not finite');
  await expect(page.getByRole('row', { name: /bent/ })).toHaveCount(0);
});

test('preflight tells what is wrong, a repair is a version of its own and is undone, the report is a file', async ({ page }) => {
  await page.goto(address());
  const shot = await smallShot('E2E-3');
  shot.document.sheets.preview.limits.transmission = 6;
  const buffer = await zipped(filesOf(shot));
  await page.getByLabel(bringIn).setInputFiles({ name: 'shot.zip', mimeType: 'application/zip', buffer });
  await expect(page).toHaveURL(/shots\/E2E-3/);
  await page.goto(`${address()}/shots/E2E-3/intake?check=limit-overridden`);
  const row = page.getByRole('row', { name: /Overridden limits/ });
  await expect(row).toContainText('warning', { timeout: 60_000 });
  await expect(page.getByText('transmission 6 needs an overall limit of 7; it is 4')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.keyboard.press('Shift+R');
  await expect(page.getByText(/version 2/).first()).toBeVisible();
  await expect(row).toHaveCount(0, { timeout: 60_000 });
  await page.keyboard.press('Control+z');
  await expect(row).toContainText('warning', { timeout: 60_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Page', exact: true }).click()]);
  expect(readFileSync(await download.path(), 'utf8')).toContain('Preflight of E2E-3, version 1');
  await page.keyboard.press('/');
  await page.keyboard.type('nothing of this name');
  await expect(page.getByText('No check and no offender is called')).toBeVisible();
}); // prettier-ignore

test('a log that breaks off is read, says why, and remembers what is decided for the shot', async ({ page }) => {
  await page.goto(address());
  const buffer = await zipped(filesOf(await smallShot('E2E-4')));
  await page.getByLabel(bringIn).setInputFiles({ name: 'shot.zip', mimeType: 'application/zip', buffer });
  await expect(page).toHaveURL(/shots\/E2E-4/);
  await page.goto(`${address()}/shots/E2E-4/intake?section=log`);
  const log = ['. 5:00:00 <open> f=7 m=300 start', '! 5:00:01 <open> f=7 o=/set/pane0 cannot open texture "tex/lost.png"',
    ...[1, 2, 3, 4, 5, 6].map((i) => `. 5:0${i}:00 <trace> f=7 m=${300 * 2 ** i} tile ${i}`)].join('\n'); // prettier-ignore
  await page.getByLabel('Import the log of a render').setInputFiles({ name: 'farm.log', mimeType: 'text/plain', buffer: Buffer.from(log) });
  await expect(page.getByText(/ends without an end at line 8 in "trace", in frame 7.*for lack of memory: it was still rising, at 18\.8 GB/)).toBeVisible();
  await expect(page.getByRole('heading', { name: '1 of 2 logs has a blocker' })).toBeVisible();
  await page.getByLabel('Harmless here because').fill('the pane is clear');
  await page.getByRole('button', { name: 'Decide for this shot' }).click();
  await expect(page.getByText('decided for this shot: the pane is clear')).toBeVisible();
  await page.reload();
  await expect(page.getByText('decided for this shot: the pane is clear')).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: '/set/pane0' }).click();
  await expect(page).toHaveURL(/panel=scene.*pane0/);
}); // prettier-ignore
