/** What `dusting render --log` writes. */
import { ours } from '../../../data/pattern.ts';
import type { LogFormat } from '../format.ts';

export const ownFormat: LogFormat = {
  schema: 'dusting.log-format/1',
  name: 'Dusting',
  lines: ours([
    String.raw`^\+(?<time>[\d.]+)s (?<severity>\w+) \[(?<phase>[\w -]+)\](?: frame (?<frame>-?\d+))?(?: mem (?<memory>[\d.]+ ?[KMG]?B))?(?: rays (?<rays>\S+))?(?: at (?<object>\S+))?: (?<message>.*)$`,
  ]),
  severities: { debug: 'debug', info: 'info', warning: 'warning', error: 'error', fatal: 'fatal' },
  time: 'seconds',
  memoryUnit: 1,
  closing: ours([String.raw`\[done\]`])[0],
};
