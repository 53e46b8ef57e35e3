/**
 * EXR files that Debian's own tools wrote (openexr, openimageio-tools), every compression and layout, read back:
 * exactly where nothing is lost, and as the tools read their own lossy files.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { expect } from 'chai';
import { HALF_TO_FLOAT, halfOf } from '../../core/data/half.ts';
import { createPicture, type Picture } from '../../core/data/picture.ts';
import { readExr, type ExrFile, type ExrPlane } from '../../core/formats/exr/read.ts';
import { writeExr, writeExrParts } from '../../core/formats/exr/write.ts';
import { inflate } from '../../host/inflate.ts';
import { randomNumbers } from './size.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-exr-'));
const at = (name: string) => join(folder, name);
const read = (name: string): ExrFile => readExr(new Uint8Array(readFileSync(at(name))), name, { inflate });
const oiio = (...args: string[]) => execFileSync('oiiotool', args, { cwd: folder, stdio: ['ignore', 'pipe', 'pipe'] });

const [WIDTH, HEIGHT] = [133, 91];
/** Smooth ramps, noise, flat parts, highlights, negatives: what a picture has. */
function picture(names: string[], x = 0, y = 0): Picture {
  const out = createPicture(WIDTH, HEIGHT, names, x, y);
  names.forEach((name, c) => {
    const random = randomNumbers(c + 1);
    const plane = out.channels.get(name)!;
    for (let i = 0; i < plane.length; i++) {
      const [px, py] = [i % WIDTH, Math.floor(i / WIDTH)];
      const base = px < 40 ? 0.25 : (px / WIDTH) * (1 + c) + 0.2 * Math.sin(py / 7);
      plane[i] = base + (py > 50 ? 0.1 * random() : 0) + (px === 77 && py % 9 === 0 ? 900 : 0) - (py < 4 ? 0.5 : 0);
    }
  });
  return out;
}
const write = (name: string, of: Picture) =>
  writeFileSync(at(name), writeExr(of, { deflate: (bytes) => deflateSync(bytes), display: { width: WIDTH, height: HEIGHT } })); // prettier-ignore
const asHalf = (value: number) => HALF_TO_FLOAT[halfOf(value)];
const same = (found: ExrPlane, wanted: ArrayLike<number>, what: string) => {
  expect(found.length, what).to.equal(wanted.length);
  for (let i = 0; i < wanted.length; i++)
    if (!Object.is(found[i] + 0, wanted[i] + 0)) expect.fail(`${what}: pixel ${i} is ${found[i]}, not ${wanted[i]}`);
};

const NAMES = ['R', 'G', 'B', 'A', 'diffuse.R', 'N.X'];

describe('EXR files that others wrote', function () {
  this.timeout(60_000);
  const source = picture(NAMES);
  const EXACT = ['none', 'rle', 'zips', 'zip', 'piz'].flatMap((compression) => ['half', 'float', 'uint'].flatMap((type) => ['scanline', 'tile'].map((layout) => ({ compression, type, layout, name: `${compression}-${type}-${layout}` })))); // prettier-ignore
  const THEIRS = ['pxr24', 'b44', 'b44a'].flatMap((compression) => ['half', 'float', 'uint'].map((type) => ({ compression, type, layout: 'scanline', name: `${compression}-${type}` }))); // prettier-ignore
  const CLOSE = ['dwaa', 'dwab'].flatMap((compression) => ['half', 'float'].flatMap((type) => ['scanline', 'tile'].map((layout) => ({ compression, type, layout, name: `${compression}-${type}-${layout}` })))); // prettier-ignore
  // Whole numbers stand for a share of the whole; those of 32 bits come from a plain file of the same.
  const format = (type: string) => (type === 'uint' ? 'uint32' : type);

  before(() => {
    write('source.exr', source);
    // The tool takes longer to begin than to write: all files by one call, what it reads of its lossy ones by another.
    oiio('source.exr', ...[...EXACT, ...THEIRS, ...CLOSE].flatMap(({ compression, type, layout, name }) => ['-d', format(type), '--compression', compression, ...(layout === 'tile' ? ['--tile', '37', '29'] : ['--scanline']), '-o', `${name}.exr`])); // prettier-ignore
    oiio(...[...THEIRS, ...CLOSE].flatMap(({ type, name }) => [`${name}.exr`, '-d', format(type), '--compression', 'none', '--scanline', '-o', `${name}.plain.exr`])); // prettier-ignore
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  for (const { compression, type, layout, name } of EXACT)
    it(`come out exactly: ${compression}, ${type}, ${layout}`, () => {
      const [part] = read(`${name}.exr`).parts;
      expect([part.width, part.height, part.missingChunks, part.broken.length]).to.deep.equal([WIDTH, HEIGHT, 0, 0]);
      expect(part.compression.toLowerCase()).to.equal(compression);
      expect(part.tiles !== null).to.equal(layout === 'tile');
      expect([...part.planes.keys()].sort()).to.deep.equal([...NAMES].sort());
      for (const channel of NAMES) {
        const plane = source.channels.get(channel)!;
        if (type === 'half') same(part.planes.get(channel)!, plane.map(asHalf), channel);
        else if (type === 'float') same(part.planes.get(channel)!, plane, channel);
      }
      if (type === 'uint' && compression !== 'none') {
        const [plain] = read('none-uint-scanline.exr').parts;
        for (const channel of NAMES) same(part.planes.get(channel)!, plain.planes.get(channel)!, channel);
      }
    });

  for (const { compression, type, name } of THEIRS)
    it(`come out as their own library has them: ${compression}, ${type}`, () => {
      const [lossy, plain] = [read(`${name}.exr`).parts[0], read(`${name}.plain.exr`).parts[0]];
      expect(lossy.compression.toLowerCase()).to.equal(compression);
      for (const channel of NAMES) same(lossy.planes.get(channel)!, plain.planes.get(channel)!, channel);
    });

  for (const { compression, type, layout, name } of CLOSE)
    it(`come out within a step of a half of their own library: ${compression}, ${type}, ${layout}`, () => {
      const [lossy, plain] = [read(`${name}.exr`).parts[0], read(`${name}.plain.exr`).parts[0]];
      expect([lossy.broken, lossy.missingChunks]).to.deep.equal([[], 0]);
      expect(lossy.compression.toLowerCase()).to.equal(compression);
      expect(lossy.tiles !== null).to.equal(layout === 'tile');
      let exact = 0;
      for (const channel of NAMES) {
        const [found, wanted] = [lossy.planes.get(channel)!, plain.planes.get(channel)!];
        for (let i = 0; i < found.length; i++) {
          // The last bit of the transform, which differs between machines, is up to 2.2 × 2 steps after its curve.
          const step = Math.max(2 ** -24, 2 ** (Math.floor(Math.log2(Math.abs(wanted[i]) || 1e-9)) - 10));
          if (Math.abs(found[i] - wanted[i]) > 6 * step) expect.fail(`${channel} ${i}: ${found[i]} against ${wanted[i]}`); // prettier-ignore
          exact += Number(found[i] === wanted[i]);
        }
      }
      expect(exact / (NAMES.length * WIDTH * HEIGHT)).to.be.greaterThan(0.98);
    });

  it('come out of several parts, each by its own windows and channels', () => {
    write('a.exr', picture(['R', 'G', 'B']));
    write('b.exr', picture(['depth.Z'], -20, 7));
    oiio('a.exr', '-d', 'half', 'b.exr', '--siappend', '--compression', 'zip', '-o', 'parts.exr');
    const { parts, isMultiPart } = read('parts.exr');
    expect([isMultiPart, parts.length]).to.deep.equal([true, 2]);
    expect(parts[1].dataWindow).to.deep.equal({ minX: -20, minY: 7, maxX: -20 + WIDTH - 1, maxY: 7 + HEIGHT - 1 });
    same(parts[0].planes.get('G')!, picture(['R', 'G']).channels.get('G')!.map(parts[0].channels[0].type === 'half' ? asHalf : (v) => v), 'G'); // prettier-ignore
    expect([...parts[1].planes.keys()]).to.deep.equal(['depth.Z']);
  });

  for (const mode of ['-m', '-r'])
    it(`come out of tiles with further levels at full size: ${mode}`, () => {
      write('rgb.exr', picture(['R', 'G', 'B']));
      execFileSync('exrmaketiled', [mode, '-t', '16', '24', '-z', 'piz', at('rgb.exr'), at('levels.exr')]);
      const [part] = read('levels.exr').parts;
      expect([part.tiles!.levels, part.missingChunks]).to.deep.equal([mode === '-m' ? 'mip' : 'rip', 0]);
      const wanted = picture(['R', 'G', 'B']).channels;
      for (const [name, plane] of part.planes) same(plane, wanted.get(name)!.map(part.channels[0].type === 'half' ? asHalf : (v) => v), name); // prettier-ignore
    });

  it('keep their attributes: owner, chromaticities, pixel aspect, numbers and text', () => {
    execFileSync('exrstdattr', ['-owner', 'Halfmoon', '-comments', 'dawn, take 3', '-pixelAspectRatio', '2', '-framesPerSecond', '24', '1', '-string', 'lens', '50 mm', '-chromaticities', '0.64', '0.33', '0.3', '0.6', '0.15', '0.06', '0.3127', '0.329', at('source.exr'), at('attributes.exr')]); // prettier-ignore
    const [{ attributes, pixelAspect }] = read('attributes.exr').parts;
    expect(pixelAspect).to.equal(2);
    expect(attributes).to.include({ owner: 'Halfmoon', comments: 'dawn, take 3', lens: '50 mm' });
    expect(attributes.framesPerSecond).to.deep.equal([24, 1]);
    expect((attributes.chromaticities as number[]).map((v) => +v.toFixed(4))).to.deep.equal([0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329]); // prettier-ignore
  });

  it('are read as far as they go when they are cut short, and say what is missing', () => {
    oiio('source.exr', '-d', 'half', '--compression', 'zip', '-o', 'whole.exr');
    const bytes = new Uint8Array(readFileSync(at('whole.exr')));
    const [whole] = readExr(bytes, 'whole.exr', { inflate }).parts;
    const [short] = readExr(bytes.subarray(0, bytes.length * 0.6), 'short.exr', { inflate }).parts;
    expect(short.missingChunks).to.be.within(1, 5);
    const [r, s] = [whole.planes.get('R')!, short.planes.get('R')!];
    same(s.subarray(0, WIDTH * 16), r.subarray(0, WIDTH * 16), 'the first chunk');
    expect([...s.subarray(-WIDTH)].every((v) => v === 0)).to.equal(true);
  });

  it('are read in part when only some channels are wanted', () => {
    const bytes = new Uint8Array(readFileSync(at('whole.exr')));
    const [part] = readExr(bytes, 'w', { inflate, want: (_, name) => name === 'N.X' }).parts;
    expect([...part.planes.keys()]).to.deep.equal(['N.X']);
    expect(part.channels.length).to.equal(NAMES.length);
  });
});

describe('EXR files of ours', function () {
  this.timeout(60_000);
  const own = mkdtempSync(join(tmpdir(), 'dusting-own-'));
  after(() => rmSync(own, { recursive: true, force: true }));
  const deflate = (bytes: Uint8Array) => deflateSync(bytes);
  const display = { width: WIDTH, height: HEIGHT };

  const OURS = (['none', 'RLE', 'ZIPS', 'ZIP', 'PIZ'] as const).flatMap((compression) => (['half', 'float', 'uint'] as const).map((type) => ({ compression, type, name: `${compression}-${type}` }))); // prettier-ignore
  const sourceOf = (type: string) => {
    const source = picture(['R', 'G', 'B', 'Z']);
    if (type === 'uint') for (const plane of source.channels.values()) plane.forEach((v, i) => (plane[i] = Math.floor(Math.abs(v) * 1000))); // prettier-ignore
    return source;
  };
  before(() => {
    for (const { compression, type, name } of OURS)
      writeFileSync(join(own, `${name}.exr`), writeExr(sourceOf(type), { deflate, display, compression, type: () => type })); // prettier-ignore
    execFileSync('oiiotool', OURS.flatMap(({ name }) => [`${name}.exr`, '--compression', 'none', '-o', `${name}.theirs.exr`]), { cwd: own }); // prettier-ignore
  });
  for (const { compression, type, name } of OURS)
    it(`are read by us and by Debian's tools alike: ${compression}, ${type}`, () => {
      const source = sourceOf(type);
      const open = (file: string) => readExr(new Uint8Array(readFileSync(join(own, file))), file, { inflate }).parts[0];
      const [part, theirs] = [open(`${name}.exr`), open(`${name}.theirs.exr`)];
      expect([part.compression, part.missingChunks]).to.deep.equal([compression, 0]);
      for (const [name, plane] of source.channels) same(part.planes.get(name)!, type === 'half' ? plane.map(asHalf) : plane, name); // prettier-ignore
      for (const channel of source.channels.keys())
        same(theirs.planes.get(channel)!, part.planes.get(channel)!, channel);
    });

  it('hold several parts, which exrmultipart takes apart', () => {
    const [a, b] = [picture(['R', 'G', 'B']), picture(['Z'], 5, 6)];
    const bytes = writeExrParts(
      [
        { name: 'beauty', picture: a, options: { display, compression: 'PIZ', attributes: { note: 'first' } } },
        { name: 'depth', picture: b, options: { display, type: () => 'half' } },
      ],
      deflate,
    );
    writeFileSync(join(own, 'parts.exr'), bytes);
    execFileSync('exrmultipart', ['-separate', '-i', 'parts.exr', '-o', 'apart'], { cwd: own });
    const [first] = readExr(new Uint8Array(readFileSync(join(own, 'apart.1.exr'))), '1', { inflate }).parts;
    const [second] = readExr(new Uint8Array(readFileSync(join(own, 'apart.2.exr'))), '2', { inflate }).parts;
    same(first.planes.get('G')!, a.channels.get('G')!, 'G');
    same(second.planes.get('Z')!, b.channels.get('Z')!.map(asHalf), 'Z');
    expect(second.dataWindow).to.include({ minX: 5, minY: 6 });
    const mine = readExr(bytes, 'parts.exr', { inflate }).parts;
    expect(mine.map(({ name, attributes }) => [name, attributes.note ?? null])).to.deep.equal([['beauty', 'first'], ['depth', null]]); // prettier-ignore
    expect(() => writeExrParts([{ name: 'a', picture: a, options: { display } }, { name: 'a', picture: b, options: { display } }], deflate)).to.throw(/names, each its own/); // prettier-ignore
  });
});

describe('halves', () => {
  it('are what IEEE 754 says: 1, the largest, the smallest, the smallest normal one', () => {
    expect([0x3c00, 0x7bff, 0x0001, 0x0400, 0xfc00, 0x8000].map((bits) => HALF_TO_FLOAT[bits])).to.deep.equal([1, 65504, 2 ** -24, 2 ** -14, -Infinity, -0]); // prettier-ignore
    expect(Number.isNaN(HALF_TO_FLOAT[0x7e00])).to.equal(true);
  });

  it('come back from every value they have, and round to the nearest, ties to even', () => {
    for (let bits = 0; bits < 65536; bits++)
      if (!Number.isNaN(HALF_TO_FLOAT[bits])) expect(halfOf(HALF_TO_FLOAT[bits])).to.equal(bits);
    const tie = (a: number) => (HALF_TO_FLOAT[a] + HALF_TO_FLOAT[a + 1]) / 2;
    for (const bits of [0x3c00, 0x3c01, 0x0001, 0x03ff, 0x6bff, 0x0000]) expect(halfOf(tie(bits)), String(bits)).to.equal(bits + (bits & 1)); // prettier-ignore
    expect([65519.99, 65520, 1e9].map(halfOf)).to.deep.equal([0x7bff, 0x7c00, 0x7c00]);
    expect(halfOf(NaN)).to.equal(0x7e00);
  });
});
