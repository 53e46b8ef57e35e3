/** Pictures of every format in one form, against Debian's OpenImageIO in both directions; bent files of each. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { expect } from 'chai';
import { linearFromSrgb } from '../../core/data/colour.ts';
import { createPicture } from '../../core/data/picture.ts';
import { writeExr, writeExrParts } from '../../core/formats/exr/write.ts';
import { writeHdr } from '../../core/formats/hdr.ts';
import { writePfm } from '../../core/formats/pfm.ts';
import { readPictureFile } from '../../core/formats/picture-file.ts';
import { writePng } from '../../core/formats/png.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { readTiff } from '../../core/formats/tiff.ts';
import { examinePicture } from '../../core/picture/examine.ts';
import { inflate } from '../../host/inflate.ts';
import { atSize, randomNumbers } from './size.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-pictures-'));
const oiio = (...args: string[]) => execFileSync('oiiotool', args, { cwd: folder, stdio: ['ignore', 'pipe', 'pipe'] });
const bytesOf = (name: string) => new Uint8Array(readFileSync(join(folder, name)));
const read = async (name: string) => (await readPictureFile(bytesOf(name), name, { inflate })).parts[0];

const [WIDTH, HEIGHT] = [40, 24];
const texels = Float32Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => (Math.floor(i / 3) % WIDTH < 9 ? 0.25 : ((i * 7919) % 1000) / 250)); // prettier-ignore

describe('pictures of other formats', function () {
  this.timeout(600_000);
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('are read from TIFF in floats, and in 8 and 16 bits as display values', async () => {
    oiio('--create', '64x32', '4', '--fill:color=2.5,0.25,0.125,0.5', '64x32', '-d', 'float', '--compression', 'none', '-o', 'f.tif'); // prettier-ignore
    const f = await read('f.tif');
    // At an odd place of a Buffer, whose own `slice` copies nothing.
    const bytes = readFileSync(join(folder, 'f.tif'));
    const pool = Buffer.alloc(bytes.length + 8);
    pool.set(bytes, 3);
    const shifted = readTiff(pool.subarray(3, 3 + bytes.length), 'f.tif');
    expect([...shifted.planes.get('R')!]).to.deep.equal([...readTiff(new Uint8Array(bytes), 'f.tif').planes.get('R')!]);
    expect(pool.subarray(3, 3 + bytes.length).equals(bytes), 'and nothing of it is written to').to.equal(true);
    expect(['R', 'G', 'B', 'A'].map((name) => f.planes.get(name)![100])).to.deep.equal([2.5, 0.25, 0.125, 0.5]);
    for (const [type, top] of [
      ['uint8', 255],
      ['uint16', 65535],
    ] as const) {
      oiio('f.tif', '-d', type, '--compression', 'zip', '-o', 'u.tif');
      const u = await read('u.tif');
      expect(u.planes.get('G')![100]).to.be.closeTo(linearFromSrgb(Math.round(0.25 * top) / top), 1e-6);
      expect(u.planes.get('A')![100]).to.be.closeTo(Math.round(0.5 * top) / top, 1e-6);
    }
  });

  it('are found beside an image that has lost its alpha, a TIFF by what stands in its directory', async () => {
    oiio('--create', '8x8', '3', '-d', 'uint8', '-o', 'label.png');
    for (const [name, channels, found] of [['label_alpha.tif', '4', true], ['label.tif', '3', false]] as const) {
      oiio('--create', '8x8', channels, '--fill:color=1,1,1,0.5', '8x8', '-d', 'uint8', '-o', name);
      const obj = new TextEncoder().encode('mtllib a.mtl\nusemtl print\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3');
      const mtl = new TextEncoder().encode('newmtl print\nmap_Kd label.png');
      const own = (file: string) => new Uint8Array(readFileSync(join(folder, file)));
      const files = new Map([['a.obj', obj], ['a.mtl', mtl], ['label.png', own('label.png')], [name, own(name)]]);
      const { images } = await readScene('a.obj', filesInMemory(files));
      expect(images[0].sibling?.path, name).to.equal(found ? name : undefined);
    }
  }); // prettier-ignore

  it('say what they cannot read of a TIFF', async () => {
    oiio('f.tif', '-d', 'float', '--compression', 'zip', '-o', 'p.tif');
    const refused = await read('p.tif').then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(refused).to.match(/^p\.tif: is not a readable TIFF \(its floats are packed as differences, predictor 3/);
  });

  it('are written as Radiance HDR so that OpenImageIO reads them within half a step of a mantissa', async () => {
    writeFileSync(join(folder, 'w.hdr'), writeHdr(WIDTH, HEIGHT, texels));
    oiio('w.hdr', '-d', 'float', '-o', 'w.exr');
    const found = await read('w.exr');
    for (let i = 0; i < WIDTH * HEIGHT; i++) {
      const most = Math.max(texels[i * 3], texels[i * 3 + 1], texels[i * 3 + 2]);
      for (let c = 0; c < 3; c++)
        expect(Math.abs(found.planes.get('RGB'[c])![i] - texels[i * 3 + c])).to.be.at.most(most / 128);
    }
    // Our own reader adds half a step, as Ward's does, and is twice as near.
    const own = await read('w.hdr');
    for (let i = 0; i < WIDTH * HEIGHT; i++) {
      const most = Math.max(texels[i * 3], texels[i * 3 + 1], texels[i * 3 + 2]);
      expect(Math.abs(own.planes.get('G')![i] - texels[i * 3 + 1])).to.be.at.most(most / 255);
    }
  });

  it('are written as grey and colour PFM, and as PNG of 16 bits, exactly', async () => {
    writeFileSync(join(folder, 'c.pfm'), writePfm(WIDTH, HEIGHT, texels));
    writeFileSync(join(folder, 'g.pfm'), writePfm(WIDTH, HEIGHT, texels.filter((_, i) => i % 3 === 0))); // prettier-ignore
    oiio('c.pfm', '-d', 'float', '-o', 'c.exr');
    const c = await read('c.exr');
    expect([...c.planes.get('G')!]).to.deep.equal([...texels.filter((_, i) => i % 3 === 1)]);
    expect([...(await read('g.pfm')).planes.get('B')!]).to.deep.equal([...texels.filter((_, i) => i % 3 === 0)]);
    const deep = Uint16Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => (i * 977) % 65536);
    writeFileSync(join(folder, 'd.png'), writePng(WIDTH, HEIGHT, deep));
    oiio('d.png', '-d', 'float', '-o', 'd.exr');
    expect((await read('d.exr')).planes.get('R')![5]).to.be.closeTo(deep[15] / 65535, 1e-6);
  });

  it('obey the gamma that a PNG states, and sRGB where it states nothing', async () => {
    const grey = new Uint8Array(3 * 4).fill(128);
    const plain = writePng(2, 2, grey);
    writeFileSync(join(folder, 'plain.png'), plain);
    expect((await read('plain.png')).planes.get('R')![0]).to.be.closeTo(linearFromSrgb(128 / 255), 1e-6);
    // A gAMA chunk of 1 after the header: linear.
    const chunk = Uint8Array.of(0, 0, 0, 4, 0x67, 0x41, 0x4d, 0x41, 0, 1, 0x86, 0xa0, 0x31, 0xe8, 0x96, 0x5f);
    writeFileSync(join(folder, 'linear.png'), Buffer.concat([plain.subarray(0, 33), chunk, plain.subarray(33)]));
    expect((await read('linear.png')).planes.get('R')![0]).to.be.closeTo(128 / 255, 1e-6);
  });

  it('of several parts are one picture with the parts’ names before their channels', async () => {
    const part = (name: string, channels: string[]) => ({
      name,
      picture: createPicture(8, 8, channels),
      options: { display: { width: 8, height: 8 } },
    });
    const bytes = writeExrParts([part('rgba', ['R', 'G', 'B']), part('diffuse', ['R', 'G', 'B']), part('N', ['X', 'Y', 'Z'])], (raw) => deflateSync(raw)); // prettier-ignore
    const { layers, parts } = examinePicture(await readPictureFile(bytes, 'parts.exr', { inflate }));
    expect(layers.map(({ name, role, part: number }) => [name, role, number])).to.deep.equal([['rgba', 'beauty', 0], ['diffuse', 'light', 1], ['N', 'data', 2]]); // prettier-ignore
    expect(parts[1].channels.map(({ name }) => name)).to.deep.equal(['diffuse.B', 'diffuse.G', 'diffuse.R']);
  });

  it('never crash, hang or take memory without end when they are bent', async () => {
    const exr = createPicture(WIDTH, HEIGHT, ['R', 'G', 'B']);
    writeFileSync(join(folder, 'seed.exr'), writeExr(exr, { deflate: (raw) => deflateSync(raw), display: exr }));
    writeFileSync(join(folder, 'seed.hdr'), writeHdr(WIDTH, HEIGHT, texels));
    writeFileSync(join(folder, 'seed.pfm'), writePfm(WIDTH, HEIGHT, texels));
    oiio('w.hdr', '-d', 'uint8', '-o', 'seed.png');
    oiio('w.hdr', '-d', 'uint8', '-o', 'seed.jpg');
    oiio('w.hdr', '-d', 'float', '--compression', 'lzw', '-o', 'seed.tif');
    const random = randomNumbers(21);
    for (const ending of ['hdr', 'pfm', 'png', 'jpg', 'tif']) {
      const seed = bytesOf(`seed.${ending}`);
      let refused = 0;
      const files = atSize(200, 2000);
      for (let n = 0; n < files; n++) {
        const bent = seed.slice(0, random() < 0.3 ? Math.floor(seed.length * random()) : seed.length);
        for (let k = 0; k < 1 + random() * 6; k++) bent[Math.floor(random() * (random() < 0.6 ? Math.min(80, bent.length) : bent.length))] = Math.floor(random() * 256); // prettier-ignore
        const name = `${n}.${ending}`;
        const begin = Date.now();
        try {
          const { parts } = await readPictureFile(bent, name, { inflate });
          expect(parts[0].width * parts[0].height, name).to.be.below(2 ** 28);
        } catch (error) {
          refused += 1;
          expect(error, `${name}: ${(error as Error).stack}`).to.be.instanceOf(RangeError);
          expect((error as Error).message, name).to.match(new RegExp(`^${n}\\.${ending}: `));
        }
        expect(Date.now() - begin, `${name} took long`).to.be.below(10_000);
      }
      expect(refused, ending).to.be.greaterThan(files / 20);
    }
  });
});
