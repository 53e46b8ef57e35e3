/** An invented renderer of the demo that writes one JSON object a line. */
import { ours } from '../../../data/pattern.ts';
import type { LogFormat } from '../format.ts';

export const millraceFormat: LogFormat = {
  schema: 'dusting.log-format/1',
  name: 'Millrace',
  lines: [],
  keys: {
    time: 'clock',
    severity: 'level',
    phase: 'stage',
    thread: 'worker',
    frame: 'frame',
    object: 'node',
    memory: 'rss',
    message: 'text',
  },
  severities: { note: 'info', hint: 'debug', warn: 'warning', fault: 'error', abort: 'fatal' },
  time: 'date',
  memoryUnit: 1024,
  closing: ours([String.raw`"stage":\s*"summary"`])[0],
};
