/**
 * What a target renderer makes of a shot. Texels per pixel are held against the geometry of a pinhole camera; baked
 * maps against the map itself, and the horizon of a floor against the distance at which it is half a pixel away.
 */
import { expect } from 'chai';
import { linearFromSrgb } from '../../core/data/colour.ts';
import { lookAt, translation } from '../../core/data/transform.ts';
import {
  defaultCamera,
  defaultLight,
  defaultMap,
  defaultMaterial,
  defaultObject,
} from '../../core/document/defaults.ts';
import { applyPatch, replaceValues } from '../../core/document/patch.ts';
import { placesOf } from '../../core/document/pointers.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { readPngTexture } from '../../core/formats/png.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { fromShot } from '../../core/intake/from-shot.ts';
import { carryOut } from '../../core/intake/repairs/carry-out.ts';
import { bakeSize } from '../../core/intake/fit/bake-size.ts';
import { depthIn } from '../../core/intake/fit/depth-in.ts';
import { dialsIn } from '../../core/intake/fit/dials-in.ts';
import { fitTarget } from '../../core/intake/fit/fit.ts';
import { LIMITS, TARGETS } from '../../core/intake/fit/registry.ts';
import { takeOver } from '../../core/intake/fit/take-over.ts';
import { ableTarget, parseTarget, type Target } from '../../core/intake/fit/target.ts';
import { toShot } from '../../core/intake/to-shot.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { layeredNoise } from '../../core/textures/noise.ts';
import { smallShot, type SmallShot } from '../api/small-shot.ts';

const named = (name: string) => TARGETS.find((target) => target.name === name)!;
const fits = async ({ document, files }: SmallShot, target: Target) =>
  fitTarget(await fromShot(document, 1, filesInMemory(files)), validateDocument(document, 'shot'), target);
const loss = async (shot: SmallShot, id: string, target: Partial<Target>) =>
  (await fits(shot, { ...ableTarget(), ...target })).losses.find((one) => one.id === id);
/** The shot as a trial of values would render it. */
const withValues = (document: ShotDocument, values: Record<string, unknown>) => {
  const places = Object.entries(values).flatMap(([pointer, value]) => placesOf(pointer, ['final']).map((place) => [place, value])); // prettier-ignore
  return validateDocument(applyPatch(document, replaceValues(document, Object.fromEntries(places))), 'shot');
};

/** Something for every limit to find. */
async function rich(): Promise<SmallShot> {
  const shot = await smallShot('RICH');
  const { document } = shot;
  const { final } = document.sheets;
  document.maps = {
    lumps: { ...defaultMap('noise-uv'), size: 0.25, seed: 3, uvSet: 1 },
    board: defaultMap('checker'),
  };
  document.coats.lacquer = { kind: 'coat', name: '', strength: 1, roughness: 0.1 };
  Object.assign(document.materials.wall, { baseColourMap: 'lumps', roughnessMap: 'board', coat: 'lacquer', emission: [1, 1, 1], emissionStrength: 2 }); // prettier-ignore
  document.objects.ground = { ...defaultObject(), shape: 'floor', material: 'wall', transform: translation(0, -1, 0) };
  Object.assign(document.objects.pane0, { transform: translation(0, 0, 40_000), motion: 'transform', keys: [1, 2].map((frame) => ({ frame, transform: translation(frame, 0, 40_000), mesh: null })) }); // prettier-ignore
  document.cameras.main.transform = lookAt([0, 0, 40_001], [0, 0, 0]);
  document.lights.round = { ...defaultLight('disc'), name: 'round', reach: { distance: 3, bounces: null }, group: 'lamp' }; // prettier-ignore
  document.lights.round.lights = { mode: 'except', objects: ['wall'] };
  document.fog = { density: 0.1, albedo: [1, 1, 1], anisotropy: 0, box: null };
  Object.assign(final.limits, { diffuse: 12, transmission: 40, overall: 60 });
  final.clamps.indirect = 4;
  return shot;
}

describe('target limits', () => {
  it('are none for a renderer that does what we do', async () => {
    const { losses, dials, before } = await fits(await rich(), ableTarget());
    expect([losses, dials, before]).to.deep.equal([[], [], []]);
  });

  it('are each told once, with what they are about, and what the target makes of them is a shot again', async () => {
    const shot = await rich();
    const nothing: Target = {
      ...named('Plover'),
      maps: { baked: ['checker'], dropped: ['noise-uv'], uvSets: 1 },
      floors: false,
      memory: { bytes: 1, perTriangle: 100, perTexel: 4 },
      surfaces: { without: ['transmission', 'coat', 'emission'] },
    };
    const { losses } = await fits(shot, nothing);
    const told = losses.map(({ id }) => id);
    expect(told).to.deep.equal(LIMITS.map(({ id }) => id).filter((id) => id !== 'sides'));
    for (const { id, items, looks, values } of losses) {
      expect(items.length, id).to.be.greaterThan(0);
      expect(looks, id).to.match(/\.$/);
      if (!values) continue;
      const after = withValues(shot.document, values);
      const again = (await fits({ ...shot, document: after }, nothing)).losses.find((one) => one.id === id);
      // What it makes of it, it can do; precision is its way of keeping places, and stays told.
      if (id !== 'precision') expect(again, `${id} when it is as the target has it`).to.equal(undefined);
    }
  });

  it('name the sides that are seen from behind, and turn what can be turned', async () => {
    const shot = await smallShot('SIDES');
    const { document } = shot;
    expect(await loss(shot, 'sides', { sides: 'front' }), 'closed boxes that look outwards').to.equal(undefined);
    document.objects.wall.facing = 'front';
    expect(await loss(shot, 'sides', { sides: 'front' })).to.equal(undefined);
  });
});

describe('texels that a baked image needs', () => {
  /** A board of `side` m, its UVs over 0 to 1, `away` m before a camera of 30°. */
  async function board(away: number): Promise<SmallShot> {
    const shot = await smallShot('BOARD');
    const { document } = shot;
    const text = `#usda 1.0\n(metersPerUnit = 1)\ndef Mesh "board" { point3f[] points = [(-1, -1, 0), (1, -1, 0), (1, 1, 0), (-1, 1, 0)]
      int[] faceVertexCounts = [4]\n int[] faceVertexIndices = [0, 1, 2, 3]\n uniform token subdivisionScheme = "none"
      texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (interpolation = "vertex") }`;
    const made = await toShot(await readScene('b.usda', filesInMemory(new Map([['b.usda', new TextEncoder().encode(text)]])))); // prettier-ignore
    Object.assign(document, { meshes: made.document.meshes, objects: made.document.objects, materials: made.document.materials }); // prettier-ignore
    document.maps.lumps = { ...defaultMap('noise-uv'), seed: 5, size: 0.2 };
    for (const material of Object.values(document.materials)) material.baseColourMap = 'lumps';
    document.cameras.main = {
      ...defaultCamera(),
      name: '',
      transform: lookAt([0, 0, away], [0, 0, 0]),
      fieldOfView: 30,
    };
    Object.assign(document.sheets.final, { width: 1000, height: 1000 });
    return { document, files: made.files };
  }
  const baked: Partial<Target> = { maps: { baked: ['noise-uv'], dropped: [], uvSets: null } };

  it('are one for each pixel: a board of 2 m that fills 1000 pixels at 3.73 m needs 1000, half as far twice as many', async () => {
    // tan 15° × 3.732 m = 1 m: the board just fills the frame.
    for (const [away, needed] of [[1 / Math.tan(Math.PI / 12), 1000], [4 / Math.tan(Math.PI / 12), 250]]) {
      const { repair, items } = (await loss(await board(away + 1e-6), 'maps-baked', baked))!;
      const texels = (repair!.work as { texels: Record<string, number> }).texels.lumps;
      expect(texels).to.equal(2 ** Math.ceil(Math.log2(needed - 1)));
      expect(items[0].detail).to.include(`1536 texels per side in the final (the default of the final): ${(1536 / needed).toPrecision(2)} texels per pixel`); // prettier-ignore
    }
  }); // prettier-ignore

  it('are none for what the camera does not see', async () => {
    const shot = await board(4);
    shot.document.cameras.main.transform = lookAt([0, 0, 4], [0, 0, 9]);
    expect(await loss(shot, 'maps-baked', baked)).to.equal(undefined);
  });

  it('hold the map, texel by texel, when it is baked here', async () => {
    const shot = await board(4);
    Object.assign(shot.document.sheets.final, { width: 200, height: 200 });
    const { repair } = (await loss(shot, 'maps-baked', baked))!;
    const { patch, files } = await carryOut(shot.document, repair!, async (path) => shot.files.get(path) ?? null);
    const after = validateDocument(applyPatch(shot.document, patch), 'baked');
    expect(after.maps.lumps.kind).to.equal('image');
    const { width, height, texels } = readPngTexture(files.get('textures/baked-lumps.png')!, 'srgb', 'baked');
    const { stops } = shot.document.maps.lumps as { stops: { at: number; colour: number[] }[] };
    for (const [x, y] of [[0, 0], [7, 3], [width - 1, height - 2], [width >> 1, height >> 2]]) {
      const at = layeredNoise((x + 0.5) / width / 0.2, (1 - (y + 0.5) / height) / 0.2, 0.5, defaultMap('noise-uv').octaves, 5); // prettier-ignore
      const wanted = between(stops, at);
      expect(texels[(y * width + x) * 3]).to.be.closeTo(wanted, linearFromSrgb(1) - linearFromSrgb(1 - 1 / 255));
    }
    await loadAssets(after, async (path) => files.get(path) ?? shot.files.get(path) ?? null, 'baked');
  }); // prettier-ignore

  it('are the map’s own, the sheet’s or the smaller, as the target says; never more than its most', () => {
    const size = (wins: Target['bake']['wins'], map = 'own', most = 8192) =>
      bakeSize({ ...ableTarget(), bake: { preview: 256, final: 1024, own: { own: 2048 }, wins, most } }, 'final', map).texels; // prettier-ignore
    expect([size('own'), size('sheet'), size('smaller'), size('own', 'other'), size('own', 'own', 512)]).to.deep.equal([2048, 1024, 1024, 1024, 512]); // prettier-ignore
  });
});

/** Linear between stops. */
function between(stops: { at: number; colour: number[] }[], x: number): number {
  const k = Math.min(stops.length - 2, Math.max(0, stops.findIndex(({ at }) => at > x) - 1));
  const [a, b] = [stops[k], stops[k + 1]];
  const w = Math.min(1, Math.max(0, (x - a.at) / (b.at - a.at)));
  return a.colour[0] + w * (b.colour[0] - a.colour[0]);
}

describe('a floor that ends', () => {
  it('reaches to half a pixel from the horizon, and is there for other renderers', async () => {
    const shot = await smallShot('FLOOR');
    const { document } = shot;
    document.materials.ground = { ...defaultMaterial(), name: 'ground' };
    document.objects.ground = { ...defaultObject(), shape: 'floor', material: 'ground', transform: translation(0, -2, 0) }; // prettier-ignore
    const { repair } = (await loss(shot, 'floors', { floors: false }))!;
    const { sides } = repair!.work as { sides: Record<string, number> };
    // The camera is 2 m above and looks level: at x m away the floor is atan(2 / x) below the horizon.
    const pixel = (30 * Math.PI) / 180 / document.sheets.final.height;
    expect(Math.atan(2 / (sides.ground / 2 - 4))).to.be.closeTo(pixel / 2, 0.05 * pixel);
    const { patch, files } = await carryOut(document, repair!, async (path) => shot.files.get(path) ?? null);
    const after = validateDocument(applyPatch(document, patch), 'ended');
    const all = new Map([...shot.files, ...files]);
    expect(await loss({ document: after, files: all }, 'floors', { floors: false })).to.equal(undefined);
    const { meshes } = await loadAssets(after, async (path) => all.get(path) ?? null, 'ended');
    const mesh = meshes.get(after.objects.ground.mesh!)!;
    expect(Math.max(...mesh.positions)).to.be.closeTo(sides.ground / 2, 1e-3);
    // UVs of floors are metres.
    expect(Math.max(...mesh.uvs!)).to.be.closeTo(sides.ground / 2, 1e-3);
  });
});

describe('our settings in a target’s own', () => {
  const sheet = async () => (await smallShot('S')).document.sheets.final;

  it('multiply where one dial stands for several, and are roots where it counts roots', async () => {
    const final = await sheet();
    final.samples = 400;
    final.extraSamples.light = 9;
    const value = (target: Target, name: string) => dialsIn(target, final).find((dial) => dial.name === name)!.value;
    expect([value(named('Millrace'), 'pixel root'), value(named('Millrace'), 'light root')]).to.deep.equal(['20', '3']);
    expect([value(named('Heron'), 'camera paths'), value(named('Heron'), 'first-hit splits')]).to.deep.equal(['400', '9']); // prettier-ignore
    // One dial for both goes up to its most, and says so.
    expect(dialsIn(named('Plover'), final)[0]).to.deep.include({ name: 'quality', value: '256' });
    expect(dialsIn(named('Plover'), final)[0].from).to.include('the target goes to 256');
  });

  it('count depth as the target does: direct light as none, panes of glass once, one limit for all', async () => {
    const { limits } = await sheet();
    Object.assign(limits, { diffuse: 4, specular: 3, transmission: 21, volume: 2, overall: 30 });
    const values = (target: Target) => Object.fromEntries(depthIn(target, limits).map(({ name, value }) => [name, value])); // prettier-ignore
    expect(values(ableTarget())).to.deep.equal({ diffuse: 4, specular: 3, transmission: 21, volume: 2 });
    expect(values(named('Heron'))).to.deep.equal({ diffuse: 3, specular: 3, transmission: 11, volume: 2 });
    expect(values(named('Millrace'))).to.deep.equal({ depth: 21 });
    const [{ cutTo }] = depthIn(named('Millrace'), limits);
    expect(cutTo).to.deep.equal({ overall: 16 });
  });

  it('take one-off work by what there is of each', async () => {
    const target = { ...ableTarget(), before: [{ what: 'compile', seconds: 2, per: 'material' as const }, { what: 'begin', seconds: 5, per: 'shot' as const }] }; // prettier-ignore
    expect((await fits(await smallShot('W'), target)).before.map(({ seconds }) => seconds)).to.deep.equal([4, 5]);
  });
});

describe('targets as JSON', () => {
  it('take what they leave out from what we do, in groups too', () => {
    const target = parseTarget('{"schema":"dusting.target/1","name":"Tern","depth":{"most":8},"floors":false}', 't');
    expect(target).to.deep.equal({ ...ableTarget(), name: 'Tern', floors: false, depth: { ...ableTarget().depth, most: 8 } }); // prettier-ignore
    for (const one of TARGETS) expect(parseTarget(JSON.stringify(one), one.name)).to.deep.equal(one);
  });

  for (const [more, where] of [
    [{ motion: 'some' }, /\/motion is "some"/],
    [{ surfaces: { without: ['fur'] } }, /\/surfaces\/without\/0 is "fur"/],
    [{ dials: [{ name: 'q', ours: ['/nothing'], counts: 'samples', times: [], least: null, most: null }] }, /\/dials\/0\/ours\/0 is "\/nothing"/],
    [{ dials: [{ name: 'q', ours: ['/samples'], counts: 'samples', times: ['z'], least: null, most: null }] }, /\/dials\/0\/times\/0 is "z"/],
    [{ colour: 'blue' }, /colour/],
  ] as const) // prettier-ignore
    it(`are refused by place: ${JSON.stringify(more).slice(0, 50)}`, () =>
      expect(() => parseTarget(JSON.stringify({ schema: 'dusting.target/1', name: 'T', ...more }), 't')).to.throw(where)); // prettier-ignore
});

describe('the take-over list', () => {
  it('tells of every aspect whether it was carried, filled from a default, or lost', async () => {
    const text = `#usda 1.0
(metersPerUnit = 1)
def Mesh "slab" { point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0)]
  int[] faceVertexCounts = [3]\n int[] faceVertexIndices = [0, 1, 2]
  double3 xformOp:translate.timeSamples = { 1: (0, 0, 0), 2: (1, 0, 0) }
  uniform token[] xformOpOrder = ["xformOp:translate"] }
def SphereLight "lamp" {}`;
    const scene = await readScene('a.usda', filesInMemory(new Map([['a.usda', new TextEncoder().encode(text)]])));
    const list = takeOver(scene, await toShot(scene));
    const fates = Object.fromEntries(list.map(({ aspect, fate }) => [aspect, fate]));
    expect(fates).to.deep.equal({
      materials: 'default', lights: 'carried', environment: 'default', cameras: 'default', 'view transform': 'default',
      picture: 'default', sampling: 'default', integrator: 'default', motion: 'lost',
    }); // prettier-ignore
    expect(list.every(({ detail }) => detail.length > 0)).to.equal(true);
  });
});
