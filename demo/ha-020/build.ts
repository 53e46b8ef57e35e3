/**
 * HA-020, night lantern: a flame of a few millimetres, very bright, in a glass chimney on a table at night.
 *
 * What is wrong with it: the chimney lets no shadow ray through, so all its light on the table is found by chance,
 * by paths that happen to refract into a flame of four millimetres: fireflies everywhere. The final sheet
 * carries somebody's cure, clamps, which take the flame's brightness with them.
 */
import { lookAt, translation } from '../../core/data/transform.ts';
import { makeShot } from '../make-shot.ts';
import type { DemoShot } from '../shot.ts';
import { box, lathe } from '../shapes.ts';

const SEGMENTS = 64;
const WALL = 0.0018;

/** Outline of the chimney's outside, from its foot to its mouth. */
const CHIMNEY: [number, number][] = [
  [0.031, 0.055],
  [0.036, 0.075],
  [0.041, 0.1],
  [0.04, 0.125],
  [0.032, 0.155],
  [0.026, 0.185],
  [0.025, 0.215],
];

const chimney = () =>
  lathe(
    [
      [CHIMNEY[0][0] - WALL, CHIMNEY[0][1]],
      ...CHIMNEY,
      ...CHIMNEY.map(([r, y]) => [r - WALL, y] as [number, number]).reverse(),
    ],
    SEGMENTS,
    60,
  );

/** Drop-shaped, 4 mm across and 14 mm high. */
const flame = () =>
  lathe([[0, 0.076], [0.0012, 0.0765], [0.002, 0.079], [0.0018, 0.083], [0.001, 0.087], [0, 0.09]], 24); // prettier-ignore

const base = () =>
  lathe([[0, 0], [0.052, 0], [0.055, 0.006], [0.05, 0.014], [0.04, 0.04], [0.036, 0.055], [0.012, 0.058], [0, 0.058]], SEGMENTS, 40); // prettier-ignore

const wick = () => lathe([[0, 0.058], [0.0022, 0.058], [0.0018, 0.075], [0, 0.075]], 16); // prettier-ignore

const bowl = () =>
  lathe([[0, 0.004], [0.03, 0], [0.034, 0.001], [0.062, 0.034], [0.06, 0.035], [0.03, 0.006], [0, 0.009]], SEGMENTS, 40); // prettier-ignore

export const buildNightLantern = (): Promise<DemoShot> =>
  makeShot(
    'geometry/lantern.glb',
    {
      chimney: chimney(),
      flame: flame(),
      base: base(),
      wick: wick(),
      bowl: bowl(),
      table: box([-0.9, -0.03, -0.7], [0.9, 0, 0.6], 3),
      wall: box([-1.6, -0.6, -0.76], [1.6, 1.6, -0.7]),
    },
    {},
    {
      code: 'HA-020',
      name: 'night lantern',
      frame: 1001,
      camera: 'push',
      cameras: { push: { name: 'push-in', transform: lookAt([0.1, 0.24, 0.6], [0.03, 0.09, 0]), fieldOfView: 24 } },
      maps: {
        grain: {
          kind: 'noise-object',
          name: 'table grain',
          size: 0.09,
          octaves: 5,
          stops: [
            { at: 0.2, colour: [0.16, 0.08, 0.035] },
            { at: 0.75, colour: [0.42, 0.24, 0.11] },
          ],
        },
      },
      coats: { varnish: { kind: 'coat', name: 'varnish', strength: 0.6, roughness: 0.25 } },
      materials: {
        glass: { name: 'chimney glass', baseColour: [1, 1, 1], roughness: 0, ior: 1.5, transmission: 1 },
        flame: {
          name: 'flame',
          baseColour: [0, 0, 0],
          specular: 0,
          emission: [1, 0.52, 0.17],
          emissionStrength: 9000,
          lightGroup: 'flame',
        },
        brass: { name: 'brass', baseColour: [0.78, 0.56, 0.25], metallic: 1, roughness: 0.28 },
        soot: { name: 'wick', baseColour: [0.02, 0.02, 0.02], roughness: 0.9 },
        wood: { name: 'table', baseColour: [1, 1, 1], baseColourMap: 'grain', roughness: 0.55, coat: 'varnish' },
        plaster: { name: 'plaster', baseColour: [0.5, 0.47, 0.42], roughness: 0.95 },
        clay: { name: 'bowl', baseColour: [0.45, 0.22, 0.13], roughness: 0.5 },
      },
      objects: {
        chimney: { name: 'chimney', mesh: 'chimney', material: 'glass' },
        flame: { name: 'flame', mesh: 'flame', material: 'flame' },
        base: { name: 'lantern base', mesh: 'base', material: 'brass' },
        wick: { name: 'wick', mesh: 'wick', material: 'soot' },
        bowl: { name: 'honey bowl', mesh: 'bowl', material: 'clay', transform: translation(0.17, 0.0002, -0.06) },
        table: { name: 'table', mesh: 'table', material: 'wood' },
        wall: { name: 'wall', mesh: 'wall', material: 'plaster' },
      },
      environment: { kind: 'constant', colour: [0.5, 0.7, 1], intensity: 0.03, group: 'night' },
      sheets: {
        preview: {
          width: 480,
          height: 270,
          samples: 32,
          limits: { diffuse: 3, specular: 4, transmission: 9, overall: 13 },
          grainTarget: 5,
        },
        final: {
          width: 1920,
          height: 1080,
          samples: 256,
          limits: { diffuse: 3, specular: 4, transmission: 9, overall: 13 },
          clamps: { direct: 4, indirect: 4 },
        },
      },
    },
  );
