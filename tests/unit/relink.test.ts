/** Missing files found among others; statistics that come beside logs; profiles compared. */
import { expect } from 'chai';
import { readSums, relink } from '../../core/intake/files/relink.ts';
import { compareProfiles } from '../../core/intake/compare-profiles.ts';
import { ownFormat } from '../../core/intake/log/formats/own.ts';
import { LogReading } from '../../core/intake/log/read.ts';
import { parseStatistics, withStatistics } from '../../core/intake/log/statistics.ts';

const at = (path: string, hash = path) => ({ path, hash });

describe('relinking', () => {
  it('goes by path, then checksum, then name, of which the one with most folders in common counts', () => {
    const candidates = [at('a/tex/sign.png'), at('b/sign.png'), at('tex/board.png'), at('renamed.bin', 'h1')];
    const sums = new Map([['geometry/hive.glb', 'h1']]);
    const { found, lost } = relink(['tex/board.png', 'geometry/hive.glb', 'old/tex/sign.png', 'none.png'], candidates, sums); // prettier-ignore
    expect(found).to.deep.equal([
      { path: 'tex/board.png', from: 'tex/board.png', by: 'path' },
      { path: 'geometry/hive.glb', from: 'renamed.bin', by: 'checksum' },
      { path: 'old/tex/sign.png', from: 'a/tex/sign.png', by: 'name' },
    ]);
    expect(lost).to.deep.equal(['none.png']);
  });

  it('takes neither of two different files of one name, and either of two equal ones', () => {
    expect(relink(['x/sign.png'], [at('b/sign.png'), at('a/sign.png')]).unclear).to.deep.equal([
      { path: 'x/sign.png', from: ['a/sign.png', 'b/sign.png'] },
    ]);
    expect(relink(['x/sign.png'], [at('a/sign.png', 'h'), at('b/SIGN.png', 'h')]).found.length).to.equal(1);
  });

  it('does not take a file of the right path with another checksum than it had', () => {
    const { found } = relink(['tex/a.png'], [at('tex/a.png', 'new'), at('kept.png', 'old')], new Map([['tex/a.png', 'old']])); // prettier-ignore
    expect(found).to.deep.equal([{ path: 'tex/a.png', from: 'kept.png', by: 'checksum' }]);
  });

  it('reads what sha256sum writes, text and binary lines, and passes over the rest', () => {
    const sum = 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855';
    const text = `${sum}  ./empty\n${sum.toUpperCase()} *tex/b.png\r\nnot a sum\n`;
    expect([...readSums(text)]).to.deep.equal([
      ['empty', sum],
      ['tex/b.png', sum],
    ]);
  });
});

describe('statistics beside a log', () => {
  const log = (text: string) => {
    const reading = new LogReading(ownFormat);
    reading.push(text);
    return reading.end();
  };
  const bare = () => log('a line\nanother\n');

  it('fill what the log lacks, from JSON or from a table of frames', () => {
    const json = parseStatistics(JSON.stringify({ schema: 'dusting.statistics/1', seconds: 812, peakMemory: 5e9, phases: { trace: 700 }, rays: { camera: 9 } }), 's.json'); // prettier-ignore
    expect(withStatistics(bare(), json)).to.deep.include({ seconds: 812, phases: [{ name: 'trace', seconds: 700, lines: 0 }], rays: { camera: 9 } }); // prettier-ignore
    const table = parseStatistics('frame,peak_memory_mb,seconds\n1001,512,60\n\n1002,,90\n', 's.csv');
    const { seconds, memory, frames } = withStatistics(bare(), table);
    expect([seconds, memory!.peak]).to.deep.equal([150, 512 * 2 ** 20]);
    expect(frames.map((frame) => [frame.frame, frame.seconds, frame.peakMemory])).to.deep.equal([
      [1001, 60, 512 * 2 ** 20],
      [1002, 90, null],
    ]);
  });

  it('replace nothing that the log states itself', () => {
    const own = log('+1.0s info [open] frame 7 mem 10 MB: a\n+9.0s info [done] frame 7 mem 12 MB: wrote a.exr\n');
    const filled = withStatistics(own, parseStatistics('frame,seconds,peak_memory_mb\n7,500,9999', 's.csv'));
    expect([filled.seconds, filled.memory!.peak]).to.deep.equal([own.seconds, own.memory!.peak]);
  });

  for (const [text, where] of [
    ['minutes\n1', /\/1 is "minutes"/],
    ['frame,seconds\n1001,quick', /\/2 is "1001,quick"/],
    ['frame,seconds\n1001,-4', /\/2 is/],
    ['{"schema":"dusting.statistics/1","seconds":"long"}', /\/seconds is "long"/],
  ] as const)
    it(`are refused by place: ${text.split('\n').at(-1)}`, () =>
      expect(() => parseStatistics(text, 's')).to.throw(where));
});

describe('profiles compared', () => {
  it('are told place by place, in depth, and lists by item', () => {
    const a = { name: 'a', width: 960, thresholds: { ngon: { stop: 1 } }, roots: ['/x'], same: [1] };
    const b = { name: 'b', width: 1920, thresholds: {}, roots: ['/x', '/y'], same: [1] };
    expect(compareProfiles(a, b)).to.deep.equal([
      { path: '/name', a: 'a', b: 'b' },
      { path: '/width', a: 960, b: 1920 },
      { path: '/thresholds/ngon', a: { stop: 1 }, b: undefined },
      { path: '/roots/1', a: undefined, b: '/y' },
    ]);
    expect(compareProfiles(a, structuredClone(a))).to.deep.equal([]);
  });
});
