/** Images that other programs wrote, read by ours: OpenImageIO makes each from values that are known. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { linearFromSrgb } from '../../core/data/colour.ts';
import { HALF_TO_FLOAT, halfOf } from '../../core/data/half.ts';
import { readHdrTexture } from '../../core/formats/hdr.ts';
import { readImageHeader } from '../../core/formats/image-header.ts';
import { readPngTexture, writePng } from '../../core/formats/png.ts';
import { writePfm } from '../../core/formats/pfm.ts';
import { readTexture } from '../../core/formats/texture-readers.ts';
import { standInTexture } from '../../core/textures/stand-in.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-images-'));
const oiio = (...args: string[]) => execFileSync('oiiotool', args, { cwd: folder });
const bytes = (name: string) => new Uint8Array(readFileSync(join(folder, name)));

describe('Images of other programs', () => {
  after(() => rmSync(folder, { recursive: true, force: true }));
  const [width, height] = [40, 12];
  /** From a thousandth to a thousand, a ramp in each channel, with runs of equal values. */
  const value = (x: number, y: number, c: number) => 10 ** ((Math.floor(x / (c + 1)) / width) * 6 - 3) * (1 + (y % 3));
  const texels = Float32Array.from({ length: width * height * 3 }, (_, i) =>
    value(Math.floor(i / 3) % width, Math.floor(i / 3 / width), i % 3),
  );

  it('Radiance HDR: within the 1 % that eight bits of mantissa allow', () => {
    writeFileSync(join(folder, 'a.pfm'), writePfm(width, height, texels));
    oiio('a.pfm', '-o', 'a.hdr');
    const read = readTexture(bytes('a.hdr'), 'linear', 'a.hdr');
    expect([read.width, read.height]).to.deep.equal([width, height]);
    for (let i = 0; i < texels.length; i += 3) {
      // The largest channel of a pixel sets the exponent for all three.
      const step = Math.max(...texels.slice(i, i + 3)) / 128;
      for (let c = 0; c < 3; c++) expect(read.texels[i + c]).to.be.closeTo(texels[i + c], step);
    }
    const header = readImageHeader(bytes('a.hdr'))!;
    expect(header).to.include({ kind: 'Radiance HDR', width, height });
  });

  it('Radiance HDR, flat and with the older runs, as its document writes them', () => {
    const text = (s: string) => [...s].map((c) => c.charCodeAt(0));
    const head = text('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\nEXPOSURE=2\n\n-Y 1 +X 4\n');
    const { texels: t } = readHdrTexture(Uint8Array.from([...head, 128, 64, 0, 129, 1, 1, 1, 3]), 'old.hdr');
    expect([...t.slice(0, 3)].map((v) => +v.toFixed(4))).to.deep.equal([0.502, 0.252, 0.002]);
    expect([...t.slice(9, 12)]).to.deep.equal([...t.slice(0, 3)]);
  });

  it('JPEG: as the PNG it was made from, within a few display steps', () => {
    const rgb = Uint8Array.from({ length: 64 * 48 * 3 }, (_, i) => 40 + ((Math.floor(i / 3) % 64) * 2 + (i % 3) * 20));
    writeFileSync(join(folder, 'b.png'), writePng(64, 48, rgb));
    oiio('b.png', '--quality', '98', '-o', 'b.jpg');
    const [jpeg, png] = [readTexture(bytes('b.jpg'), 'srgb', 'b.jpg'), readPngTexture(bytes('b.png'), 'srgb', 'b.png')];
    const step = linearFromSrgb(1) - linearFromSrgb(1 - 4 / 255);
    jpeg.texels.forEach((v, i) => expect(v).to.be.closeTo(png.texels[i], step));
    expect(readImageHeader(bytes('b.jpg'))).to.deep.equal({
      kind: 'JPEG',
      width: 64,
      height: 48,
      channels: 3,
      bits: 8,
    });
  });

  it('OpenEXR: floats as they are, halves to the nearest half, layers by their beauty, cut ones refused', () => {
    oiio('a.pfm', '-d', 'float', '--compression', 'zip', '-o', 'f.exr');
    expect([...readTexture(bytes('f.exr'), 'srgb', 'f.exr').texels]).to.deep.equal([...texels]);
    oiio('a.pfm', '-d', 'half', '--compression', 'piz', '-o', 'h.exr');
    const { texels: halves, alpha } = readTexture(bytes('h.exr'), 'linear', 'h.exr');
    halves.forEach((v, i) => expect(v).to.equal(HALF_TO_FLOAT[halfOf(texels[i])]));
    expect(alpha).to.equal(null);
    // A data layer before the colours does not stand for them.
    oiio('a.pfm', '--chnames', 'N.X,N.Y,N.Z', 'a.pfm', '--chnames', 'R,G,B', '--chappend', '-d', 'float', '-o', 'layers.exr'); // prettier-ignore
    expect([...readTexture(bytes('layers.exr'), 'linear', 'layers.exr').texels]).to.deep.equal([...texels]);
    expect(() => readTexture(bytes('f.exr').subarray(0, 900), 'linear', 'f.exr')).to.throw(RangeError, /f\.exr: is cut short/); // prettier-ignore
  });

  it('headers of OpenEXR and of 16-bit PNG', () => {
    oiio('a.pfm', '-d', 'half', '-o', 'c.exr');
    expect(readImageHeader(bytes('c.exr'))).to.deep.equal({ kind: 'OpenEXR', width, height, channels: 3, bits: 16 });
    oiio('a.pfm', '-d', 'float', '-o', 'd.exr');
    expect(readImageHeader(bytes('d.exr'))!.bits).to.equal(32);
    oiio('b.png', '-d', 'uint16', '-o', 'e.png');
    expect(readImageHeader(bytes('e.png'))).to.deep.equal({
      kind: 'PNG',
      width: 64,
      height: 48,
      channels: 3,
      bits: 16,
    });
  });

  it('that are cut off or claim what cannot be are refused by name', () => {
    const refusal = (name: string, content: Uint8Array) => {
      try {
        readTexture(content, 'srgb', name);
        return 'read';
      } catch (error) {
        return `${(error as Error).name}: ${(error as Error).message}`;
      }
    };
    expect(refusal('a.hdr', bytes('a.hdr').slice(0, 300))).to.match(
      /^RangeError: a\.hdr: is cut off or broken in row \d+/,
    );
    expect(refusal('b.jpg', bytes('b.jpg').slice(0, 200))).to.match(/^RangeError: b\.jpg: is not a readable JPEG/);
    const huge = new TextEncoder().encode('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 99999 +X 99999\n');
    expect(refusal('huge.hdr', huge)).to.match(/states 99999 × 99999 pixels/);
  });
});

describe('What stands in for a texture', () => {
  it('is grey, shows its name in letters, and another one for another name', () => {
    const { texels, width, height } = standInTexture('textures/sign.png');
    const dark = texels.filter((v) => v < 0.1).length / texels.length;
    expect(dark).to.be.within(0.05, 0.3);
    for (let i = 0; i < texels.length; i += 3)
      expect(texels[i] === texels[i + 1] && texels[i] === texels[i + 2]).to.equal(true);
    expect(width / height).to.be.within(0.6, 1.7);
    expect([...standInTexture('textures/sigh.png').texels]).to.not.deep.equal([...texels]);
  });
});
