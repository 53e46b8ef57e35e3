/**
 * The first minute, in the real page: a fresh server, the demo shots still to be rendered, and somebody who opens one. Seconds
 * until its first finding is on screen, of its first trial, and, once all is rendered, until a picture and its figures stand there.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import process from 'node:process';
import { setTimeout as sleep } from 'node:timers/promises';
import { chromium, type Page } from '@playwright/test';
import type { ShotState, ShotSummary } from '../../core/contracts/events.ts';
import { median } from './measure.ts';

const SHOT = 'HA-010';
const LONGEST = 900_000;
/** Times that a shot is opened from the list. */
const OPENED = 5;

export async function benchFirstMinute(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'dusting-bench-'));
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  const start = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: join(import.meta.dirname, '../..'),
    env: { ...process.env, DUSTING_DATA: data, DUSTING_PORT: String(port) },
    stdio: 'ignore',
  });
  const browser = await chromium.launch({
    executablePath: process.env.DUSTING_TEST_CHROMIUM || '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const get = async <T>(path: string) => (await (await fetch(`${address}/api${path}`)).json()) as T;
  const until = async (what: () => Promise<boolean>) => {
    while (!(await what().catch(() => false))) await sleep(100);
  };
  try {
    await until(async () => (await get<ShotSummary[]>('/shots')).some(({ code }) => code === SHOT));
    // What is asked of the page is text that it evaluates, which its own policy forbids.
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, bypassCSP: true });
    const opened = performance.now();
    await page.goto(`${address}/shots/${SHOT}`);
    const findings = page.getByRole('region', { name: 'Findings' });
    // What is found in the document by itself is there sooner.
    await findings
      .getByText(/of the light ends at/)
      .first()
      .waitFor({ timeout: LONGEST });
    console.log(`first finding of ${SHOT}: ${told(opened)}`);
    const tried = performance.now();
    await findings.getByRole('button', { name: 'Try here' }).first().click();
    await until(async () => (await get<ShotState>(`/shots/${SHOT}`)).trials[0]?.state === 'done');
    console.log(`its first trial: ${told(tried)}`);
    await until(async () => (await get<ShotSummary[]>('/shots')).every(({ render }) => render === null || render.examined === 'done' || render.state === 'failed')); // prettier-ignore
    console.log(`all shots that render by themselves rendered and examined: ${told(opened)}`);
    const [pictures, figures]: number[][] = [[], []];
    for (let k = 0; k < OPENED; k++) {
      const [picture, figure] = await openFromList(page, address);
      pictures.push(picture);
      figures.push(figure);
    }
    console.log(`a rendered shot, opened from the list: picture ${median(pictures).toFixed(2)} s, figures ${median(figures).toFixed(2)} s`); // prettier-ignore
  } finally {
    await browser.close();
    start.kill('SIGTERM');
    await once(start, 'exit');
    rmSync(data, { recursive: true, force: true });
  }
}

/** Seconds until its picture and the figures of its passes are on screen. */
async function openFromList(page: Page, address: string): Promise<[number, number]> {
  await page.goto(`${address}/`);
  await page.getByRole('row', { name: new RegExp(SHOT) }).waitFor();
  await sleep(500);
  const began = performance.now();
  await page.getByRole('row', { name: new RegExp(SHOT) }).click();
  await page.waitForFunction(IS_DRAWN, undefined, { polling: 30 });
  const picture = performance.now() - began;
  await page.getByText(/of 255, shadows boosted/).first().waitFor(); // prettier-ignore
  return [picture / 1000, (performance.now() - began) / 1000];
}

/** Whether the picture has any light in it; text, since it runs in the page. */
const IS_DRAWN = `(() => {
  const canvas = document.querySelector('.frame canvas');
  if (!canvas?.width) return false;
  const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
  return data.some((v, i) => i % 4 < 3 && v > 32);
})()`;

const told = (since: number): string => `${((performance.now() - since) / 1000).toFixed(1)} s`;

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as AddressInfo;
  server.close();
  return port;
}
