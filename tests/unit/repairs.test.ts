/** Repairs as patches and files: what they change, what they leave, and that they are undone. */
import { expect } from 'chai';
import { trianglesOf } from '../../core/data/poly-mesh.ts';
import { multiply, rotationY, scaling, translation } from '../../core/data/transform.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { defaultLight, defaultMap, defaultMaterial, defaultObject } from '../../core/document/defaults.ts';
import { applyPatch, invertPatch } from '../../core/document/patch.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { readTexture } from '../../core/formats/texture-readers.ts';
import { breaksOf } from '../../core/intake/files/breaks.ts';
import { Owners } from '../../core/intake/files/owners.ts';
import { ownFormat } from '../../core/intake/log/formats/own.ts';
import { LineReader } from '../../core/intake/log/line.ts';
import { ownLine } from '../../core/intake/log/own-line.ts';
import { defaultProfile, parseProfile } from '../../core/intake/preflight/profile.ts';
import { carryOut } from '../../core/intake/repairs/carry-out.ts';
import { NewFiles } from '../../core/intake/repairs/new-files.ts';
import { byWork, leaveOut } from '../../core/intake/repairs/offer.ts';
import { ofProfile } from '../../core/intake/preflight/of-profile.ts';
import { withoutUnused } from '../../core/intake/repairs/without-unused.ts';
import { smallShot, type SmallShot } from '../api/small-shot.ts';

const reader =
  ({ files }: SmallShot) =>
  async (path: string) =>
    files.get(path) ?? null;
const patched = (document: ShotDocument, patch: Parameters<typeof applyPatch>[1]) =>
  validateDocument(applyPatch(document, patch), 'repaired');

describe('repairs', () => {
  it('leave objects out, and out of every link that names them; what a light is made of stays', async () => {
    const { document } = await smallShot('R');
    document.lights.window.lights = { mode: 'except', objects: ['pane0', 'pane1'] };
    document.environment.shadowsOf = { mode: 'only', objects: ['pane1'] };
    document.lights.glow = { ...defaultLight('mesh'), name: 'glow', object: 'pane2' };
    const { patch } = leaveOut('out', document, ['pane1', 'pane2', 'nobody'])!;
    const after = patched(document, patch);
    expect(Object.keys(after.objects).sort()).to.deep.equal(['pane0', 'pane2', 'wall']);
    expect([after.lights.window.lights.objects, after.environment.shadowsOf.objects]).to.deep.equal([['pane0'], []]);
    expect(canonicalText(applyPatch(after, invertPatch(document, patch)))).to.equal(canonicalText(document));
    expect(leaveOut('out', document, ['nobody'])).to.equal(null);
    expect(leaveOut('out', null, ['pane1'])).to.equal(null);
  });

  it('take out what nothing comes to: maps, their textures, coats, meshes; what keys wear stays', async () => {
    const { document } = await smallShot('R');
    document.textures.lost = { file: 'textures/lost.png', colourSpace: 'srgb' };
    document.textures.sky = { file: 'textures/sky.hdr', colourSpace: 'linear' };
    document.maps.lost = { ...defaultMap('image'), texture: 'lost' };
    document.coats.lost = { kind: 'coat', name: '', strength: 1, roughness: 0 };
    document.meshes.spare = { ...document.meshes.pane };
    document.meshes.pose = { ...document.meshes.pane };
    document.objects.pane0.keys = [{ frame: 1, transform: translation(0, 0, 0), mesh: 'pose' }];
    Object.assign(document.environment, { kind: 'image', texture: 'sky' });
    const after = patched(document, withoutUnused(document)!.patch);
    expect([Object.keys(after.textures), Object.keys(after.maps), Object.keys(after.coats)]).to.deep.equal([['sky'], [], []]); // prettier-ignore
    expect(Object.keys(after.meshes).sort()).to.deep.equal(['pane', 'pose', 'wall']);
    expect(withoutUnused(after)).to.equal(null);
  });

  it('carry a transform into a mesh of the object’s own, which others that shared it do not get', async () => {
    const shot = await smallShot('R');
    const { document } = shot;
    const whole = multiply(translation(1, 2, 3), multiply(rotationY(40), scaling(-2, 1, 1)));
    document.objects.pane0.transform = whole;
    const { patch, files } = await carryOut(document, byWork('carry', { kind: 'carry transforms', objects: ['pane0'] }), reader(shot)); // prettier-ignore
    const after = patched(document, patch);
    expect(after.objects.pane0.transform).to.deep.equal(translation(1, 2, 3));
    expect(after.objects.pane1.mesh).to.equal('pane');
    const all = new Map([...shot.files, ...files]);
    const read = new NewFiles(after, async (path) => all.get(path) ?? null);
    const placed = async (id: string, mesh: string) => {
      const m = id === 'before' ? whole : after.objects.pane0.transform;
      const { positions } = trianglesOf(await read.mesh(mesh));
      const corners = new Set<string>();
      for (let i = 0; i < positions.length; i += 3)
        corners.add([0, 1, 2].map((a) => (m[a] * positions[i] + m[4 + a] * positions[i + 1] + m[8 + a] * positions[i + 2] + m[12 + a]).toFixed(4)).join(' ')); // prettier-ignore
      return [...corners].sort();
    };
    expect(await placed('after', after.objects.pane0.mesh!)).to.deep.equal(await placed('before', 'pane'));
  });

  it('put pivots amid their meshes: every point stays where it was, keys go along, one mesh is made for all that wear it', async () => {
    const shot = await smallShot('R');
    const { document } = shot;
    const far = translation(1500, -20, 700);
    const made = new NewFiles(document, reader(shot));
    const before = trianglesOf(await made.mesh('pane')).positions;
    for (const id of ['pane0', 'pane1']) document.objects[id].transform = multiply(rotationY(30), far);
    document.objects.pane1.keys = [{ frame: 1, transform: far, mesh: null }, { frame: 2, transform: rotationY(9), mesh: null }]; // prettier-ignore
    const { patch, files } = await carryOut(document, byWork('centre', { kind: 'centre pivots', objects: ['pane0', 'pane1'] }), reader(shot)); // prettier-ignore
    const after = patched(document, patch);
    const [mesh] = new Set([after.objects.pane0.mesh!, after.objects.pane1.mesh!]);
    expect(after.objects.pane1.mesh, 'one mesh for both').to.equal(mesh);
    const there = new NewFiles(after, async (path) => files.get(path) ?? null);
    const { positions } = trianglesOf(await there.mesh(mesh));
    const middle = [0, 1, 2].map((a) => Math.max(...positions.filter((_, i) => i % 3 === a)) + Math.min(...positions.filter((_, i) => i % 3 === a))); // prettier-ignore
    expect(Math.max(...middle.map(Math.abs))).to.be.below(1e-6);
    const placed = (m: number[], p: ArrayLike<number>) => [0, 1, 2].map((a) => m[a] * p[0] + m[4 + a] * p[1] + m[8 + a] * p[2] + m[12 + a]); // prettier-ignore
    const pairs = [[document.objects.pane0.transform, after.objects.pane0.transform], ...[0, 1].map((k) => [document.objects.pane1.keys[k].transform, after.objects.pane1.keys[k].transform])]; // prettier-ignore
    for (const [was, is] of pairs)
      for (let v = 0; v < before.length; v += 3)
        placed(was, before.subarray(v, v + 3)).forEach((c, a) => expect(placed(is, positions.subarray(v, v + 3))[a]).to.be.closeTo(c, 1e-6)); // prettier-ignore
    expect(canonicalText(applyPatch(after, invertPatch(document, patch)))).to.equal(canonicalText(document));
  });

  it('overwrite no file that is there, however often they are carried out', async () => {
    const shot = await smallShot('R');
    const mend = byWork('mend', { kind: 'mend meshes', how: 'mend normals', meshes: ['pane'] });
    const first = await carryOut(shot.document, mend, reader(shot));
    for (const [path, bytes] of first.files) shot.files.set(path, bytes);
    const second = await carryOut(patched(shot.document, first.patch), mend, reader(shot));
    expect([...first.files.keys(), ...second.files.keys()]).to.deep.equal(['geometry/mended-mend-normals.glb', 'geometry/mended-mend-normals-2.glb']); // prettier-ignore
    const refused = await carryOut(shot.document, mend, async () => null).then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(refused).to.match(/geometry\/panes\.glb, the file of mesh "pane", is not there/);
  });

  it('bake what is worn as data in linear values, and what is worn as colour in sRGB', async () => {
    const shot = await smallShot('R');
    const { document } = shot;
    const grey = [{ at: 0, colour: [0.2, 0.2, 0.2] as [number, number, number] }, { at: 1, colour: [0.2, 0.2, 0.2] as [number, number, number] }]; // prettier-ignore
    document.maps = { rough: { ...defaultMap('gradient'), stops: grey }, tint: { ...defaultMap('gradient'), stops: grey } }; // prettier-ignore
    document.materials.wall = { ...defaultMaterial(), roughnessMap: 'rough', baseColourMap: 'tint' };
    const { patch, files } = await carryOut(document, byWork('bake', { kind: 'bake maps', texels: { rough: 4, tint: 8 } }), reader(shot)); // prettier-ignore
    const after = patched(document, patch);
    for (const [map, side, colourSpace] of [['rough', 4, 'linear'], ['tint', 8, 'srgb']] as const) {
      const { texture } = after.maps[map] as { texture: string };
      expect(after.textures[texture].colourSpace).to.equal(colourSpace);
      const { width, texels } = readTexture(files.get(after.textures[texture].file)!, colourSpace, 'b.png');
      expect(width).to.equal(side);
      expect(texels[0]).to.be.closeTo(0.2, 0.004);
    }
  }); // prettier-ignore

  it('take settings of the show’s profile, all or one, and only dials that there are', async () => {
    const { document } = await smallShot('R');
    const text = JSON.stringify({ schema: 'dusting.preflight/1', name: 'Halfmoon', settings: { '/samples': 256, '/limits/diffuse': 6 } }); // prettier-ignore
    const profile = parseProfile(text, 'p');
    expect(patched(document, ofProfile(document, profile)!.patch).sheets.final).to.deep.include({ samples: 256 });
    const one = patched(document, ofProfile(document, profile, '/samples')!.patch).sheets.final;
    expect([one.samples, one.limits.diffuse]).to.deep.equal([256, 2]);
    expect(ofProfile(document, defaultProfile())).to.equal(null);
    expect(() => parseProfile(JSON.stringify({ schema: 'dusting.preflight/1', name: 'x', settings: { '/sampels': 1 } }), 'p')).to.throw(/sampels.*a dial of a sheet/); // prettier-ignore
  });
});

describe('what lost files do to scenes of other formats', () => {
  const of = async (file: string, files: Record<string, string | Uint8Array>) => {
    const encoder = new TextEncoder();
    const all = Object.entries(files).map(([path, content]) => [path, typeof content === 'string' ? encoder.encode(content) : content] as const); // prettier-ignore
    const source = await readScene(file, filesInMemory(new Map(all)));
    const owners = new Owners(source, null);
    return Object.fromEntries(source.references.map((reference) => [reference.path, breaksOf(owners, reference)]));
  };
  const OBJ = 'mtllib yard.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\no hive\nusemtl straw\nf 1/1 2/1 3/1\no lid\nusemtl gone\nf 1/1 3/1 2/1\n'; // prettier-ignore

  it('OBJ: a library that is lost leaves objects plain; an image of it leaves them untextured', async () => {
    expect(await of('yard.obj', { 'yard.obj': OBJ })).to.deep.equal({ 'yard.mtl': [{ look: 'plain', objects: ['/hive', '/lid'] }] }); // prettier-ignore
    const there = await of('yard.obj', { 'yard.obj': OBJ, 'yard.mtl': 'newmtl straw\nKd 1 1 1\nmap_Kd straw.png\nmap_Pr rough.png\n' }); // prettier-ignore
    expect(there['straw.png']).to.deep.equal([{ look: 'untextured', objects: ['/hive'] }]);
    expect(there['rough.png']).to.deep.equal([{ look: 'shaded wrongly', objects: ['/hive'] }]);
    expect(there['yard.mtl']).to.deep.equal([{ look: 'plain', objects: ['/hive'] }]);
  });

  it('USD: the image of a dome light leaves the scene unlit by it', async () => {
    const text = '#usda 1.0\n(metersPerUnit = 1)\ndef DomeLight "sky" { asset inputs:texture:file = @sky.hdr@ }\ndef Mesh "m" { point3f[] points = [(0,0,0), (1,0,0), (0,1,0)]\n int[] faceVertexCounts = [3]\n int[] faceVertexIndices = [0,1,2] }'; // prettier-ignore
    expect((await of('a.usda', { 'a.usda': text }))['sky.hdr']).to.deep.equal([{ look: 'unlit', objects: ['environment'] }]); // prettier-ignore
  });
});

describe('lines of our own log', () => {
  it('are read back by the format that ships, field by field', () => {
    const line = ownLine({ seconds: 12.3456, severity: 'warning', phase: 'compile', frame: 1001, memory: 300 * 2 ** 20, rays: { camera: 12, shadow: 30 }, message: 'a\n  b' }); // prettier-ignore
    expect(line).to.equal('+12.346s warning [compile] frame 1001 mem 300 MB rays camera=12,shadow=30: a b');
    const read = new LineReader(ownFormat).read(line)!;
    expect(read).to.include({ time: 12.346, severity: 'warning', phase: 'compile', frame: 1001, message: 'a b' });
    expect([read.memory, read.rays]).to.deep.equal([300 * 2 ** 20, { camera: 12, shadow: 30 }]);
  });
});

describe('objects of a shot', () => {
  it('are told gone with their mesh’s file, hidden ones not', async () => {
    const shot = await smallShot('R');
    shot.document.objects.pane2.hidden = true;
    shot.document.objects.more = { ...defaultObject(), mesh: 'wall', material: 'wall' };
    const { fromShot } = await import('../../core/intake/from-shot.ts');
    const source = await fromShot(shot.document, 1, filesInMemory(shot.files));
    const owners = new Owners(source, shot.document);
    expect(breaksOf(owners, source.references[0])).to.deep.equal([{ look: 'gone', objects: ['/wall', '/pane0', '/pane1', '/more'] }]); // prettier-ignore
  });
});
