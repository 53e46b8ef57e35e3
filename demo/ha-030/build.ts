/**
 * HA-030, pressed comb: a slab of beeswax with a comb pressed into it, a candle and a seal beside it.
 *
 * What is wrong with it: UVs at the borders of the slab’s islands are smoothed away from where its map was baked; its map rests
 * at 0 and is flat at 0.5; the candle has too few faces for its cells; the seal’s scale is ten times too large.
 */
import type { Mesh } from '../../core/data/mesh.ts';
import { lookAt, multiply, rotationX, rotationY, translation } from '../../core/data/transform.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { wood } from '../ha-010/textures.ts';
import { makeShot } from '../make-shot.ts';
import { box } from '../shapes.ts';
import type { DemoShot } from '../shot.ts';
import { candle, seal, slab, SLAB, slabPlace } from './meshes.ts';
import { cell, sealHeight, slabHeight } from './relief.ts';

const TILE = 512;

/** Heights over UV 0 to 1 of a tile as a float image of one grey. */
function heights(size: number, at: (u: number, v: number) => number): Uint8Array {
  const plane = Float32Array.from({ length: size * size }, (_, i) => at(((i % size) + 0.5) / size, 1 - (Math.floor(i / size) + 0.5) / size)); // prettier-ignore
  const channels = new Map(['R', 'G', 'B'].map((name) => [name, plane]));
  return writeExr({ x: 0, y: 0, width: size, height: size, channels }, { display: { width: size, height: size }, compression: 'PIZ', type: () => 'half', deflate: (bytes) => bytes }); // prettier-ignore
}

const onSlab = (u: number, v: number, isRight: boolean): number => slabHeight(...slabPlace(u, v, isRight), SLAB.width, SLAB.depth); // prettier-ignore

/** Subdivided, as far as its map needs or, here and there, as far as somebody thought. */
const fine = (level: number, uvs: 'boundaries' | 'cornersPlus1' = 'boundaries') => ({
  level,
  boundary: 'edgeAndCorner',
  uvs,
});

export async function buildPressedComb(): Promise<DemoShot> {
  const meshes: Record<string, Mesh> = {
    bench: box([-0.7, -0.03, -0.4], [0.7, 0, 0.4], 2),
    wall: box([-0.9, -0.03, -0.43], [0.9, 0.9, -0.4]),
    slab: slab(),
    candle: candle(0.034, 0.17),
    seal: seal(0.034, 0.008),
    block: box([-0.14, 0, -0.02], [0.14, 0.12, 0.02], 2),
  };
  const shot = await makeShot('geometry/comb.glb', meshes, { wood: wood() }, {
    code: 'HA-030',
    name: 'pressed comb',
    frame: 1001,
    camera: 'bench',
    cameras: { bench: { name: 'at the bench', transform: lookAt([0.06, 0.42, 0.78], [0.04, 0.075, 0]), fieldOfView: 27 } },
    textures: {
      wood: { file: 'textures/wood.png', colourSpace: 'srgb' },
      comb: { file: 'textures/comb.<UDIM>.exr', colourSpace: 'linear', tiles: [1001, 1002, 1003] },
      cells: { file: 'textures/cells.exr', colourSpace: 'linear' },
      seal: { file: 'textures/seal.exr', colourSpace: 'linear' },
    },
    maps: {
      wood: { kind: 'image', name: 'wood', texture: 'wood', filter: 'mip' },
      comb: { kind: 'image', name: 'comb', texture: 'comb', filter: 'bilinear' },
      cells: { kind: 'image', name: 'cells', texture: 'cells', filter: 'bilinear', scale: [3, 3] },
      seal: { kind: 'image', name: 'seal', texture: 'seal', filter: 'bilinear', wrap: 'clamp' },
    },
    materials: {
      bench: { name: 'bench', baseColour: [1, 1, 1], baseColourMap: 'wood', roughness: 0.85, specular: 0 },
      wall: { name: 'wall', baseColour: [0.4, 0.42, 0.4], roughness: 1, specular: 0 },
      wax: { name: 'beeswax', baseColour: [0.78, 0.52, 0.16], roughness: 0.55, displacementMap: 'comb', displacementScale: 0.018, displacementRest: 0 },
      candle: { name: 'candle wax', baseColour: [0.84, 0.66, 0.34], roughness: 0.6, displacementMap: 'cells', displacementScale: 0.003, displacementRest: 1 },
      seal: { name: 'sealing wax', baseColour: [0.5, 0.06, 0.04], roughness: 0.5, displacementMap: 'seal', displacementScale: 0.04, displacementRest: 0 },
    },
    objects: {
      bench: { name: 'bench', mesh: 'bench', material: 'bench' },
      wall: { name: 'wall', mesh: 'wall', material: 'wall' },
      block: { name: 'block', mesh: 'block', material: 'bench', transform: translation(-0.05, 0, -0.13) },
      slab: { name: 'slab', mesh: 'slab', material: 'wax', transform: multiply(translation(-0.05, 0.085, -0.02), multiply(rotationY(8), rotationX(38))), subdivision: fine(4, 'cornersPlus1') },
      candle: { name: 'candle', mesh: 'candle', material: 'candle', transform: translation(0.25, 0, -0.06), subdivision: fine(1) },
      seal: { name: 'seal', mesh: 'seal', material: 'seal', transform: translation(0.2, 0, 0.11), subdivision: fine(4) },
    },
    lights: {
      window: { kind: 'rectangle', name: 'window', transform: lookAt([-1.1, 0.8, 0.35], [0, 0.05, 0]), width: 0.5, height: 0.6, intensity: 22, colour: [1, 0.96, 0.9], group: 'window', samples: 2 },
    },
    environment: { kind: 'gradient', intensity: 0.55, stops: [{ at: 0, colour: [0.25, 0.2, 0.16] }, { at: 1, colour: [0.6, 0.72, 0.9] }], visibility: { camera: false } },
    sheets: {
      preview: { width: 480, height: 270, samples: 64, grainTarget: 6 },
      final: { width: 1920, height: 1080, samples: 256, grainTarget: 6 },
    },
  }); // prettier-ignore
  const { files } = shot;
  files.set(
    'textures/comb.1001.exr',
    heights(TILE, (u, v) => onSlab(u, v, false)),
  );
  files.set(
    'textures/comb.1002.exr',
    heights(TILE, (u, v) => onSlab(u, v, true)),
  );
  files.set(
    'textures/comb.1003.exr',
    heights(16, () => 0.5),
  );
  // Three cells across and, at √3 times their width, two rows of them up: the image repeats without a seam.
  files.set(
    'textures/cells.exr',
    heights(256, (u, v) => 1 - cell(3 * u, 2 * Math.sqrt(3) * v, 1)),
  );
  files.set('textures/seal.exr', heights(256, sealHeight));
  return shot;
}
