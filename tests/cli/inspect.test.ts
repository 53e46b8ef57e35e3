/** Pictures through the shell; figures are held against OpenImageIO's own statistics. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { expect } from 'chai';
import { compareCommand } from '../../cli/compare.ts';
import { convertCommand } from '../../cli/convert.ts';
import { inspectCommand } from '../../cli/inspect.ts';
import { createPicture } from '../../core/data/picture.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { captured } from './captured.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-inspect-'));
const at = (name: string) => join(folder, name);

interface Report {
  files: { path: string; format: string; parts: { compression: string; channels: Record<string, number | string>[] }[]; findings: { id: string; sentence: string }[] }[];
} // prettier-ignore
async function inspect(...names: string[]): Promise<{ code: number; out: Report }> {
  let code = -1;
  const out = await captured(async () => (code = await inspectCommand([...names.map(at), '--json'])));
  return { code, out: JSON.parse(out) as Report };
}

describe('dusting inspect', () => {
  before(() => {
    const picture = createPicture(60, 40, ['R', 'G', 'B', 'N.X']);
    let k = 0;
    for (const plane of picture.channels.values()) for (let i = 0; i < plane.length; i++) plane[i] = Math.sin(i * 0.01 + k++ * 1e-4) * 3 + 2.9; // prettier-ignore
    const bytes = writeExr(picture, { deflate: (b) => deflateSync(b), display: { width: 60, height: 40 }, type: () => 'half' }); // prettier-ignore
    writeFileSync(at('a.exr'), bytes);
    writeFileSync(at('short.exr'), bytes.subarray(0, bytes.length - 900));
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('tells least, most and mean of each channel as OpenImageIO does', async () => {
    const { code, out } = await inspect('a.exr');
    expect(code).to.equal(3);
    const [{ format, parts, findings }] = out.files;
    expect([format, parts.length, parts[0].compression]).to.deep.equal(['OpenEXR', 1, 'ZIP']);
    const text = execFileSync('oiiotool', ['--info', '-v', '--stats', at('a.exr')], { encoding: 'utf8' });
    const theirs = (what: string) => new RegExp(`Stats ${what}: ([^(\\n]*)`).exec(text)![1].trim().split(/\s+/).map(Number); // prettier-ignore
    const order = ['R', 'G', 'B', 'N.X'];
    for (const [key, what] of [['min', 'Min'], ['max', 'Max'], ['mean', 'Avg']])
      order.forEach((name, c) => {
        const mine = parts[0].channels.find((channel) => channel.name === name)![key] as number;
        expect(mine, `${name} ${key}`).to.be.closeTo(theirs(what)[c], 1e-4 * Math.max(1, Math.abs(mine)));
      });
    expect(findings.map(({ id }) => id)).to.deep.equal(['negative']);
  }); // prettier-ignore

  it('stops at a file that is cut short, and says how much of it', async () => {
    const { code, out } = await inspect('short.exr');
    expect(code).to.equal(4);
    expect(out.files[0].findings[0]).to.include({ id: 'cut-short' });
    expect(out.files[0].findings[0].sentence).to.match(/^1 of its chunks are missing or broken/);
  });

  it('refuses with one sentence what is no picture, naming file and byte', async () => {
    writeFileSync(at('text.exr'), 'not a picture');
    const refused = async (name: string) => inspectCommand([at(name)]).then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(await refused('text.exr')).to.equal('text.exr: at byte 0: does not begin as an EXR file does');
    expect(await refused('nowhere.exr')).to.match(/^There is no file/);
    expect(readFileSync(at('text.exr'), 'utf8')).to.equal('not a picture');
  });

  it('converts a layer and exposes it, as OpenImageIO finds it; compares it with what it was', async () => {
    await captured(() => convertCommand([at('a.exr'), at('b.exr'), '--exposure', '1']));
    const found = JSON.parse(await captured(() => compareCommand([at('a.exr'), at('b.exr'), '--json', '--out', at('d.pfm')]))); // prettier-ignore
    expect(found.stops).to.be.closeTo(1, 1e-3);
    expect(found.isAligned).to.equal(false);
    // OpenImageIO's own RMS of the same two files, red, green and blue.
    const text = execFileSync('oiiotool', [at('a.exr'), '--ch', 'R,G,B', at('b.exr'), '--sub', '--dup', '--mul', '--echo', '{TOP.AVGCOLOR}'], { encoding: 'utf8' }); // prettier-ignore
    const squares = text.trim().split(',').map(Number);
    expect(found.rmse).to.be.closeTo(Math.sqrt((squares[0] + squares[1] + squares[2]) / 3), 1e-3);
    await captured(() => convertCommand([at('a.exr'), at('a.png')]));
    expect(execFileSync('oiiotool', ['--info', at('a.png')], { encoding: 'utf8' })).to.match(
      /60 x +40, 3 channel, uint8 png/,
    );
    const refused = await convertCommand([at('a.exr'), at('b.tif')]).then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(refused).to.match(/must end in \.exr, \.hdr, \.pfm, \.png/);
    const lacks = await convertCommand([at('a.exr'), at('c.exr'), '--layer', 'rim']).then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(lacks).to.match(/has no layer "rim" of colours; there are \(no layer\)/);
  });
});
