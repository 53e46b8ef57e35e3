/** Threads on which the web process does what takes long: begun when there is some. Two, so that a large scene holds no figures up. */
import { Piscina } from 'piscina';
import { fileURLToPath } from 'node:url';
import type * as Tasks from './apart-thread.ts';

// Built, this file is a chunk beside the thread's own entry; from source, both are TypeScript.
const entry = import.meta.url.endsWith('.ts') ? './apart-thread.ts' : './apart-thread.mjs';
let pool: Piscina | null = null;

/** @param name of a task of `apart-thread.ts` */
export function apart<N extends keyof typeof Tasks>(
  name: N,
  task: Parameters<(typeof Tasks)[N]>[0],
): ReturnType<(typeof Tasks)[N]> {
  pool ??= new Piscina({
    filename: fileURLToPath(new URL(entry, import.meta.url)),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 60_000,
  });
  return pool.run(task, { name }) as ReturnType<(typeof Tasks)[N]>;
}
