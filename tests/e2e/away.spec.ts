/** A server, or its database, that is away for a moment: the page waits, comes back by itself, and does nothing twice. */
import { expect, test } from './dusting.ts';
import { filesOf, smallShot } from '../api/small-shot.ts';
import { zipped } from './zipped.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;

test('a page whose stream is refused for a while follows its shot again', async ({ page }) => {
  const buffer = await zipped(filesOf(await smallShot('AWAY-1')));
  const sent = await page.request.post(`${address()}/api/shots`, { multipart: { files: { name: 'shot.zip', mimeType: 'application/zip', buffer } } }); // prettier-ignore
  expect(sent.status()).toBe(201);
  // What a server answers whose database is away: a browser does not connect again after it.
  await page.route('**/api/shots/AWAY-1/events', (route) =>
    route.fulfill({ status: 503, json: { error: 'The database is away for a moment.', problems: [] } }),
  );
  await page.goto(`${address()}/shots/AWAY-1`);
  await expect(page.getByText('Server not responding; reconnecting')).toBeVisible();
  await page.unroute('**/api/shots/AWAY-1/events');
  await expect(page.getByText('Server not responding; reconnecting')).toHaveCount(0, { timeout: 15_000 });
  const { head } = await (await page.request.get(`${address()}/api/shots/AWAY-1`)).json();
  await page.request.post(`${address()}/api/shots/AWAY-1/dials`, { data: { base: head.id, sheets: ['preview'], values: { '/samples': 8 } } }); // prettier-ignore
  await expect(page.getByText('version 2', { exact: false }).first()).toBeVisible();
});

test('a request whose answer is lost is sent again and done once', async ({ page }) => {
  await page.goto(`${address()}/shots/AWAY-1`);
  const renders = async () => (await (await page.request.get(`${address()}/api/shots/AWAY-1`)).json()).renders.length as number; // prettier-ignore
  const before = await renders();
  const keys: (string | undefined)[] = [];
  await page.route('**/api/shots/AWAY-1/renders', async (route) => {
    keys.push(route.request().headers()['idempotency-key']);
    if (keys.length > 1) return route.continue();
    // It arrives and is done; the answer does not come back.
    await route.fetch();
    return route.abort('connectionreset');
  });
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
  await page.keyboard.press('r');
  await expect.poll(() => keys.length).toBe(2);
  expect(keys[0]).toMatch(/^[0-9a-f]{32}$/);
  expect(keys[1], 'it is the same request').toBe(keys[0]);
  await page.waitForTimeout(500);
  expect(await renders()).toBe(before + 1);
});
