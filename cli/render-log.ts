/** The log of a render from the shell, line by line as it goes, so that one that breaks off says where. */
import { appendFileSync, writeFileSync } from 'node:fs';
import process from 'node:process';
import { ownLine } from '../core/intake/log/own-line.ts';

export class RenderLog {
  private readonly started = performance.now();

  /** @param path null: none is kept */
  constructor(
    private readonly path: string | null,
    private readonly frame: () => number,
  ) {
    if (path !== null) writeFileSync(path, '');
  }

  line(
    severity: 'info' | 'warning' | 'error',
    phase: string,
    message: string,
    rays: Record<string, number> | null = null,
  ): void {
    if (this.path === null) return;
    const seconds = (performance.now() - this.started) / 1000;
    const memory = process.memoryUsage.rss();
    appendFileSync(this.path, `${ownLine({ seconds, severity, phase, frame: this.frame(), memory, rays, message })}\n`);
  }
}
