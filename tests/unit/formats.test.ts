/** Files in and out: against a general-purpose validator, and with what is wrong with files in practice. */
import { expect } from 'chai';
import { encode } from 'fast-png';
import { validateBytes } from 'gltf-validator';
import { linearFromSrgb } from '../../core/data/colour.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import { readGlb, writeGlb } from '../../core/formats/gltf.ts';
import { readPngTexture, writePng } from '../../core/formats/png.ts';
import { loadAssets, referencedFiles } from '../../core/render/compile/load-assets.ts';
import { BILINEAR, REPEAT, sampleImage } from '../../core/textures/image.ts';
import { buildJarShelf } from '../../demo/ha-010/build.ts';
import { box } from '../../demo/shapes.ts';
import { sphere } from './helpers.ts';

describe('glTF', () => {
  it('is written without an error or warning of the Khronos validator (gltf-validator)', async () => {
    const { files } = await buildJarShelf();
    const report = await validateBytes(files.get('geometry/jar-shelf.glb')!);
    expect(report.issues.messages.filter((m) => m.severity <= 1)).to.deep.equal([]);
    expect(report.info.drawCallCount).to.equal(7);
  });

  it('comes back as it was written', async () => {
    const meshes = [box([0, 0, 0], [1, 2, 3]), sphere(0.5)];
    const file = await readGlb(await writeGlb(meshes.map((mesh, i) => ({ name: `m${i}`, mesh }))), 'a.glb');
    expect(file.meshCount).to.equal(2);
    meshes.forEach((mesh, i) => {
      const read = file.mesh(i, 0);
      expect([...read.positions]).to.deep.equal([...mesh.positions]);
      expect([...read.indices]).to.deep.equal([...mesh.indices]);
      expect(read.normals && [...read.normals]).to.deep.equal(mesh.normals && [...mesh.normals]);
      if (mesh.uvs) read.uvs!.forEach((v, k) => expect(v).to.be.closeTo(mesh.uvs![k], 1e-6));
    });
  });

  it('refuses files that are cut off, at every length', async () => {
    const bytes = await writeGlb([{ name: 'box', mesh: box([0, 0, 0], [1, 1, 1]) }]);
    for (const length of [0, 3, 11, 19, 40, 200, bytes.length >> 1, bytes.length - 1]) {
      const error = await readGlb(bytes.slice(0, length), 'cut.glb').then(
        () => null,
        (e: Error) => e,
      );
      expect(error, `${length} bytes`).to.be.instanceOf(RangeError);
      expect(error!.message).to.match(/cut\.glb/);
    }
  });

  it('refuses an index out of range, a missing mesh and a missing part, each by name', async () => {
    const broken = box([0, 0, 0], [1, 1, 1]);
    broken.indices[4] = 999;
    const file = await readGlb(await writeGlb([{ name: 'box', mesh: broken }]), 'b.glb');
    expect(() => file.mesh(0, 0)).to.throw(RangeError, 'b.glb mesh 0 part 0: index 4 points at vertex 999');
    expect(() => file.mesh(1, 0)).to.throw(RangeError, 'there is no mesh 1');
    expect(() => file.mesh(0, 2)).to.throw(RangeError, 'there is no part 2');
  });

  it('refuses what is no GLB, and positions that are no numbers', async () => {
    const text = new TextEncoder().encode('{"asset": {"version": "2.0"}, "scenes": []}');
    expect(await readGlb(text, 'c.glb').catch((e: Error) => e.message)).to.match(/does not begin as a GLB/);
    const broken = box([0, 0, 0], [1, 1, 1]);
    broken.positions[3] = NaN;
    const file = await readGlb(await writeGlb([{ name: 'box', mesh: broken }]), 'd.glb');
    expect(() => file.mesh(0, 0)).to.throw(RangeError, 'position of vertex 1 is not finite');
  });
});

describe('PNG', () => {
  it('reads 8-bit sRGB as linear (IEC 61966-2-1) and linear as it is', () => {
    const bytes = writePng(2, 1, Uint8Array.from([0, 128, 255, 10, 20, 30]));
    const srgb = readPngTexture(bytes, 'srgb', 'a.png');
    const linear = readPngTexture(bytes, 'linear', 'a.png');
    [0, 128, 255, 10, 20, 30].forEach((v, i) => {
      expect(srgb.texels[i]).to.be.closeTo(linearFromSrgb(v / 255), 1e-6);
      expect(linear.texels[i]).to.be.closeTo(v / 255, 1e-6);
    });
  });

  it('reads 16 bits, grey, and ignores alpha', () => {
    const deep = encode({ width: 1, height: 1, data: Uint16Array.from([1000, 30000, 65535]), channels: 3, depth: 16 });
    expect([...readPngTexture(deep, 'linear', 'a.png').texels][0]).to.be.closeTo(1000 / 65535, 1e-6);
    const grey = encode({ width: 2, height: 1, data: Uint8Array.from([51, 204]), channels: 1, depth: 8 });
    const texels = [...readPngTexture(grey, 'linear', 'a.png').texels];
    for (const [i, want] of [0.2, 0.2, 0.2, 0.8, 0.8, 0.8].entries()) expect(texels[i]).to.be.closeTo(want, 1e-6);
    const alpha = encode({ width: 1, height: 1, data: Uint8Array.from([255, 0, 51, 7]), channels: 4, depth: 8 });
    expect(readPngTexture(alpha, 'linear', 'a.png').texels[2]).to.be.closeTo(0.2, 1e-6);
  });

  it('refuses what is cut off, what is no PNG, and sizes that cannot be meant', () => {
    const bytes = writePng(8, 8, new Uint8Array(192));
    expect(() => readPngTexture(bytes.slice(0, 20), 'srgb', 'a.png')).to.throw(RangeError, 'a.png');
    expect(() => readPngTexture(bytes.slice(0, bytes.length - 30), 'srgb', 'a.png')).to.throw(RangeError, 'a.png');
    expect(() => readPngTexture(new Uint8Array(100), 'srgb', 'a.png')).to.throw(RangeError, 'does not begin as a PNG');
    const huge = bytes.slice();
    new DataView(huge.buffer).setUint32(16, 0x7fffffff);
    expect(() => readPngTexture(huge, 'srgb', 'a.png')).to.throw(RangeError, 'more than fit');
  });

  it('is looked up bilinearly, from the bottom left, with repeat', () => {
    const texture = readPngTexture(
      writePng(2, 2, Uint8Array.from([0, 0, 0, 255, 0, 0, 0, 255, 0, 0, 0, 255])),
      'linear',
      'a',
    );
    const at = (u: number, v: number) => {
      const out = new Float64Array(4);
      sampleImage([texture], u, v, BILINEAR, REPEAT, 0, out);
      return [...out].slice(0, 3);
    };
    // Texel centres: rows from the top are (black, red) and (green, blue).
    expect(at(0.75, 0.75)).to.deep.equal([1, 0, 0]);
    expect(at(0.25, 0.25)).to.deep.equal([0, 1, 0]);
    expect(at(0.75, 0.25)).to.deep.equal([0, 0, 1]);
    expect(at(1.75, -0.25)).to.deep.equal([1, 0, 0]);
    expect(at(0.5, 0.5).map((c) => Math.round(c * 100) / 100)).to.deep.equal([0.25, 0.25, 0.25]);
  });
});

describe('files of a shot', () => {
  it('are all read, or each that is missing or broken is named at its place in the document', async () => {
    const { document, files } = await buildJarShelf();
    const assets = await loadAssets(document, async (path) => files.get(path) ?? null, 'HA-010');
    expect(assets.meshes.size).to.equal(7);
    expect(referencedFiles(document)).to.deep.equal([
      'geometry/jar-shelf.glb',
      'textures/label.png',
      'textures/wood.png',
    ]);
    files.delete('textures/wood.png');
    files.set('textures/label.png', new Uint8Array(50));
    document.meshes.lid.mesh = 70;
    const error = await loadAssets(document, async (path) => files.get(path) ?? null, 'HA-010').catch(
      (e: unknown) => e,
    );
    expect(error).to.be.instanceOf(InvalidInput);
    expect((error as InvalidInput).problems.map((p) => p.path)).to.have.members([
      '/meshes/lid',
      '/textures/wood',
      '/textures/label',
    ]);
  });
});
