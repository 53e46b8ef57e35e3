/** What pages of other sites can do to a Dusting that is open in the same browser: nothing. In a real one. */
import { chromium, expect, type Page, test } from './dusting.ts';
import { flatPng } from '../api/foreign-bytes.ts';
import { createServer, type Server } from 'node:http';

const address = () => process.env.DUSTING_TEST_ADDRESS!;
let server: Server;
/** Another port of this machine is the same site; `localhost` beside `127.0.0.1` is another site. */
let origins: string[];

test.beforeAll(async () => {
  server = createServer((_request, response) =>
    response.setHeader('Content-Type', 'text/html').end('<!doctype html><title>evil</title><body></body>'),
  );
  await new Promise<void>((resolve) => server.listen(0, resolve));
  const { port } = server.address() as { port: number };
  origins = [`http://127.0.0.1:${port}`, `http://localhost:${port}`];
});
test.afterAll(() => void server.close());

const shots = async (page: Page) =>
  (await (await page.request.get(`${address()}/api/shots`)).json()) as { code: string; version: number }[];

test('requests that a browser lets any page send change nothing, and what they get cannot be read', async ({
  page,
}) => {
  const before = await shots(page);
  const renders = async () =>
    ((await (await page.request.get(`${address()}/api/shots/HA-010`)).json()) as { renders: unknown[] }).renders.length;
  const count = await renders();
  for (const origin of origins) {
    await page.goto(origin);
    const read = await page.evaluate(
      async ([target, png]) => {
        const picture = new Blob([Uint8Array.from(atob(png), (c) => c.charCodeAt(0))]);
        const form = new FormData();
        form.append('files', new Blob(['{"schema":"dusting.shot/1"}']), 'shot.json');
        const order = JSON.stringify({ sheet: 'preview', region: null });
        const attempts: [string, RequestInit][] = [
          ['/api/shots', { method: 'POST', body: form }],
          ['/api/shots/HA-010/renders', { method: 'POST', body: order }],
          ['/api/shots/HA-010/renders', { method: 'POST', body: new Blob([order], { type: 'text/plain' }) }],
          ['/api/renders/1/stop', { method: 'POST' }],
          ['/api/pictures?name=evil.png', { method: 'POST', body: picture }],
        ];
        for (const [path, init] of attempts) await fetch(target + path, { ...init, mode: 'no-cors' }).catch(() => {});
        navigator.sendBeacon(`${target}/api/renders/1/stop`);
        const answers: string[] = [];
        for (const path of ['/api/shots', '/api/shots/HA-010', '/api/files/0', '/api/renders/1/picture'])
          answers.push(
            await fetch(target + path).then(
              (r) => r.text(),
              () => 'nothing',
            ),
          );
        return answers;
      },
      [address(), flatPng(8).toString('base64')],
    );
    expect(read, origin).toEqual(['nothing', 'nothing', 'nothing', 'nothing']);
    const streamed = await page.evaluate(
      (target) =>
        new Promise((resolve) => {
          const source = new EventSource(`${target}/api/events`);
          source.onopen = () => resolve('open');
          source.onerror = () => resolve('refused');
        }),
      address(),
    );
    expect(streamed, origin).toBe('refused');
    // A form is sent with the whole page, as a link is followed.
    await page.evaluate((target) => {
      const form = document.createElement('form');
      form.method = 'POST';
      form.action = `${target}/api/renders/1/stop`;
      document.body.append(form);
      form.submit();
    }, address());
    await expect(page.locator('body')).toContainText('A page of another site asked for this');
  }
  expect(await shots(page)).toHaveLength(before.length);
  expect(await renders()).toBe(count);
});

test('a page of another site is shown no part of ours in a frame, and may still lead to it', async ({ page }) => {
  await page.goto(origins[1]);
  await page.evaluate((target) => {
    document.body.innerHTML = `<iframe src="${target}/"></iframe><a href="${target}/">to the shots</a>`;
  }, address());
  const [frame] = await Promise.all([page.waitForEvent('framenavigated')]);
  expect(await frame.locator('#app').count()).toBe(0);
  await page.getByRole('link', { name: 'to the shots' }).click();
  await expect(page.getByRole('heading', { name: 'Dusting' })).toBeVisible();
  await expect(page.getByRole('row', { name: /HA-010/ })).toBeVisible();
});

test('a foreign name that is pointed at this machine gets nothing', async () => {
  const { port } = new URL(address());
  const browser = await chromium.launch({
    executablePath: process.env.DUSTING_TEST_CHROMIUM || '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--host-resolver-rules=MAP rebound.example 127.0.0.1'],
  }); // prettier-ignore
  const page = await browser.newPage();
  const answer = await page.goto(`http://rebound.example:${port}/`);
  expect(answer?.status()).toBe(421);
  expect(await page.evaluate(() => fetch('/api/shots').then((r) => r.status))).toBe(421);
  await browser.close();
});
