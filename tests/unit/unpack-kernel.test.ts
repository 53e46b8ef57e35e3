/** The kernel that EXR files are read with, against its TypeScript twin and against IEEE 754. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { expect } from 'chai';
import { HALF_TO_FLOAT } from '../../core/data/half.ts';
import { createPicture } from '../../core/data/picture.ts';
import { restored } from '../../core/formats/exr/compression/byte-order.ts';
import { readExr } from '../../core/formats/exr/read.ts';
import { plainMeans } from '../../core/formats/exr/unpack-kernel.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { inflate } from '../../host/inflate.ts';
import { exrMeans } from '../../host/kernel.ts';
import { randomNumbers } from './size.ts';

describe('the kernel that unpacks EXR', () => {
  it('puts bytes in order as its twin does, whatever their number', () => {
    const random = randomNumbers(9);
    for (const length of [1, 2, 15, 16, 17, 31, 32, 33, 63, 64, 65, 1000, 4097, 99_991, 3_000_000]) {
      const packed = Uint8Array.from({ length }, () => random() * 256);
      expect(Buffer.from(exrMeans().restore(packed)).equals(Buffer.from(restored(packed))), `${length}`).to.equal(true);
    }
  });

  it('widens every half to the float it stands for, subnormal, infinite and no number alike', () => {
    const halves = Uint16Array.from({ length: 65536 }, (_, i) => i);
    const plane = new Float32Array(65536);
    exrMeans().widen(new Uint8Array(halves.buffer), 0, 65536, plane, 0);
    for (let i = 0; i < 65536; i++) if (!Object.is(plane[i], HALF_TO_FLOAT[i])) expect.fail(`half ${i} is ${plane[i]}, not ${HALF_TO_FLOAT[i]}`); // prettier-ignore
    // IEEE 754: the largest, the smallest, and one third.
    expect([plane[0x7bff], plane[1], plane[0x3555]]).to.deep.equal([65504, 2 ** -24, 0.333251953125]);
  });

  it('widens rows of any number to any place, and nothing beside them', () => {
    const lines = new Uint8Array(Uint16Array.from({ length: 64 }, (_, i) => 0x3c00 + i).buffer);
    for (const count of [1, 7, 8, 9, 23])
      for (const means of [plainMeans, exrMeans()]) {
        const plane = new Float32Array(40).fill(-1);
        means.widen(lines, 6, count, plane, 5);
        expect([...plane.subarray(0, 5), ...plane.subarray(5 + count)].every((v) => v === -1)).to.equal(true);
        expect([...plane.subarray(5, 5 + count)]).to.deep.equal(Array.from({ length: count }, (_, i) => HALF_TO_FLOAT[0x3c03 + i])); // prettier-ignore
      }
  });

  it('reads whole files as the twin does', () => {
    const picture = createPicture(133, 47, ['R', 'G', 'B', 'Z']);
    const random = randomNumbers(2);
    for (const plane of picture.channels.values()) for (let i = 0; i < plane.length; i++) plane[i] = random() * 9 - 1;
    const type = (name: string) => (name === 'Z' ? 'float' : 'half');
    const files = (['none', 'RLE', 'ZIPS', 'ZIP', 'PIZ'] as const).map((compression) => writeExr(picture, { deflate: (raw) => deflateSync(raw), display: picture, type, compression })); // prettier-ignore
    files.push(new Uint8Array(readFileSync(join(import.meta.dirname, '../../demo/ha-020/frames/lantern-push.1007.exr')))); // prettier-ignore
    for (const bytes of files) {
      const [a] = readExr(bytes, 'a.exr', { inflate }).parts;
      const [b] = readExr(bytes, 'a.exr', { inflate, means: exrMeans() }).parts;
      expect(b.missingChunks).to.equal(a.missingChunks);
      for (const [name, plane] of a.planes) expect(Buffer.from(plane.buffer as ArrayBuffer).equals(Buffer.from(b.planes.get(name)!.buffer as ArrayBuffer)), name).to.equal(true); // prettier-ignore
    }
  });

  /** Halves of noise, and floats of so many values that the sums of their wavelet wrap around. */
  function noisy(width: number, height: number, steps = 2 ** 20): Uint8Array {
    const picture = createPicture(width, height, ['R', 'Z']);
    const random = randomNumbers(4);
    for (const plane of picture.channels.values()) for (let i = 0; i < plane.length; i++) plane[i] = random() < 0.2 ? 0 : Math.round(random() * steps) / steps * 9 - 1; // prettier-ignore
    return writeExr(picture, { deflate: (raw) => deflateSync(raw), display: picture, type: (name) => (name === 'Z' ? 'float' : 'half'), compression: 'PIZ' }); // prettier-ignore
  }

  function expectSame(bytes: Uint8Array, what: string): number {
    const [a, b] = [undefined, exrMeans()].map((means) => readExr(bytes, 'a.exr', { inflate, means }).parts[0]);
    expect(b.broken, what).to.deep.equal(a.broken);
    for (const [name, plane] of a.planes) {
      const other = b.planes.get(name)!;
      // Not a number is one, whatever else its bits say.
      const at = plane.findIndex((value, i) => !Object.is(value, other[i]));
      if (at >= 0) expect.fail(`${what}, ${name} ${at}: ${plane[at]} and ${other[at]}`);
    }
    return a.broken.length;
  }

  it('undoes PIZ as its twin does, of any size, with sums that fit and sums that wrap', () => {
    for (const [width, height] of [[1, 1], [2, 3], [31, 33], [64, 32], [900, 40]]) expect(expectSame(noisy(width, height), `${width} × ${height}`)).to.equal(0); // prettier-ignore
  });

  it('finds the same wrong with bent PIZ chunks, in the same words, as its twin', () => {
    // Of few values, so that chunks are packed at all.
    const whole = noisy(60, 32, 8);
    const random = randomNumbers(8);
    let broken = 0;
    for (let k = 0; k < 300; k++) {
      const bent = whole.slice();
      // Beyond the header and the table of offsets.
      for (let n = 0; n <= k % 3; n++)
        bent[Math.floor(400 + random() * (bent.length - 400))] ^= 1 << Math.floor(random() * 8);
      broken += expectSame(bent, `bent ${k}`);
    }
    expect(broken).to.be.above(20);
  });
});
