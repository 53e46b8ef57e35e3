/**
 * A line of a log of our own, as `formats/own.ts` reads it.
 *
 * @example
 * ownLine({ seconds: 1.5, severity: 'info', phase: 'render', frame: 1001, memory: 3e8, rays: null, message: '4 of 9 tiles' });
 * // +1.500s info [render] frame 1001 mem 286 MB: 4 of 9 tiles
 */
export interface OwnLine {
  seconds: number;
  severity: 'info' | 'warning' | 'error';
  phase: string;
  frame: number;
  /** Bytes of the process. */
  memory: number;
  rays: Record<string, number> | null;
  message: string;
}

export function ownLine({ seconds, severity, phase, frame, memory, rays, message }: OwnLine): string {
  const counts = rays ? Object.entries(rays).map(([kind, n]) => `${kind}=${n}`) : [];
  const traced = counts.length ? ` rays ${counts.join(',')}` : '';
  const text = message.replaceAll(/\s*\n\s*/g, ' ');
  return `+${seconds.toFixed(3)}s ${severity} [${phase}] frame ${frame} mem ${Math.round(memory / 2 ** 20)} MB${traced}: ${text}`;
}
