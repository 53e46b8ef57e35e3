/** Tests of the page: each worker has a built Dusting of its own, with the demo, on a database and a data folder of its own. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { test as base } from '@playwright/test';
import pg from 'pg';
import { builtParts, startApplication } from '../../scripts/lib/application.mjs';
import { freePort } from '../../scripts/lib/cluster.mjs';

export * from '@playwright/test';

export const test = base.extend<object, { dusting: string }>({
  dusting: [
    // Playwright reads the pattern to know which fixtures it needs: none.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use, { workerIndex }) => {
      const { address, stop } = await start(workerIndex);
      process.env.DUSTING_TEST_ADDRESS = address;
      await use(address);
      await stop();
    },
    { scope: 'worker', auto: true, timeout: 120_000 },
  ],
});

async function start(worker: number): Promise<{ address: string; stop: () => Promise<void> }> {
  const admin = process.env.DUSTING_TEST_DATABASE_URL;
  if (!admin) throw new Error('DUSTING_TEST_DATABASE_URL is not set: run these through `npm test -- e2e`');
  const database = `interface_${worker}`;
  const client = new pg.Client({ connectionString: admin });
  await client.connect();
  await client.query(`drop database if exists ${database} with (force)`);
  await client.query(`create database ${database}`);
  await client.end();
  const url = new URL(admin);
  url.pathname = `/${database}`;
  const folder = await mkdtemp(join(tmpdir(), 'dusting-interface-'));
  const port = await freePort();
  const env = {
    DUSTING_HOST: '127.0.0.1',
    DUSTING_PORT: String(port),
    DUSTING_DATA: folder,
    DUSTING_DATABASE_URL: url.href,
    DUSTING_LOG_LEVEL: 'warn',
    DUSTING_DEMO: 'HA-010',
    DUSTING_THREADS: '1',
  };
  const application = await startApplication(builtParts, env, folder, (why) => console.error(why));
  const address = `http://127.0.0.1:${port}`;
  return {
    address,
    stop: async () => {
      await application.stop();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/** Waits until causes were looked for in the demo's first render: for files that begin with them. */
export async function examined(): Promise<void> {
  for (;;) {
    const answer = await fetch(`${process.env.DUSTING_TEST_ADDRESS!}/api/shots/HA-010`).catch(() => null);
    const state = answer?.ok ? ((await answer.json()) as { renders: { examined: string }[] }) : null;
    if (state?.renders[0]?.examined === 'done') return;
    await sleep(300);
  }
}
