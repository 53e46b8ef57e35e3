/** A remedy of several things for a chosen few of them, and what the shot takes on a farm. */
import { stateOf } from './state.ts';
import { expect, type Page, test } from './dusting.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;
const shotState = (page: Page) => stateOf(page, 'HA-010');

async function choosePreview(page: Page): Promise<void> {
  await page.getByRole('combobox', { name: 'Sheet' }).click();
  await page.getByRole('option', { name: 'preview', exact: true }).click();
}

test('a remedy is tried for one of two jars, and offered again for both', async ({ page }) => {
  test.setTimeout(180_000);
  await page.goto(`${address()}/shots/HA-010`);
  const findings = page.getByRole('region', { name: 'Findings' });
  await findings.getByRole('option', { name: /fireflies/ }).click();
  const remedies = findings.getByRole('table', { name: 'Remedies' });
  await remedies
    .getByRole('row', { name: /Let light through/ })
    .first()
    .click();
  // What can be chosen of it stands in the row that opens below it.
  const remedy = remedies.locator('.detail');
  await remedy.getByText('for all 2').click();
  const boxes = remedy.getByRole('checkbox');
  await boxes.first().uncheck();
  // The last one cannot be left out: nothing would remain to try.
  await expect(boxes.nth(1)).toBeDisabled();
  await expect(remedy).toContainText('for 1 of 2: predicted when you try it');
  await remedy.getByRole('button', { name: 'Try here' }).click();
  await expect(remedy.getByRole('button', { name: /^Trial \d+/ })).toBeVisible();
  const { trials } = await shotState(page);
  const trial = trials.at(-1);
  expect(trial.title).toMatch(/\(1 of 2\)$/);
  const objects = trial.patch.filter(
    (s: { op: string; path: string }) => s.op === 'replace' && s.path.startsWith('/objects/'),
  );
  expect(objects.map((s: { path: string }) => s.path)).toEqual(['/objects/jar-4-5/seeThroughShadows']);
  await boxes.first().check();
  await expect(remedy.getByRole('button', { name: 'Try here' })).toBeVisible();
  await expect.poll(async () => (await shotState(page)).trials.at(-1).state, { timeout: 120_000 }).toBe('done');

  const { findingId, remedyId } = trial;
  const body = {
    finding: findingId,
    remedy: remedyId,
    region: null,
    sheet: 'preview',
    values: null,
    only: ['/objects/shelf'],
  };
  const refused = await page.request.post(`${address()}/api/shots/HA-010/trials`, { data: body });
  expect(refused.status()).toBe(400);
  expect((await refused.json()).error).toMatch(/\/objects\/shelf.*one of \/objects\/jar-4-4, \/objects\/jar-4-5/);
});

test('frames are measured, and multiply with the farm that is told', async ({ page }) => {
  test.setTimeout(120_000);
  await page.goto(`${address()}/shots/HA-010?panel=budget`);
  const budget = page.getByRole('region', { name: 'Budget' });
  await choosePreview(page);
  await budget.getByRole('button', { name: 'Measure' }).click();
  const row = (name: RegExp) => budget.getByRole('row', { name });
  await expect(row(/^Total machine hours/)).toBeVisible({ timeout: 60_000 });
  const rays = async () => (await row(/^Rays per frame/).textContent())!;
  const first = await rays();
  const machines = budget.getByRole('spinbutton', { name: 'Machines' });
  const frames = budget.getByRole('spinbutton', { name: 'Frames' });
  await frames.fill('1000');
  await frames.press('Enter');
  await expect(row(/^1,000 frames, machine hours/)).toBeVisible();
  await machines.fill('1');
  await machines.press('Enter');
  const price = budget.getByRole('spinbutton', { name: /Price/ });
  await price.fill('3');
  await price.press('Enter');
  await expect(row(/^Price/)).toBeVisible();
  await page.reload();
  await expect(frames).toHaveValue('1,000');
  await choosePreview(page);
  expect(await rays()).toBe(first);
});
