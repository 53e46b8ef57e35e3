/** What each worker starts from: HA-010 of the demo, rendered and examined once, its database and folder copied for each. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import { builtParts, startApplication } from '../../scripts/lib/application.mjs';
import { freePort } from '../../scripts/lib/cluster.mjs';

export const TEMPLATE = 'interface_template';

/** Runs one statement on the cluster of the tests. */
export async function onCluster(statement: string): Promise<void> {
  const admin = process.env.DUSTING_TEST_DATABASE_URL;
  if (!admin) throw new Error('DUSTING_TEST_DATABASE_URL is not set: run these through `npm test -- e2e`');
  const client = new pg.Client({ connectionString: admin });
  await client.connect();
  await client.query(statement);
  await client.end();
}

export function databaseUrl(database: string): string {
  const url = new URL(process.env.DUSTING_TEST_DATABASE_URL!);
  url.pathname = `/${database}`;
  return url.href;
}

/** What a Dusting of the tests is started with. */
export const environment = (port: number, folder: string, database: string): Record<string, string> => ({
  DUSTING_HOST: '127.0.0.1',
  DUSTING_PORT: String(port),
  DUSTING_DATA: folder,
  DUSTING_DATABASE_URL: databaseUrl(database),
  DUSTING_LOG_LEVEL: 'warn',
  DUSTING_DEMO: 'HA-010',
});

/** Playwright runs it before all tests. @returns what puts it away afterwards */
export default async function make(): Promise<() => Promise<void>> {
  await onCluster(`drop database if exists ${TEMPLATE} with (force)`);
  await onCluster(`create database ${TEMPLATE}`);
  const folder = await mkdtemp(join(tmpdir(), 'dusting-interface-'));
  const port = await freePort();
  const application = await startApplication(builtParts, environment(port, folder, TEMPLATE), folder, (why: string) => console.error(why)); // prettier-ignore
  for (let examined = ''; examined !== 'done'; await sleep(500)) {
    const answer = await fetch(`http://127.0.0.1:${port}/api/shots/HA-010`).catch(() => null);
    if (answer?.ok) examined = ((await answer.json()) as { renders: { examined: string }[] }).renders[0]?.examined;
    if (examined === 'failed') throw new Error('HA-010 could not be examined');
  }
  await application.stop();
  process.env.DUSTING_TEST_TEMPLATE = folder;
  return async () => {
    await rm(folder, { recursive: true, force: true });
  };
}
