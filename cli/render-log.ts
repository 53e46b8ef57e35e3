/** The log of a render from the shell, line by line as it goes, so that one that breaks off says where. */
import { appendFileSync, writeFileSync } from 'node:fs';
import process from 'node:process';

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
    const seconds = ((performance.now() - this.started) / 1000).toFixed(3);
    const memory = Math.round(process.memoryUsage().rss / 2 ** 20);
    const counts = rays
      ? ` rays ${Object.entries(rays)
          .map(([kind, n]) => `${kind}=${n}`)
          .join(',')}`
      : '';
    const text = message.replaceAll(/\s*\n\s*/g, ' ');
    appendFileSync(
      this.path,
      `+${seconds}s ${severity} [${phase}] frame ${this.frame()} mem ${memory} MB${counts}: ${text}\n`,
    );
  }
}
