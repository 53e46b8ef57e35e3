/**
 * HA-070, dawn set: the honey house before sunrise, ready to send, or so they say.
 *
 * What is wrong with it: `PLANTED`, each with the check that tells it and whom it names.
 */
import { lookAt, multiply, rotationY, scaling, translation, type Transform } from '../../core/data/transform.ts';
import { label, wood } from '../ha-010/textures.ts';
import { comb } from './textures.ts';
import { makeShot } from '../make-shot.ts';
import type { DemoShot } from '../shot.ts';
import { box, lathe } from '../shapes.ts';
import { dawnLogs } from './logs.ts';
import {
  cushion,
  insideOut,
  joined,
  octagon,
  withFin,
  withNothing,
  withOneTurned,
  withoutFloor,
  withoutUvs,
  withTwice,
} from './meshes.ts';

/** Check and offenders, in the order in which preflight tells them. */
export const PLANTED: Record<string, string[]> = {
  'motion-static': ['/fan'],
  'texture-missing': ['textures/sign.png'],
  'file-missing': ['geometry/smoker.glb'],
  'tiny-bright-emitter': ['/candle'],
  'far-from-origin': ['/hills'],
  'transform-negative': ['/shutter-left'],
  'transform-sheared': ['/ladder'],
  ngon: ['/table'],
  'non-manifold-edge': ['/gate'],
  'open-edge': ['/jar-0'],
  'degenerate-face': ['/crate-a'],
  'duplicate-face': ['/shelf'],
  'coincident-instances': ['/jar-spare'],
  'reversed-normals': ['/drum'],
  'mixed-winding': ['/bench'],
  'live-operations': ['/cushion'],
  'material-placeholder': ['material 3'],
  'texture-colour-space': ['textures/planks-rough.png'],
  'texture-bit-depth': ['textures/comb.png'],
  'uv-missing': ['/stool'],
  'uv-set-without-data': ['/banner'],
  'uv-out-of-tile': ['/strip'],
  'name-placeholder': ['/box-12'],
  'name-duplicate': ['/crate-b'],
  'object-hidden': ['/old-table'],
  'sheet-drift': ['final sheet /limits/transmission', 'final sheet /roulette', 'final sheet /clamps/indirect'],
  'limit-overridden': ['final sheet'],
  'samples-out-of-range': ['final sheet'],
};

const at = (x: number, y: number, z: number, turned = 0): Transform =>
  multiply(translation(x, y, z), rotationY(turned));

const jar = () => lathe([[0, 0], [0.05, 0], [0.054, 0.01], [0.054, 0.11], [0.044, 0.13], [0.044, 0.145], [0, 0.145]], 32, 40); // prettier-ignore
const drum = () => lathe([[0, 0], [0.3, 0], [0.3, 0.02], [0.29, 0.7], [0.3, 0.72], [0, 0.72]], 48, 30); // prettier-ignore
const flame = () => lathe([[0, 0], [0.003, 0.004], [0.002, 0.012], [0, 0.018]], 16, 60); // prettier-ignore
const bucket = () => lathe([[0, 0], [0.12, 0], [0.15, 0.28], [0.14, 0.28], [0.115, 0.01], [0, 0.01]], 40, 30); // prettier-ignore

/** A wall with an opening where the shutters stand. */
const withWindow = () =>
  joined(
    box([-2, 0, -2], [-0.6, 2.7, -1.95]),
    box([0.6, 0, -2], [2, 2.7, -1.95]),
    box([-0.6, 0, -1.99], [0.6, 0.62, -1.96]),
    box([-0.6, 1.6, -1.99], [0.6, 2.7, -1.96]),
  );

const objects = () => ({
  floor: { name: 'floor', mesh: 'floor', material: 'planks' },
  wall: { name: 'back wall', mesh: 'wall', material: 'plaster' },
  side: { name: 'side wall', mesh: 'side', material: 'plaster' },
  'far-side': { name: 'far side wall', mesh: 'side', material: 'plaster', transform: translation(4.05, 0, 0) },
  hills: { name: 'hills', mesh: 'hills', material: 'hill' },
  'shutter-left': { name: 'left shutter', mesh: 'shutter', material: 'planks', transform: multiply(at(-0.62, 1.1, -1.9), scaling(-1, 1, 1)) },
  'shutter-right': { name: 'right shutter', mesh: 'shutter', material: 'planks', transform: at(0.62, 1.1, -1.9) },
  sign: { name: 'sign', mesh: 'sign', material: 'sign', transform: at(0, 2.05, -1.92) },
  shelf: { name: 'shelf', mesh: 'shelf', material: 'planks', transform: at(-1.35, 1.1, -1.75) },
  drum: { name: 'extractor drum', mesh: 'drum', material: 'steel', transform: at(1.25, 0, -1.2) },
  gate: { name: 'honey gate', mesh: 'gate', material: 'brass', transform: at(0.93, 0.16, -1.2) },
  table: { name: 'table', mesh: 'table', material: 'wax', transform: at(-0.35, 0, -0.6) },
  leg: { name: 'table leg', mesh: 'leg', material: 'planks', transform: at(-0.35, 0, -0.6) },
  candle: { name: 'candle flame', mesh: 'flame', material: 'flame', transform: at(-0.15, 0.78, -0.55) },
  bench: { name: 'bench', mesh: 'bench', material: 'planks', transform: at(0.35, 0, -0.1, 12) },
  cushion: { name: 'cushion', mesh: 'cushion', material: 'linen', transform: at(0.35, 0.42, -0.1, 20) },
  stool: { name: 'stool', mesh: 'stool', material: 'planks', transform: at(-1.2, 0, -0.4, 30) },
  banner: { name: 'banner', mesh: 'banner', material: 'cloth', transform: at(-1.94, 1.5, -0.9, 90) },
  strip: { name: 'paper strip', mesh: 'strip', material: 'paper', transform: at(-1.35, 1.12, -1.58) },
  ladder: { name: 'ladder', mesh: 'ladder', material: 'planks', transform: multiply(at(1.75, 0, -1.7), [1, 0, 0, 0, -0.06, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]) },
  fan: { name: 'fan', mesh: 'blade', material: 'brass', transform: at(0, 2.45, -0.8), keys: [{ frame: 1001, transform: at(0, 2.45, -0.8), mesh: null }, { frame: 1002, transform: at(0, 2.45, -0.8, 25), mesh: null }] },
  'box-12': { name: 'Box 12', mesh: 'crate', material: 'planks', transform: at(1.55, 0, -0.35, 8) },
  'crate-a': { name: 'crate', mesh: 'crate-bent', material: 'planks', transform: at(-1.65, 0, -1.5, -6) },
  'crate-b': { name: 'crate', mesh: 'crate', material: 'planks', transform: at(-1.62, 0.36, -1.48, 9) },
  'old-table': { name: 'old table', mesh: 'leg', material: 'planks', transform: at(1.2, 0, 0.6), hidden: true },
  bucket: { name: 'bucket', mesh: 'bucket', material: 'unnamed', transform: at(0.75, 0, -0.75) },
  smoker: { name: 'smoker', mesh: 'smoker', material: 'steel', transform: at(-0.5, 0.78, -0.5) },
  ...Object.fromEntries(
    Array.from({ length: 5 }, (_, i) => [`jar-${i}`, { name: `jar ${'abcde'[i]}`, mesh: 'jar', material: 'honey', transform: at(-1.62 + i * 0.14, 1.121, -1.75) }]),
  ),
  'jar-spare': { name: 'spare jar', mesh: 'jar', material: 'honey', transform: at(-1.62 + 2 * 0.14, 1.121, -1.75) },
}); // prettier-ignore

const limits = { diffuse: 5, specular: 4, transmission: 9, volume: 3, overall: 13 };

export async function buildDawnSet(): Promise<DemoShot> {
  const shot = await makeShot(
    'geometry/dawn.glb',
    {
      floor: box([-2, -0.05, -2], [2, 0, 2], 1),
      wall: withWindow(),
      side: box([-2.05, 0, -2], [-2, 2.7, 2], 1),
      hills: box([-9000, -200, -6100], [9000, 320, -6000], 0.001),
      shutter: box([0, -0.45, 0], [0.3, 0.45, 0.03], 2),
      sign: box([-0.5, -0.15, 0], [0.5, 0.15, 0.03], 1),
      shelf: withTwice(box([-0.4, -0.02, -0.12], [0.5, 0.02, 0.12], 2), 2),
      drum: insideOut(drum()),
      gate: withFin(box([-0.04, -0.04, -0.03], [0.04, 0.04, 0.03], 4)),
      table: octagon(0.5, 0.78),
      leg: box([-0.05, 0, -0.05], [0.05, 0.75, 0.05], 2),
      flame: flame(),
      bench: withOneTurned(box([-0.4, 0.38, -0.14], [0.4, 0.42, 0.14], 2)),
      cushion: cushion(),
      stool: withoutUvs(box([-0.16, 0, -0.16], [0.16, 0.44, 0.16])),
      banner: box([-0.3, -0.4, 0], [0.3, 0.4, 0.01], 1),
      strip: box([-0.3, 0, 0], [0.3, 0.05, 0.002], 6),
      ladder: box([-0.2, 0, 0], [0.2, 2.2, 0.05], 1),
      blade: box([-0.6, 0, -0.07], [0.6, 0.01, 0.07], 1),
      crate: box([-0.2, 0, -0.2], [0.2, 0.36, 0.2], 2),
      'crate-bent': withNothing(box([-0.2, 0, -0.2], [0.2, 0.36, 0.2], 2)),
      bucket: bucket(),
      smoker: bucket(),
      jar: withoutFloor(jar()),
    },
    { planks: wood(), 'planks-rough': wood(), comb: comb(), sign: label() },
    {
      code: 'HA-070',
      name: 'dawn set',
      frame: 1001,
      camera: 'door',
      cameras: { door: { name: 'from the door', transform: lookAt([0.25, 1.45, 2.6], [-0.1, 1, -1]), fieldOfView: 42 } },
      maps: {
        planks: { kind: 'image', texture: 'planks' },
        'planks-rough': { kind: 'image', texture: 'planks-rough', channel: 'green' },
        comb: { kind: 'image', texture: 'comb' },
        sign: { kind: 'image', texture: 'sign' },
        cloth: { kind: 'image', texture: 'planks', uvSet: 1 },
        paper: { kind: 'image', texture: 'planks', wrap: 'clamp' },
      },
      materials: {
        planks: { name: 'planks', baseColour: [1, 1, 1], baseColourMap: 'planks', roughnessMap: 'planks-rough', roughness: 1 },
        plaster: { name: 'plaster', baseColour: [0.62, 0.58, 0.5], roughness: 0.95 },
        hill: { name: 'hill', baseColour: [0.09, 0.13, 0.1], roughness: 1 },
        sign: { name: 'sign', baseColour: [1, 1, 1], baseColourMap: 'sign', roughness: 0.7 },
        steel: { name: 'steel', baseColour: [0.72, 0.72, 0.72], metallic: 1, roughness: 0.25 },
        brass: { name: 'brass', baseColour: [0.78, 0.56, 0.25], metallic: 1, roughness: 0.3 },
        wax: { name: 'wax', baseColour: [0.8, 0.62, 0.28], roughness: 0.6, bumpMap: 'comb', bumpDepth: 0.002 },
        flame: { name: 'flame', baseColour: [0, 0, 0], specular: 0, emission: [1, 0.55, 0.2], emissionStrength: 3000 },
        linen: { name: 'linen', baseColour: [0.55, 0.5, 0.42], roughness: 1 },
        cloth: { name: 'cloth', baseColour: [0.7, 0.66, 0.6], baseColourMap: 'cloth', roughness: 1 },
        paper: { name: 'paper', baseColour: [0.9, 0.88, 0.8], baseColourMap: 'paper', roughness: 1 },
        honey: { name: 'honey', baseColour: [1, 1, 1], roughness: 0, ior: 1.5, transmission: 1, attenuationColour: [0.9, 0.55, 0.12], attenuationDistance: 0.06 },
        unnamed: { name: 'material 3', baseColour: [0.3, 0.34, 0.36], metallic: 1, roughness: 0.4 },
      },
      objects: objects(),
      lights: {
        dawn: { kind: 'rectangle', name: 'dawn', transform: lookAt([0.2, 2.2, -4.2], [0, 0.8, -0.6]), width: 1.6, height: 1.2, intensity: 9, colour: [1, 0.72, 0.5], group: 'dawn' },
        lamp: { kind: 'point', name: 'lamp', transform: translation(0.4, 2.3, 0.6), intensity: 5, radius: 0.05, colour: [1, 0.8, 0.55], group: 'lamp' },
      },
      environment: { kind: 'gradient', intensity: 0.5, stops: [{ at: 0.45, colour: [0.2, 0.16, 0.16] }, { at: 0.55, colour: [0.9, 0.6, 0.45] }, { at: 0.9, colour: [0.16, 0.24, 0.42] }] },
      sheets: {
        preview: { width: 480, height: 270, samples: 32, limits, grainTarget: 4 },
        final: { width: 1920, height: 1080, samples: 8, limits: { ...limits, transmission: 16 }, roulette: false, clamps: { direct: null, indirect: 3 } },
      },
    },
  ); // prettier-ignore
  return broken(shot);
}

/** What got lost on the way: an image, and a file of geometry. The logs came with it. */
function broken({ document, files }: DemoShot): DemoShot {
  document.textures.comb.colourSpace = 'linear';
  document.meshes.smoker.file = 'geometry/smoker.glb';
  files.delete('textures/sign.png');
  for (const [path, text] of Object.entries(dawnLogs())) files.set(path, new TextEncoder().encode(`${text}\n`));
  return { document, files };
}
