/** Whether the disk takes what is written: looked at every two seconds, and told to every page while it does not. */
import { randomUUID } from 'node:crypto';
import { mkdir, open, rm, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import type { Notice } from '../core/contracts/events.ts';
import { storageFault } from './errors.ts';

const EVERY_MS = 2000;
/** Less is as good as full: the database wants some for itself. */
const LEAST_BYTES = 64 * 2 ** 20;
/** What is written to see whether the disk takes it. */
const PROBE_BYTES = 2 ** 16;

/** @param tell called with what every page should know, whenever that changes */
export function watchDisk(folder: string, tell: (notices: Notice[]) => void): { stop(): void } {
  let told: string | null = null;
  const look = async () => {
    const fault = await faultOf(folder);
    if (fault === told) return;
    told = fault;
    const text = `${fault} What is stored can still be looked at. Nothing new is kept until there is room; renders wait and resume by themselves.`;
    tell(fault === null ? [] : [{ kind: 'storage', text, since: new Date().toISOString() }]);
  };
  const timer = setInterval(() => void look(), EVERY_MS);
  return { stop: () => clearInterval(timer) };
}

async function faultOf(folder: string): Promise<string | null> {
  const place = join(folder, `${randomUUID()}.part`);
  try {
    await mkdir(folder, { recursive: true });
    const { bavail, bsize } = await statfs(folder);
    if (bavail * bsize < LEAST_BYTES) return 'The disk is full.';
    const file = await open(place, 'wx');
    try {
      await file.writeFile(Buffer.alloc(PROBE_BYTES));
    } finally {
      await file.close();
    }
    return null;
  } catch (error) {
    return storageFault(error) ?? `The disk cannot be written (${(error as NodeJS.ErrnoException).code}).`;
  } finally {
    await rm(place, { force: true }).catch(() => {});
  }
}
