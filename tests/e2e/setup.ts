/** Starts a built Dusting with the demo for the interface tests, on a database and a data folder of its own. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { builtParts, startApplication } from '../../scripts/lib/application.mjs';
import { freePort } from '../../scripts/lib/cluster.mjs';

export default async function setup(): Promise<() => Promise<void>> {
  const admin = process.env.DUSTING_TEST_DATABASE_URL;
  if (!admin) throw new Error('DUSTING_TEST_DATABASE_URL is not set: run these through `npm test -- e2e`');
  const client = new pg.Client({ connectionString: admin });
  await client.connect();
  await client.query('drop database if exists interface with (force)');
  await client.query('create database interface');
  await client.end();
  const url = new URL(admin);
  url.pathname = '/interface';
  const folder = await mkdtemp(join(tmpdir(), 'dusting-interface-'));
  const port = await freePort();
  const env = {
    DUSTING_HOST: '127.0.0.1',
    DUSTING_PORT: String(port),
    DUSTING_DATA: folder,
    DUSTING_DATABASE_URL: url.href,
    DUSTING_LOG_LEVEL: 'warn',
    DUSTING_DEMO: 'HA-010',
  };
  const application = await startApplication(builtParts, env, folder, (why) => console.error(why));
  process.env.DUSTING_TEST_ADDRESS = `http://127.0.0.1:${port}`;
  return async () => {
    await application.stop();
    await rm(folder, { recursive: true, force: true });
  };
}
