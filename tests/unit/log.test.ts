/** Logs of our own renderer and of two invented ones: read, folded, judged, and what it means that one stops. */
import { expect } from 'chai';
import { compareLogs } from '../../core/intake/log/compare.ts';
import { parseLogFormat, type LogFormat } from '../../core/intake/log/format.ts';
import { formatOf, LOG_FORMATS } from '../../core/intake/log/formats.ts';
import { heronFormat } from '../../core/intake/log/formats/heron.ts';
import { millraceFormat } from '../../core/intake/log/formats/millrace.ts';
import { ownFormat } from '../../core/intake/log/formats/own.ts';
import { LogReading, type ReadLog } from '../../core/intake/log/read.ts';
import { triage } from '../../core/intake/log/triage.ts';

const read = (text: string, format: LogFormat = formatOf(text.split('\n'))): ReadLog => {
  const reading = new LogReading(format);
  reading.push(text);
  return reading.end();
};

/** A frame in the sign-and-words shape: 2 s of opening, 8 s of tracing; memory as given. */
const heron = (memory: number[], end = true): string =>
  [
    '. 23:59:58 <open> f=1001 m=200 reading sets/dawn.usda',
    '! 23:59:59 <open> f=1001 o=/set/hive cannot open texture "tex/straw.png"',
    ...Array.from(
      { length: 300 },
      (_, i) => `! 23:59:59 <open> f=1001 o=/set/comb${i} face ${i} of "comb ${i}" is degenerate`,
    ),
    ...memory.map((m, i) => `. 0:00:0${i} <trace> f=1001 m=${m} rays=camera=${i}00,shadow=${i}0 tile ${i}`),
    ...(end ? ['. 0:00:08 <close> f=1001 m=300 frame complete'] : []),
  ].join('\n');

describe('Logs', () => {
  it('are known by their lines: ours, and two shapes of others; what is none is plain text', () => {
    const lines = (text: string) => text.split('\n');
    expect(formatOf(lines('+0.012s info [open] frame 1001 mem 120 MB: shot\n+0.4s info [done] frame 1001 mem 200 MB: wrote'))).to.equal(ownFormat); // prettier-ignore
    expect(formatOf(lines(heron([300])))).to.equal(heronFormat);
    expect(formatOf(lines('{"clock":"2026-03-01T05:00:00Z","level":"note","stage":"open","text":"a"}'))).to.equal(millraceFormat); // prettier-ignore
    expect(formatOf(lines('hello\nERROR: it broke')).name).to.equal('Plain text');
  });

  it('give time by phase over midnight, memory, rays and frames', () => {
    const log = read(heron([300, 400, 900, 500]));
    expect([log.seconds, log.closed, log.unread]).to.deep.equal([10, true, 0]);
    expect(log.phases.map(({ name, seconds }) => [name, seconds])).to.deep.equal([['trace', 8], ['open', 2], ['close', 0]]); // prettier-ignore
    expect(log.memory!.peak).to.equal(900 * 2 ** 20);
    expect(log.rays).to.deep.equal({ camera: 300, shadow: 30 });
    expect(log.frames).to.deep.equal([{ frame: 1001, seconds: 10, peakMemory: 900 * 2 ** 20, warnings: 301, errors: 0 }]); // prettier-ignore
  });

  it('fold what differs in numbers and names alone, and say how much of it there is', () => {
    const { kinds } = read(heron([300]));
    expect(kinds.map(({ count, firstLine, lastLine }) => [count, firstLine, lastLine])).to.deep.equal([[1, 2, 2], [300, 3, 302]]); // prettier-ignore
    expect(kinds[1].objects.length).to.equal(20);
  });

  it('are judged by what is there: a complaint about a file is held against the files', () => {
    const log = read(heron([300]));
    const verdict = (state: 'there' | 'prepared' | 'missing' | null) => {
      const found = triage(log, { fileState: (path) => (path === 'tex/straw.png' ? state : null) });
      return [found.state, found.kinds.find(({ id }) => id === 'file-missing')!.verdict.harmless];
    };
    expect(verdict('missing')).to.deep.equal(['caution', 'no']);
    expect(verdict('prepared')).to.deep.equal(['clear', 'yes']);
    expect(verdict(null)).to.deep.equal(['caution', 'unknown']);
    const { kinds } = triage(log);
    expect(kinds[1]).to.deep.include({ id: 'degenerate-geometry', count: 300 });
    expect(kinds[1].verdict.harmless).to.equal('yes');
  });

  it('remember what was decided for the shot', () => {
    const log = read(heron([300]));
    const decided = triage(log, {}, [{ key: log.kinds[0].key, harmless: true, why: 'the hive is behind the camera' }]);
    expect(decided.state).to.equal('clear');
    expect(decided.kinds.find(({ id }) => id === 'file-missing')!.verdict.why).to.equal('decided for this shot: the hive is behind the camera'); // prettier-ignore
  });

  it('that stop while memory rises were most likely killed for it; those that do not, were not', () => {
    const rising = triage(read(heron([300, 500, 900, 1500, 2600, 4500, 8000], false)));
    expect(rising.state).to.equal('stop');
    expect(rising.brokeOff).to.deep.include({ phase: 'trace', frame: 1001, memory: 'rising' });
    expect(rising.brokeOff!.cause).to.match(/lack of memory.*7\.81 GB/);
    const steady = triage(read(heron([900, 900, 900, 900, 900, 900], false)));
    expect(steady.brokeOff!.memory).to.equal('steady');
    const told = triage(read(`${heron([900, 900], false)}\nX 0:00:03 <trace> f=1001 write failed: No space left on device`)); // prettier-ignore
    expect(told.brokeOff!.cause).to.match(/the disk was full \(line 305\)/);
  });

  it('say what their figures hint at, with the figures, and what they lack', () => {
    const { hints } = triage(read(heron([300])));
    expect(hints).to.deep.equal(['80 % of the time (8 of 10 s) is in "trace".']);
    const plain = triage(read('Warning: something odd\nError: it broke\nfinished'));
    expect(plain.lacking).to.deep.equal([
      'The log states no times; a statistics file of the render would have them.',
      'The log states no memory; a statistics file of the render would have it.',
    ]);
    expect(plain.kinds.map(({ severity, verdict }) => [severity, verdict.harmless])).to.deep.equal([['error', 'no'], ['warning', 'unknown']]); // prettier-ignore
  });

  it('are compared: what is gone, what is new, where time went', () => {
    const [before, after] = [read(heron([300, 400])), read(heron([300, 400, 500, 900]).replace('cannot open texture', 'unsupported shader'))]; // prettier-ignore
    const { gone, added, sentences } = compareLogs(before, after);
    expect([gone.length, added.length]).to.deep.equal([1, 1]);
    expect(sentences.join('\n')).to.match(/Gone warning: cannot open.*\nNew warning: unsupported shader.*\nmemory peaked at 400 MB, now at 900 MB/); // prettier-ignore
  });

  it('of one JSON object a line are read by their keys', () => {
    const line = (s: number, more: object) => JSON.stringify({ clock: `2026-03-01T05:00:${String(s).padStart(2, '0')}Z`, level: 'note', stage: 'trace', frame: 7, rss: 1024 * 1024, text: 'x', ...more }); // prettier-ignore
    const log = read([line(0, {}), line(5, { level: 'fault', node: '/jar', text: 'NaN in sample' }), line(9, { stage: 'summary' })].join('\n')); // prettier-ignore
    expect([log.format, log.seconds, log.closed, log.memory!.peak]).to.deep.equal(['Millrace', 9, true, 2 ** 30]);
    expect(log.kinds[0]).to.include({ severity: 'error', message: 'NaN in sample' });
  });

  it('stay small however long they are: folded as they come, in pieces cut anywhere', () => {
    const reading = new LogReading(heronFormat);
    const text = heron([300, 400, 900, 500]);
    for (let i = 0; i < text.length; i += 7) reading.push(text.slice(i, i + 7));
    expect(reading.end()).to.deep.equal(read(text));
    const long = new LogReading(heronFormat);
    for (let i = 0; i < 20_000; i++) long.push(`. 1:00:00 <trace> f=1 m=${i % 977} a\n`);
    const { memory, lines } = long.end();
    expect(lines).to.equal(20_000);
    expect(memory!.curve.length).to.be.below(512);
    expect(Math.max(...memory!.curve.map(({ bytes }) => bytes))).to.equal(976 * 2 ** 20);
  });

  it('have formats that are text: they come back as they are, and faults are told by place', () => {
    for (const format of LOG_FORMATS) expect(parseLogFormat(JSON.stringify(format), 'x')).to.deep.equal(format);
    const message = (change: object) => {
      try {
        parseLogFormat(JSON.stringify({ ...ownFormat, ...change }), 'mine.json');
        return 'taken';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(message({ lines: ['('] })).to.match(/mine\.json: \/lines\/0 is "\(", expected a regular expression/);
    expect(message({ lines: ['(?<colour>x)'] })).to.match(/expected groups out of time, severity/);
    expect(message({ time: 'moons' })).to.match(/\/time/);
  });

  it('knows a texture that was prepared elsewhere, and a fatal end by its words', () => {
    const text = (path: string) => `0:00:01 120 MB INFO | reading\n0:00:03 140 MB ERROR | cannot convert texture "${path}" to tiles`;
    expect(read(text('a.exr')).memory!.last).to.equal(140 * 2 ** 20);
    const verdictOf = (path: string) => triage(read(text(path))).kinds.find(({ id }) => id === 'texture-not-converted')!.verdict;
    expect(verdictOf('${ASSETS}/tex/straw.<UDIM>.exr').harmless).to.equal('yes');
    expect(verdictOf('tex/straw.exr').harmless).to.equal('unknown');
    const ended = triage(read(`${text('tex/straw.exr')}\n0:00:04 150 MB FATAL | the scene has no camera`));
    expect(ended.brokeOff!.cause).to.match(/^a fatal error ended it \(line 3\): the scene has no camera/);
  }); // prettier-ignore
});
