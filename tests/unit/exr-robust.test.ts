/** EXR files that were bent: read as far as they go or refused with file and byte, in bounded time and memory. */
import { readFileSync, rmSync, mkdtempSync, writeFileSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { expect } from 'chai';
import { createPicture } from '../../core/data/picture.ts';
import { readExr } from '../../core/formats/exr/read.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { inflate } from '../../host/inflate.ts';
import { exrMeans } from '../../host/kernel.ts';
import { atSize, randomNumbers } from './size.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-bent-'));

describe('bent EXR files', function () {
  this.timeout(600_000);
  const seeds: [string, Uint8Array][] = [];
  before(() => {
    const picture = createPicture(40, 34, ['R', 'G', 'B', 'A', 'Z']);
    const random = randomNumbers(3);
    for (const plane of picture.channels.values()) for (let i = 0; i < plane.length; i++) plane[i] = (i % 40) / 40 + 0.1 * random(); // prettier-ignore
    writeFileSync(join(folder, 's.exr'), writeExr(picture, { deflate: (b) => deflateSync(b), display: { width: 40, height: 34 } })); // prettier-ignore
    const layouts = [[], ['--tile', '16', '16']];
    for (const compression of ['none', 'rle', 'zips', 'zip', 'piz', 'pxr24', 'b44', 'b44a', 'dwaa', 'dwab'])
      for (const layout of layouts) {
        execFileSync('oiiotool', ['s.exr', '-d', 'half', '-d', 'Z=float', '--compression', compression, ...layout, '-o', 'b.exr'], { cwd: folder }); // prettier-ignore
        seeds.push([`${compression} ${layout.join(' ')}`, new Uint8Array(readFileSync(join(folder, 'b.exr')))]);
      }
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('never crash, hang or take memory that the file cannot hold', () => {
    const random = randomNumbers(11);
    const files = atSize(400, 2000);
    let refused = 0;
    let broken = 0;
    for (let n = 0; n < files; n++) {
      const [what, bytes] = seeds[n % seeds.length];
      const bent = bytes.slice(0, random() < 0.2 ? Math.floor(bytes.length * random()) : bytes.length);
      const changes = 1 + Math.floor(random() * 8);
      // Half of them in the header, where sizes, windows and offsets stand.
      for (let k = 0; k < changes; k++) bent[Math.floor(random() * (random() < 0.5 ? Math.min(600, bent.length) : bent.length))] = random() < 0.3 ? 255 : Math.floor(random() * 256); // prettier-ignore
      try {
        const { parts } = readExr(bent, `${what} ${n}.exr`, { inflate, means: n % 2 ? exrMeans() : undefined });
        broken += Number(parts.some(({ missingChunks }) => missingChunks > 0));
        expect(parts.reduce((sum, { planes }) => sum + [...planes.values()].reduce((m, p) => m + p.byteLength, 0), 0)).to.be.lessThan(2 ** 31); // prettier-ignore
      } catch (error) {
        refused += 1;
        expect(error, `${what} ${n}: ${(error as Error).stack}`).to.be.instanceOf(RangeError);
        expect((error as Error).message).to.match(/^.* \d+\.exr: at byte \d+: /);
      }
    }
    expect(refused).to.be.greaterThan(files / 20);
    expect(broken).to.be.greaterThan(files / 20);
  });

  it('are refused before memory is taken for what they only claim', () => {
    const bytes = seeds.find(([what]) => what.startsWith('zip '))![1].slice();
    const at = Buffer.from(bytes).indexOf('dataWindow\0box2i\0') + 'dataWindow\0box2i\0'.length + 4;
    const claim = (maxX: number, maxY: number) => {
      new DataView(bytes.buffer).setInt32(at + 8, maxX, true);
      new DataView(bytes.buffer).setInt32(at + 12, maxY, true);
      return () => readExr(bytes, 'claims.exr', { inflate });
    };
    expect(claim(1_000_000, 1_000_000)).to.throw(RangeError, /has \d+ pixels, more than the 134217728 that are taken/);
    expect(claim(10_000, 10_000)).to.throw(RangeError, /claims \d+ bytes of pixels, which a file of \d+ cannot hold/);
    expect(claim(39, 100_000)).to.throw(RangeError, /the file ends within the table of offsets of part 0/);
    expect(claim(-5, 33)).to.throw(RangeError, /the data window of part 0 is 0, 0 to -5, 33/);
  });
});

describe('an EXR file as Node reads it', () => {
  it('is the same in a Buffer at any place of its memory, uncompressed or not, halves or floats', () => {
    // A Buffer’s own `slice` copies nothing: what has to be copied to be aligned was not.
    const [width, height] = [7, 5];
    const plane = Float32Array.from({ length: width * height }, (_, i) => i / 8);
    for (const type of ['half', 'float'] as const)
      for (const compression of ['none', 'PIZ'] as const) {
        const bytes = writeExr({ x: 0, y: 0, width, height, channels: new Map([['Y', plane]]) }, { display: { width, height }, compression, type: () => type, deflate: (b) => b }); // prettier-ignore
        for (let at = 0; at < 4; at++) {
          const pool = Buffer.alloc(bytes.length + 8);
          pool.set(bytes, at);
          const [part] = readExr(pool.subarray(at, at + bytes.length), 'test', { inflate }).parts;
          expect([part.missingChunks, [...part.planes.get('Y')!]], `${type} ${compression} at ${at}`).to.deep.equal([0, [...plane]]); // prettier-ignore
        }
      }
  });
});
