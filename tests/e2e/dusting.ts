/** Tests of the page: each worker has a built Dusting of its own, with the demo, on a database and a data folder of its own. */
import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base } from '@playwright/test';
import type { RunningWork } from '../../core/contracts/events.ts';
import { environment, onCluster, TEMPLATE } from './template.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { Sheet } from '../../core/document/schema.ts';
import type { DemoShot } from '../../demo/shot.ts';
import { buildJarShelf } from '../../demo/ha-010/build.ts';
import { builtParts, startApplication } from '../../scripts/lib/application.mjs';
import { freePort } from '../../scripts/lib/cluster.mjs';

export * from '@playwright/test';

/** The file whose test ran last in this process. */
let lastFile: string | null = null;

export const test = base.extend<{ quiet: void }, { dusting: string }>({
  // What a file leaves under way nobody looks at any more, and the next one would wait for.
  quiet: [
    async ({ dusting }, use, { file }) => {
      if (lastFile !== null && lastFile !== file) await cancelWork(dusting);
      lastFile = file;
      await use();
    },
    { auto: true },
  ],
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

/** Cancels every render, examination and trial. */
export async function cancelWork(address: string): Promise<void> {
  const work = (await (await fetch(`${address}/api/work`)).json()) as RunningWork[];
  const stops = {
    trial: '/trials/:id/stop',
    render: '/renders/:id/stop',
    examination: '/renders/:id/examination/stop',
  };
  for (const { kind, id } of work)
    await fetch(`${address}/api${stops[kind].replace(':id', String(id))}`, { method: 'POST' });
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
