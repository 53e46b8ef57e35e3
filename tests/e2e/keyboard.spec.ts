/** The stories of the demo, by the keyboard alone: no test here clicks or points. */
import { demoShots } from '../../demo/shots.ts';
import { atSize } from '../unit/size.ts';
import { expect, importDemo, type Page, test } from './dusting.ts';
import { stateOf } from './state.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;

/** By name, the way everything is found: `Ctrl K`, some letters, Enter. */
async function find(page: Page, words: string) {
  await page.keyboard.press('Control+k');
  const option = page.getByRole('option').first();
  await expect(page.getByRole('dialog', { name: 'Find' })).toBeVisible();
  await page.keyboard.type(words);
  await expect(option).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
}
async function open(page: Page, code: string) {
  await page.goto(`${address()}/`);
  await expect(page.getByRole('row', { name: new RegExp(code) })).toBeVisible();
  await find(page, code);
  await expect(page).toHaveURL(new RegExp(`/shots/${code}`));
}
const numberOf = async (page: Page, code: string): Promise<number> => (await stateOf(page, code)).head.number;

// In `npm test` the jar shelf stands for those whose story is a trial.
for (const demo of atSize(['HA-010'], ['HA-010', 'HA-020', 'HA-030', 'HA-040', 'HA-050', 'HA-060']))
  test(`${demo}: found, tried, compared, kept, rendered again, undone`, async ({ page }) => {
    test.setTimeout(atSize(180_000, 900_000));
    const code = demo.replace('HA', 'KEYS');
    await importDemo(address(), demoShots[demo](), code, { width: atSize(96, 240), height: atSize(54, 135), samples: 16 });
    await open(page, code);
    const state = () => stateOf(page, code);
    await expect.poll(async () => (await state()).renders[0]?.examined, { timeout: atSize(120_000, 600_000) }).toBe('done');
    const findings = page.getByRole('region', { name: 'Findings' });
    const shown = findings.getByRole('option', { selected: true });
    await expect(shown).toBeVisible();
    const first = await shown.textContent();
    await page.keyboard.press('j');
    if ((await state()).findings.length > 1) await expect(shown).not.toHaveText(first!);
    await page.keyboard.press('k');
    await expect(shown).toHaveText(first!);
    await page.keyboard.press('t');
    await expect.poll(async () => (await state()).trials[0]?.state, { timeout: 240_000 }).toBe('done');
    await expect(page).toHaveURL(/trial=\d+/);
    const line = page.getByRole('slider', { name: /before/i });
    const stood = await line.getAttribute('aria-valuenow');
    await page.keyboard.press('w');
    await expect(line).not.toHaveAttribute('aria-valuenow', stood!);
    await page.keyboard.press('Shift+K');
    const dialog = page.getByRole('dialog', { name: /^Keep trial 1/ });
    await expect(dialog).toBeVisible();
    // Escape closes the dialog alone: the trial is still shown.
    await page.keyboard.press('Escape');
    await expect(dialog).toHaveCount(0);
    await expect(page).toHaveURL(/trial=\d+/);
    await page.keyboard.press('Shift+K');
    await expect(dialog).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(dialog).toHaveCount(0);
    await expect.poll(() => numberOf(page, code)).toBe(2);
    await page.keyboard.press('r');
    await expect.poll(async () => (await state()).renders.some(({ version }: { version: number }) => version === 2)).toBe(true);
    await page.keyboard.press('Control+z');
    await expect.poll(() => numberOf(page, code)).toBe(1);
    await page.keyboard.press('Control+Shift+Z');
    await expect.poll(() => numberOf(page, code)).toBe(2);
  }); // prettier-ignore

test('a control is found by name, set by the arrow keys, and kept', async ({ page }) => {
  const code = 'KEYS-SET';
  await importDemo(address(), demoShots['HA-010'](), code, { width: 64, height: 36, samples: 4 });
  await open(page, code);
  await find(page, 'Diffuse limit');
  const dial = page.getByRole('spinbutton', { name: 'Diffuse limit, preview' });
  await expect(dial).toBeFocused();
  const before = (await stateOf(page, code)).document.sheets.preview.limits.diffuse;
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  const foot = page.getByRole('region', { name: 'Sheets' }).getByRole('status').filter({ hasText: 'not kept yet' });
  await expect(foot).toContainText('1 value set');
  await find(page, 'Keep untried');
  await expect.poll(async () => (await stateOf(page, code)).document.sheets.preview.limits.diffuse).toBe(before + 1);
});

test('HA-070: a check is found, its repair applied and undone, the target reached', async ({ page }) => {
  const code = 'KEYS-070';
  await importDemo(address(), demoShots['HA-070'](), code, { width: 64, height: 36, samples: 4 });
  await open(page, code);
  await find(page, 'Intake');
  await expect(page).toHaveURL(/\/intake/);
  await expect(page.getByRole('row', { name: /Reversed normals/ })).toBeVisible({ timeout: 60_000 });
  await find(page, 'Reversed normals');
  await expect(page.getByRole('list', { name: 'Offenders of Reversed normals' })).toBeVisible();
  await page.keyboard.press('Shift+R');
  await expect.poll(() => numberOf(page, code), { timeout: 30_000 }).toBe(2);
  await page.keyboard.press('Control+z');
  await expect.poll(() => numberOf(page, code)).toBe(1);
  await find(page, 'Target');
  await expect(page).toHaveURL(/section=target/);
});
