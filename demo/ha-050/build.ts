/**
 * HA-050, hive yard: rows of hives across 900 m of pasture, placed 40 km from the origin, as it came out of a
 * map of the valley.
 *
 * What is wrong with it: the sun's shadows end 6 m from what throws them, though it stands low and a tree's
 * shadow is 30 m long, and rays end after 400 m, so that the far rows are gone; the sky is white and as strong as the sun, so sides are flat and
 * the horizon blows out; and positions of single precision are 4 mm apart out there, so edges shake.
 */
import type { Mesh } from '../../core/data/mesh.ts';
import { lookAt, multiply, rotationY, translation } from '../../core/data/transform.ts';
import { makeShot } from '../make-shot.ts';
import type { DemoShot } from '../shot.ts';
import { box, lathe } from '../shapes.ts';

/** Where the yard lies, metres east and south of the map's origin. */
const YARD = { x: 40_000, z: -3_000 };
const ROWS = 30;
const ROW_GAP = 30;
const SIDES = [-5.4, -3.6, -1.9, 1.9, 3.6, 5.4];

function hive(): Mesh[] {
  return [
    box([-0.26, 0.2, -0.22], [0.26, 0.52, 0.22], 2),
    box([-0.25, 0.52, -0.21], [0.25, 0.76, 0.21], 2),
    box([-0.29, 0.76, -0.25], [0.29, 0.81, 0.25], 2),
    box([-0.3, 0.15, -0.26], [0.3, 0.2, 0.32], 2),
  ];
}

/** A stem and a crown, enough for the edge of a pasture. */
const trunk = () => lathe([[0, 0], [0.22, 0], [0.15, 2.4], [0, 2.4]], 16); // prettier-ignore
const crown = () => lathe([[0, 1.8], [1.1, 2.2], [1.6, 3.4], [1.3, 4.8], [0.6, 5.8], [0, 6.1]], 20); // prettier-ignore

export function buildHiveYard(): Promise<DemoShot> {
  const objects: Record<string, object> = {
    pasture: { name: 'pasture', shape: 'floor', material: 'grass', transform: translation(YARD.x, 0, YARD.z) },
  };
  const [body, upper, roof, board] = hive();
  for (let row = 0; row < ROWS; row++)
    SIDES.forEach((side, k) => {
      const wander = Math.sin(row * 7.3 + k * 2.9);
      const place = multiply(
        translation(YARD.x + side + 0.3 * wander, 0, YARD.z - 6 - row * ROW_GAP),
        rotationY(side < 0 ? 18 + 6 * wander : -18 + 6 * wander),
      );
      for (const part of ['body', 'upper', 'roof', 'board'])
        objects[`${part}-${row + 1}-${k + 1}`] = {
          name: `hive ${k + 1} of row ${row + 1}, ${part}`,
          mesh: part,
          material: part === 'roof' ? 'zinc' : part === 'board' ? 'wood' : `paint${(row + k) % 3}`,
          transform: place,
        };
      if (k === 0 || k === SIDES.length - 1) {
        const tree = translation(YARD.x + side * 2 + wander * 3, 0, YARD.z - 14 - row * ROW_GAP);
        objects[`trunk-${row + 1}-${k + 1}`] = {
          name: `tree of row ${row + 1}`,
          mesh: 'trunk',
          material: 'bark',
          transform: tree,
        };
        objects[`crown-${row + 1}-${k + 1}`] = {
          name: `tree of row ${row + 1}`,
          mesh: 'crown',
          material: 'leaves',
          transform: tree,
        };
      }
    });
  const eye: [number, number, number] = [YARD.x - 0.6, 1.9, YARD.z + 1.5];
  return makeShot(
    'geometry/hive-yard.glb',
    { body, upper, roof, board, trunk: trunk(), crown: crown() },
    {},
    {
      code: 'HA-050',
      name: 'hive yard',
      frame: 1001,
      camera: 'gate',
      cameras: {
        gate: { name: 'from the gate', transform: lookAt(eye, [YARD.x + 0.4, 0.6, YARD.z - 20]), fieldOfView: 34 },
      },
      maps: {
        grass: {
          kind: 'noise-object',
          name: 'grass',
          size: 2.5,
          octaves: 6,
          stops: [
            { at: 0.25, colour: [0.05, 0.1, 0.025] },
            { at: 0.75, colour: [0.16, 0.22, 0.06] },
          ],
        },
      },
      materials: {
        grass: { name: 'grass', baseColour: [1, 1, 1], baseColourMap: 'grass', roughness: 1, specular: 0.2 },
        paint0: { name: 'white paint', baseColour: [0.75, 0.73, 0.68], roughness: 0.6 },
        paint1: { name: 'blue paint', baseColour: [0.18, 0.3, 0.45], roughness: 0.6 },
        paint2: { name: 'yellow paint', baseColour: [0.68, 0.5, 0.14], roughness: 0.6 },
        zinc: { name: 'zinc roof', baseColour: [0.62, 0.64, 0.66], metallic: 1, roughness: 0.45 },
        wood: { name: 'flight board', baseColour: [0.42, 0.3, 0.18], roughness: 0.8 },
        bark: { name: 'bark', baseColour: [0.12, 0.09, 0.06], roughness: 0.95 },
        leaves: { name: 'leaves', baseColour: [0.07, 0.13, 0.03], roughness: 0.8 },
      },
      objects,
      lights: {
        sun: {
          kind: 'distant',
          name: 'sun',
          transform: lookAt([0.8, 0.2, -0.5], [0, 0, 0]),
          angle: 0.53,
          intensity: 3,
          colour: [1, 0.9, 0.74],
          shadowDistance: 6,
          group: 'sun',
        },
      },
      environment: {
        kind: 'gradient',
        intensity: 1,
        stops: [
          { at: 0, colour: [0.4, 0.4, 0.36] },
          { at: 0.5, colour: [3.2, 3.2, 3.2] },
          { at: 0.56, colour: [1.6, 1.65, 1.75] },
          { at: 1, colour: [0.9, 1, 1.2] },
        ],
        group: 'sky',
      },
      sheets: {
        preview: { width: 480, height: 270, samples: 16, rayDistance: 400, precision: 'single', grainTarget: 5 },
        final: { width: 1920, height: 1080, samples: 128, rayDistance: 400, precision: 'single' },
      },
    },
  );
}
