/** For logs of no known shape: severities by their words, times where a line begins with one. */
import { ours } from '../../../data/pattern.ts';
import type { LogFormat } from '../format.ts';

export const plainFormat: LogFormat = {
  schema: 'dusting.log-format/1',
  name: 'Plain text',
  lines: ours([
    // Time, memory, severity, and a bar before what is said.
    String.raw`^(?<time>\d+:\d\d(?::\d\d)?(?:\.\d+)?)\s+(?<memory>[\d.]+\s*[KMGT]?i?B)\s+(?<severity>[Ff]atal|FATAL|[Ee]rror|ERROR|[Ww]arning|WARNING|WARN|[Ii]nfo|INFO|[Dd]ebug|DEBUG)\s*\|\s*(?<message>.*)$`,
    String.raw`^\W*(?<time>\d+:\d\d:\d\d(?:\.\d+)?)\W+(?<severity>[Ff]atal|FATAL|[Ee]rror|ERROR|[Ww]arning|WARNING|WARN|[Ii]nfo|INFO|[Dd]ebug|DEBUG)\b\W*(?<message>.*)$`,
    String.raw`^\W*(?<time>\d+:\d\d:\d\d(?:\.\d+)?)\W+(?<message>.*)$`,
    String.raw`^\W*(?<severity>[Ff]atal|FATAL|[Ee]rror|ERROR|[Ww]arning|WARNING|WARN|[Ii]nfo|INFO|[Dd]ebug|DEBUG)\b\W*(?<message>.*)$`,
    String.raw`^(?<message>.*)$`,
  ]),
  severities: {
    fatal: 'fatal', Fatal: 'fatal', FATAL: 'fatal', error: 'error', Error: 'error', ERROR: 'error', warning: 'warning',
    Warning: 'warning', WARNING: 'warning', WARN: 'warning', info: 'info', Info: 'info', INFO: 'info', debug: 'debug',
    Debug: 'debug', DEBUG: 'debug',
  }, // prettier-ignore
  time: 'clock',
  memoryUnit: 1,
  closing: ours([String.raw`[Ff]inished|[Cc]ompleted|[Dd]one in|[Tt]otal time`])[0],
};
