/** The threads of a worker process: each does one task at a time, from `render-thread.ts`. */
import { Piscina } from 'piscina';
import { fileURLToPath } from 'node:url';
import type { Tasks } from './render-thread.ts';

export class RenderThreads {
  private readonly pool: Piscina;

  constructor(readonly count: number) {
    // Built, this file is a chunk beside the thread's own entry; from source, both are TypeScript.
    const entry = import.meta.url.endsWith('.ts') ? './render-thread.ts' : './render-thread.mjs';
    this.pool = new Piscina({
      filename: fileURLToPath(new URL(entry, import.meta.url)),
      minThreads: count,
      maxThreads: count,
      idleTimeout: Infinity,
      concurrentTasksPerWorker: 1,
    });
  }

  /** @param signal ends the thread that works on it; another takes its place */
  run<N extends keyof Tasks>(
    name: N,
    task: Parameters<Tasks[N]>[0],
    signal?: AbortSignal,
  ): Promise<ReturnType<Tasks[N]>> {
    return this.pool.run(task, signal ? { name, signal } : { name });
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
