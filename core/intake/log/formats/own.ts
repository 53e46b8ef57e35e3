/** What `dusting render --log` writes. */
import type { LogFormat } from '../format.ts';

export const ownFormat: LogFormat = {
  schema: 'dusting.log-format/1',
  name: 'Dusting',
  lines: [
    String.raw`^\+(?<time>[\d.]+)s (?<severity>\w+) \[(?<phase>[\w -]+)\](?: frame (?<frame>-?\d+))?(?: mem (?<memory>[\d.]+ ?[KMG]?B))?(?: rays (?<rays>\S+))?(?: at (?<object>\S+))?: (?<message>.*)$`,
  ],
  severities: { debug: 'debug', info: 'info', warning: 'warning', error: 'error', fatal: 'fatal' },
  time: 'seconds',
  memoryUnit: 1,
  closing: String.raw`\[done\]`,
};
