/** Scenes that were read become shots: places, links, lights, maps, and what has no place in one is told. */
import { expect } from 'chai';
import { translation, multiply, scaling, rotationY } from '../../core/data/transform.ts';
import { emptyPolyMesh } from '../../core/data/poly-mesh.ts';
import { defaultLight } from '../../core/document/defaults.ts';
import { writePng } from '../../core/formats/png.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { emptyScene, namedMaterial, plainNode, plainTexture, type SourceScene } from '../../core/formats/source-scene.ts'; // prettier-ignore
import { packShot } from '../../core/intake/files/package.ts';
import { FreeIds } from '../../core/intake/ids.ts';
import { toShot } from '../../core/intake/to-shot.ts';
import { zipOf } from '../../host/package-zip.ts';
import { smallShot } from '../api/small-shot.ts';

const all = { mode: 'all' as const, paths: [] };

/** A triangle at (0, 0, 0) to (1, 1, 0) in a node, with UVs. */
function scene(): SourceScene {
  const s = emptyScene('USD', 'sets/yard at dawn.usda', 10);
  s.meshes.push({
    name: 'tri',
    where: 'w',
    poly: {
      ...emptyPolyMesh(),
      points: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0),
      faceSizes: Uint32Array.of(3),
      corners: Uint32Array.of(0, 1, 2),
      uvs: ['st', 'print'].map((name) => ({ name, values: Float32Array.of(0, 0, 1, 0, 0, 1), indices: Uint32Array.of(0, 1, 2) })), // prettier-ignore
    },
  });
  s.materials.push(namedMaterial('straw', 'm'));
  s.nodes.push({ ...plainNode('/yard', 'n') }, { ...plainNode('/yard/hive', 'n'), parent: 0, mesh: 0, parts: [{ material: 0, faces: null }] }); // prettier-ignore
  return s;
}
const told = async (s: SourceScene) => (await toShot(s)).notUnderstood.map(({ what }) => what).join('\n');

describe('A scene as a shot', () => {
  it('takes a camera of any angle as it is', async () => {
    for (const fieldOfView of [0.05, 179]) {
      const s = scene();
      s.cameras.push({ name: 'long', node: -1, fieldOfView } as SourceScene['cameras'][number]);
      const { document, notUnderstood } = await toShot(s);
      expect(document.cameras.long.fieldOfView).to.equal(fieldOfView);
      expect(notUnderstood.map(({ what }) => what).join()).not.to.match(/camera/);
    }
  });

  it('has a code and ids that documents may have, and a camera that sees all of it', async () => {
    const s = scene();
    s.nodes[1].name = 'hive (old) №1';
    s.nodes[1].world = translation(10, 0, 0);
    const { document } = await toShot(s);
    expect(document.code).to.equal('yard-at-dawn');
    expect(Object.keys(document.objects)).to.deep.equal(['hive-old-1']);
    expect(document.objects['hive-old-1'].name).to.equal('hive (old) №1');
    const m = document.cameras.all.transform;
    // The middle of the triangle's box lies straight ahead, along −Z of the camera.
    const to = [10.5 - m[12], 0.5 - m[13], 0 - m[14]];
    const ahead = -(to[0] * m[8] + to[1] * m[9] + to[2] * m[10]);
    expect(ahead).to.be.closeTo(Math.hypot(...to), 1e-6);
    expect(ahead).to.be.above(0.7 / Math.sin((20 * Math.PI) / 180));
  });

  it('turns links to paths into links to the objects below them', async () => {
    const s = scene();
    s.nodes.push({ ...plainNode('/yardstick', 'n'), mesh: 0, parts: [{ material: 0, faces: null }] });
    s.lights.push({ node: 0, spec: { ...defaultLight('rectangle'), name: 'window' }, links: { lights: { mode: 'only', paths: ['/yard'] }, shadowsOf: all } }); // prettier-ignore
    const { document } = await toShot(s);
    expect(document.lights.window.lights).to.deep.equal({ mode: 'only', objects: ['hive'] });
  });

  it('takes scale out of what shines and what looks, and keeps the turn', async () => {
    const s = scene();
    s.nodes[0].world = multiply(translation(1, 2, 3), multiply(rotationY(90), scaling(0.01, 0.01, 0.01)));
    s.lights.push({ node: 0, spec: { ...defaultLight('disc'), name: 'lamp' }, links: { lights: all, shadowsOf: all } });
    s.cameras.push({ name: 'wide', node: 0, fieldOfView: 30, aspect: 2, near: null, far: null, lens: null });
    const { document } = await toShot(s);
    const turned = multiply(translation(1, 2, 3), rotationY(90));
    for (const { transform } of [document.lights.lamp, document.cameras.wide])
      transform.forEach((v, i) => expect(v).to.be.closeTo(turned[i], 1e-12));
    expect([document.sheets.final.width, document.sheets.final.height]).to.deep.equal([1080, 540]);
    expect(document.camera).to.equal('wide');
  });

  it('reads maps by the name of their UVs, shares images, and says which maps it has no place for', async () => {
    const s = scene();
    const bytes = writePng(1, 1, new Uint8Array(3));
    s.images.push({ path: 'tex\\print.png', where: 'i', resolved: 'tex/print.png', bytes, tiles: [] }, { path: 'a.psd', where: 'i', resolved: 'a.psd', bytes: Uint8Array.from([0x38, 0x42, 0x50, 0x53, ...new Array<number>(20).fill(0)]), tiles: [] }); // prettier-ignore
    s.materials[0].textures = [
      { ...plainTexture('baseColour', 0), uvName: 'print' },
      { ...plainTexture('roughness', 0), uvName: 'st' },
      plainTexture('displacement', 0),
      plainTexture('occlusion', 0),
      plainTexture('emission', 1),
    ];
    s.metresPerUnit = 0.01;
    const { document, files, notUnderstood } = await toShot(s);
    const { baseColourMap, roughnessMap, emissionMap } = document.materials.straw;
    const map = (id: string | null) => document.maps[id!] as { uvSet: number; texture: string };
    expect([map(baseColourMap).uvSet, map(roughnessMap).uvSet, emissionMap]).to.deep.equal([1, 0, null]);
    const spaces = [baseColourMap, roughnessMap].map((id) => document.textures[map(id).texture]);
    expect(spaces).to.deep.equal([{ file: 'textures/print.png', colourSpace: 'srgb' }, { file: 'textures/print.png', colourSpace: 'linear' }]); // prettier-ignore
    expect([...files.keys()]).to.deep.equal(['textures/print.png', 'geometry/scene.glb']);
    // White of a displacement map is one unit of the scene.
    const { displacementMap, displacementScale } = document.materials.straw;
    expect([map(displacementMap).texture, displacementScale]).to.deep.equal([map(roughnessMap).texture, 0.01]);
    expect(notUnderstood.map(({ what }) => what).join('\n')).to.match(/occlusion map of material "straw"\n.*image "a\.psd" is of a kind that is not read here \(\.psd\)/); // prettier-ignore
  });

  it('brings the file along that has the alpha an image has lost, by its name', async () => {
    const [plain, cut] = [writePng(2, 2, new Uint8Array(12).fill(90)), writePng(2, 2, new Uint8Array(16).fill(90))];
    const obj = 'mtllib a.mtl\nusemtl print\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nf 1/1 2/1 3/1';
    const text = new TextEncoder();
    const made = async (files: Record<string, Uint8Array>) => {
      const all = new Map(Object.entries({ 'a.obj': text.encode(obj), 'a.mtl': text.encode('newmtl print\nmap_Kd tex/label.png'), ...files })); // prettier-ignore
      return (await toShot(await readScene('a.obj', filesInMemory(all)))).document.textures;
    };
    const label = { file: 'textures/label.png', colourSpace: 'srgb' };
    for (const name of ['label_alpha', 'label-cutout', 'label.rgba'])
      expect(Object.values(await made({ 'tex/label.png': plain, [`tex/${name}.png`]: cut }))[1]?.file, name).to.match(/^textures\/label.+png$/); // prettier-ignore
    // Neither one that has none either, nor one of another name, nor one for an image with alpha of its own.
    const others: Record<string, Uint8Array>[] = [{ 'tex/label.png': plain, 'tex/label_alpha.png': plain }, { 'tex/label.png': plain, 'tex/lid_alpha.png': cut }, { 'tex/label.png': cut, 'tex/label_alpha.png': cut }];
    for (const files of others)
      expect(Object.values(await made(files))).to.deep.equal([label]);
  }); // prettier-ignore

  it('keeps the path of an image that is not there, so that preflight stops at it', async () => {
    const s = scene();
    s.images.push({ path: './maps\\rough.tif', where: 'i', resolved: null, bytes: null, tiles: [] }, { path: '/show/a.png', where: 'i', resolved: null, bytes: null, tiles: [] }); // prettier-ignore
    s.materials[0].textures = [plainTexture('roughness', 0), plainTexture('baseColour', 1)];
    const { document, files, notUnderstood } = await toShot(s);
    expect(Object.values(document.textures)).to.deep.equal([{ file: 'maps/rough.tif', colourSpace: 'linear' }, { file: 'textures/a.png', colourSpace: 'srgb' }]); // prettier-ignore
    expect([...files.keys()]).to.deep.equal(['geometry/scene.glb']);
    expect(notUnderstood.map(({ what }) => what).join('\n')).to.match(/the shot looks for it as maps\/rough\.tif/);
  });

  it('leaves out what has no place in space, and says so; places that are no numbers are refused', async () => {
    const s = scene();
    s.nodes.push({
      ...plainNode('/flat', 'n'),
      mesh: 0,
      world: scaling(1, 0, 1),
      parts: [{ material: -1, faces: null }],
    });
    expect(await told(s)).to.match(/"flat" is left out: its transform flattens it/);
    s.meshes[0].poly.points[4] = Infinity;
    expect(await told(s).catch((error: Error) => error.message)).to.match(/position of vertex 1 is not finite/);
    const empty = emptyScene('OBJ', 'a.obj', 0);
    expect(await told(empty).catch((error: Error) => error.message)).to.match(/a\.obj: holds no surface/);
  });

  it('leaves a parallel camera out, and tells of files that are not there', async () => {
    const s = scene();
    s.cameras.push({ name: 'top', node: 0, fieldOfView: 0, aspect: 1, near: null, far: null, lens: null });
    s.references.push({ kind: 'material library', path: 'gone.mtl', neededBy: 'a:1', resolved: null, bytes: 0, state: 'missing', used: false }); // prettier-ignore
    expect(await told(s)).to.match(/^material library "gone\.mtl" is not there\ncamera "top" has a parallel projection\nno camera to look through/); // prettier-ignore
  });

  it('finds ten thousand ids for one name quickly', () => {
    const ids = new FreeIds();
    const map: Record<string, true> = { 'bee-3': true };
    for (let i = 0; i < 10_000; i++) map[ids.of(map, 'bee')] = true;
    expect(Object.keys(map).length).to.equal(10_001);
    expect(Object.hasOwn(map, 'bee-10001')).to.equal(true);
    expect(ids.of(map, '???')).to.equal('unnamed');
  });
});

describe('Packages', () => {
  it('hold equal files once, leave the shot as it was, and are the same bytes every time', async () => {
    const { document, files } = await smallShot('PACK');
    const same = writePng(4, 4, new Uint8Array(48).fill(9));
    document.textures.a = { file: 'textures/a.png', colourSpace: 'srgb' };
    document.textures.b = { file: 'textures/b.png', colourSpace: 'linear' };
    files.set('textures/a.png', same).set('textures/b.png', same.slice());
    const before = JSON.stringify(document);
    const pack = () => packShot(document, async (path) => files.get(path) ?? null, (bytes) => bytes.join());
    const packed = await pack();
    expect(packed.same).to.deep.equal([['textures/b.png', 'textures/a.png']]);
    expect([...packed.files.keys()]).to.deep.equal(['shot.json', 'geometry/panes.glb', 'textures/a.png']);
    expect(packed.before - packed.after).to.be.closeTo(same.length, 10);
    expect(JSON.stringify(document)).to.equal(before);
    const inside = JSON.parse(new TextDecoder().decode(packed.files.get('shot.json')));
    expect(inside.textures.b).to.deep.equal({ file: 'textures/a.png', colourSpace: 'linear' });
    const bytesOf = async () => Buffer.concat((await zipOf(await pack()).toArray()) as Buffer[]);
    expect((await bytesOf()).equals(await bytesOf())).to.equal(true);
  }); // prettier-ignore
});
