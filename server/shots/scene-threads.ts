/** The thread on which the web process reads scenes: begun when one comes, one scene at a time. */
import { Piscina } from 'piscina';
import { fileURLToPath } from 'node:url';
import type { SceneMade, SceneRefused } from './scene-thread.ts';

// Built, this file is a chunk beside the thread's own entry; from source, both are TypeScript.
const entry = import.meta.url.endsWith('.ts') ? './scene-thread.ts' : './scene-thread.mjs';
let pool: Piscina | null = null;

/** @param folder of the upload */
export function makeShotApart(folder: string): Promise<SceneMade | SceneRefused> {
  pool ??= new Piscina({
    filename: fileURLToPath(new URL(entry, import.meta.url)),
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 10_000,
  });
  return pool.run(folder) as Promise<SceneMade | SceneRefused>;
}
