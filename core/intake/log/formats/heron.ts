/** An invented renderer of the demo: a sign for the severity, the rest as words with a value. */
import { ours } from '../../../data/pattern.ts';
import type { LogFormat } from '../format.ts';

export const heronFormat: LogFormat = {
  schema: 'dusting.log-format/1',
  name: 'Heron',
  lines: ours([
    String.raw`^(?<severity>[.!?X#]) (?<time>\d+:\d\d:\d\d(?:\.\d+)?) <(?<phase>[^>]+)>(?: f=(?<frame>-?\d+))?(?: m=(?<memory>[\d.]+))?(?: th=(?<thread>\S+))?(?: o=(?<object>\S+))?(?: rays=(?<rays>\S+))? (?<message>.*)$`,
  ]),
  severities: { '.': 'info', '!': 'warning', '?': 'debug', X: 'error', '#': 'fatal' },
  time: 'clock',
  memoryUnit: 2 ** 20,
  closing: ours([String.raw`<close> .*frame complete`])[0],
};
