/** Tests of the page: each worker has a built Dusting of its own, with the demo, on a database and a data folder of its own. */
import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base } from '@playwright/test';
import { environment, onCluster, TEMPLATE } from './template.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { Sheet } from '../../core/document/schema.ts';
import type { DemoShot } from '../../demo/shot.ts';
import { buildJarShelf } from '../../demo/ha-010/build.ts';
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
  const database = `interface_${worker}`;
  await onCluster(`drop database if exists ${database} with (force)`);
  await onCluster(`create database ${database} template ${TEMPLATE}`);
  const folder = await mkdtemp(join(tmpdir(), 'dusting-interface-'));
  await cp(process.env.DUSTING_TEST_TEMPLATE!, folder, { recursive: true });
  const port = await freePort();
  const env = { ...environment(port, folder, database), DUSTING_THREADS: '1' };
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

/** A shot like HA-010 under another code, with some settings of its preview otherwise. */
export const importJarShelf = (address: string, code: string, preview: Partial<Sheet>): Promise<void> => importDemo(address, buildJarShelf(), code, preview); // prettier-ignore

export async function importDemo(
  address: string,
  built: Promise<DemoShot>,
  code: string,
  preview: Partial<Sheet>,
): Promise<void> {
  const { document, files } = await built;
  document.code = code;
  Object.assign(document.sheets.preview, preview);
  const form = new FormData();
  for (const [path, bytes] of [['shot.json', new TextEncoder().encode(canonicalText(document))] as const, ...files])
    form.append('files', new Blob([bytes as Uint8Array<ArrayBuffer>]), `${code}/${path}`);
  const answer = await fetch(`${address}/api/shots`, { method: 'POST', body: form });
  if (!answer.ok) throw new Error(`${code} was refused: ${await answer.text()}`);
}
