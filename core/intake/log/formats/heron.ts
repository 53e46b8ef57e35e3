/** An invented renderer of the demo: a sign for the severity, the rest as words with a value. */
import type { LogFormat } from '../format.ts';

export const heronFormat: LogFormat = {
  schema: 'dusting.log-format/1',
  name: 'Heron',
  lines: [
    String.raw`^(?<severity>[.!?X#]) (?<time>\d+:\d\d:\d\d(?:\.\d+)?) <(?<phase>[^>]+)>(?: f=(?<frame>-?\d+))?(?: m=(?<memory>[\d.]+))?(?: th=(?<thread>\S+))?(?: o=(?<object>\S+))?(?: rays=(?<rays>\S+))? (?<message>.*)$`,
  ],
  severities: { '.': 'info', '!': 'warning', '?': 'debug', X: 'error', '#': 'fatal' },
  time: 'clock',
  memoryUnit: 2 ** 20,
  closing: String.raw`<close> .*frame complete`,
};
