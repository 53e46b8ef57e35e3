/** Bundles the shell commands into `dist/cli`, when something they are made of is newer than what was built. */
import { existsSync, mkdirSync, mkdtempSync, renameSync, rmSync, statSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import { bundle } from './bundle.mjs';
import { root } from './machine.mjs';
import { newest } from './newest.mjs';

const SOURCES = ['core', 'host', 'cli', 'scripts/lib/build-shell.mjs', 'scripts/lib/bundle.mjs', 'package-lock.json'];
const ENTRIES = { main: 'cli/main.ts', 'render-thread': 'cli/render-thread.ts' };
const outdir = join(root, 'dist/cli');
const main = join(outdir, 'main.mjs');

/** @returns {Promise<string>} path of the built commands */
export async function buildShell() {
  if (existsSync(main) && statSync(main).mtimeMs > Math.max(...SOURCES.map((source) => newest(join(root, source)))))
    return main;
  // Taken before: what changes while it is built makes it stale again.
  const began = new Date();
  mkdirSync(join(root, 'dist'), { recursive: true });
  // Beside its place, and moved there whole: two commands may be begun at once.
  const beside = mkdtempSync(join(root, 'dist/cli-'));
  await bundle(ENTRIES, beside);
  utimesSync(join(beside, 'main.mjs'), began, began);
  rmSync(outdir, { recursive: true, force: true });
  try {
    renameSync(beside, outdir);
  } catch {
    // Another was quicker, with the same bytes.
    rmSync(beside, { recursive: true, force: true });
  }
  return main;
}
