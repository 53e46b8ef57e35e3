/**
 * HA-040, store room: a closed room of crates and pots, and a fan that turns.
 *
 * What is wrong with it: occlusion has no distance, and in a closed room everything is behind something: the
 * pass is black. The fan has keys that turn it and is marked static: it renders still. And it is heavy: a crate
 * that nobody sees has two hundred thousand triangles, and the plaster's map is far too large.
 */
import {
  identity,
  multiply,
  lookAt,
  rotationX,
  rotationY,
  translation,
  type Transform,
} from '../../core/data/transform.ts';
import type { Mesh } from '../../core/data/mesh.ts';
import { makeShot, type Drawing } from '../make-shot.ts';
import type { DemoShot } from '../shot.ts';
import { box, lathe } from '../shapes.ts';

const ROOM = { x: 2, y: 2.5, z: 2.4 };
const MAP = 2048;
/** Degrees the fan turns in a frame: fifteen turns a second at 24 frames. */
const TURN = 225;

/** Open slats around posts: what a crate is at a glance. */
function crate(): Mesh {
  const parts: Mesh[] = [];
  const [w, h] = [0.25, 0.3];
  for (const x of [-w, w - 0.03])
    for (const z of [-w, w - 0.03]) parts.push(box([x, 0, z], [x + 0.03, h, z + 0.03], 4));
  for (let k = 0; k < 4; k++) {
    const y = 0.01 + k * 0.075;
    parts.push(box([-w, y, w], [w, y + 0.06, w + 0.012], 4), box([-w, y, -w - 0.012], [w, y + 0.06, -w], 4));
    parts.push(box([w, y, -w], [w + 0.012, y + 0.06, w], 4), box([-w - 0.012, y, -w], [-w, y + 0.06, w], 4));
  }
  parts.push(box([-w, 0.005, -w], [w, 0.02, w], 4));
  return joined(parts);
}

function joined(parts: Mesh[]): Mesh {
  const count = parts.reduce((sum, p) => sum + p.positions.length / 3, 0);
  const out: Mesh = {
    positions: new Float32Array(count * 3),
    normals: new Float32Array(count * 3),
    uvs: new Float32Array(count * 2),
    indices: new Uint32Array(parts.reduce((sum, p) => sum + p.indices.length, 0)),
  };
  let vertex = 0;
  let index = 0;
  for (const part of parts) {
    out.positions.set(part.positions, vertex * 3);
    out.normals!.set(part.normals!, vertex * 3);
    out.uvs!.set(part.uvs!, vertex * 2);
    part.indices.forEach((i, k) => (out.indices[index + k] = i + vertex));
    vertex += part.positions.length / 3;
    index += part.indices.length;
  }
  return out;
}

const pot = () =>
  lathe([[0, 0], [0.09, 0], [0.13, 0.08], [0.14, 0.16], [0.11, 0.24], [0.12, 0.26], [0.105, 0.26], [0.095, 0.24], [0.12, 0.16], [0.1, 0.04], [0, 0.02]], 64, 40); // prettier-ignore

/** A rounded lump of two hundred thousand triangles, where a box would do. */
const denseCrate = () =>
  lathe(
    Array.from({ length: 201 }, (_, k) => {
      const a = (k / 200) * Math.PI;
      return [k === 0 || k === 200 ? 0 : 0.24 * Math.sin(a) ** 0.3, 0.15 - 0.15 * Math.cos(a)] as [number, number];
    }),
    500,
  );

/** Three blades on a hub, in the plane of X and Y. */
function fan(): Mesh {
  const blade = (degrees: number): Mesh => {
    const b = box([-0.045, 0.05, -0.004], [0.045, 0.3, 0.004]);
    const a = (degrees * Math.PI) / 180;
    for (const list of [b.positions, b.normals!])
      for (let i = 0; i < list.length; i += 3) {
        const [x, y] = [list[i], list[i + 1]];
        list[i] = x * Math.cos(a) - y * Math.sin(a);
        list[i + 1] = x * Math.sin(a) + y * Math.cos(a);
      }
    return b;
  };
  return joined([blade(0), blade(120), blade(240), box([-0.05, -0.05, -0.02], [0.05, 0.05, 0.02])]);
}

/** Plaster with a faint trowel pattern, on far more texels than it needs. */
function plaster(): Drawing {
  const rgb = new Uint8Array(MAP * MAP * 3);
  for (let y = 0; y < MAP; y++)
    for (let x = 0; x < MAP; x++) {
      const wave = Math.sin(x / 37 + 3 * Math.sin(y / 61)) * Math.sin(y / 29 + 2 * Math.sin(x / 83));
      const light = 196 + 10 * wave;
      rgb.set([light, light * 0.96, light * 0.9], (y * MAP + x) * 3);
    }
  return { width: MAP, height: MAP, rgb };
}

const rotationZ = (degrees: number): Transform => {
  const a = (degrees * Math.PI) / 180;
  return [Math.cos(a), Math.sin(a), 0, 0, -Math.sin(a), Math.cos(a), 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
};

const FAN_PLACE = multiply(translation(0.75, 1.75, -2.05), rotationX(-6));

export function buildStoreRoom(): Promise<DemoShot> {
  const { x, y, z } = ROOM;
  const crates: [number, number, number, number][] = [
    [-1.4, 0, -1.7, 8],
    [-0.78, 0, -1.85, -4],
    [-1.3, 0.31, -1.72, 21],
    [1.25, 0, -1.6, -14],
    [1.2, 0, -0.75, 33],
    [1.24, 0.31, -1.55, 6],
  ];
  const pots: [number, number, number][] = [
    [-0.1, 0, -1.9],
    [0.26, 0, -1.75],
    [0.1, 0, -1.45],
    [-0.76, 0.3, -1.85],
  ];
  return makeShot(
    'geometry/store-room.glb',
    {
      floor: box([-x, -0.05, -z], [x, 0, z], 0.5),
      ceiling: box([-x, y, -z], [x, y + 0.05, z]),
      back: box([-x, 0, -z - 0.05], [x, y, -z], 0.4),
      front: box([-x, 0, z], [x, y, z + 0.05]),
      left: box([-x - 0.05, 0, -z], [-x, y, z], 0.4),
      right: box([x, 0, -z], [x + 0.05, y, z], 0.4),
      crate: crate(),
      pot: pot(),
      fan: fan(),
      dense: denseCrate(),
    },
    { plaster: plaster() },
    {
      code: 'HA-040',
      name: 'store room',
      frame: 1001,
      camera: 'door',
      cameras: {
        door: { name: 'from the door', transform: lookAt([0.1, 1.45, 2.1], [0, 0.75, -1.9]), fieldOfView: 46 },
      },
      maps: {
        plaster: { kind: 'image', name: 'plaster', texture: 'plaster' },
        planks: {
          kind: 'noise-uv',
          name: 'crate wood',
          size: 0.2,
          octaves: 4,
          scale: [6, 1],
          stops: [
            { at: 0.25, colour: [0.3, 0.19, 0.1] },
            { at: 0.75, colour: [0.55, 0.38, 0.22] },
          ],
        },
      },
      materials: {
        plaster: { name: 'plaster', baseColour: [0.9, 0.9, 0.9], baseColourMap: 'plaster', roughness: 0.95 },
        boards: { name: 'floor boards', baseColour: [0.34, 0.27, 0.2], roughness: 0.6 },
        wood: { name: 'crate wood', baseColour: [1, 1, 1], baseColourMap: 'planks', roughness: 0.8 },
        clay: { name: 'pots', baseColour: [0.5, 0.25, 0.15], roughness: 0.45 },
        tin: { name: 'fan', baseColour: [0.6, 0.62, 0.65], metallic: 1, roughness: 0.35 },
      },
      objects: {
        floor: { name: 'floor', mesh: 'floor', material: 'boards' },
        ceiling: { name: 'ceiling', mesh: 'ceiling', material: 'plaster' },
        back: { name: 'back wall', mesh: 'back', material: 'plaster' },
        front: { name: 'front wall', mesh: 'front', material: 'plaster' },
        left: { name: 'left wall', mesh: 'left', material: 'plaster' },
        right: { name: 'right wall', mesh: 'right', material: 'plaster' },
        dense: {
          name: 'crate behind the crates',
          mesh: 'dense',
          material: 'wood',
          transform: translation(-1.55, 0, -2.1),
        },
        fan: {
          name: 'fan',
          mesh: 'fan',
          material: 'tin',
          transform: FAN_PLACE,
          motion: 'static',
          // A half turn at the most between keys: more would be taken the other way round.
          keys: Array.from({ length: 9 }, (_, k) => ({
            frame: 1001 + k / 4,
            transform: multiply(FAN_PLACE, rotationZ((TURN * k) / 4)),
            mesh: null,
          })),
        },
        ...Object.fromEntries(
          crates.map(([cx, cy, cz, turn], i) => [
            `crate-${i + 1}`,
            {
              name: `crate ${i + 1}`,
              mesh: 'crate',
              material: 'wood',
              transform: multiply(translation(cx, cy, cz), rotationY(turn)),
            },
          ]),
        ),
        ...Object.fromEntries(
          pots.map(([px, py, pz], i) => [
            `pot-${i + 1}`,
            { name: `pot ${i + 1}`, mesh: 'pot', material: 'clay', transform: translation(px, py, pz) },
          ]),
        ),
      },
      lights: {
        hatch: {
          kind: 'rectangle',
          name: 'roof hatch',
          transform: multiply(translation(-0.4, y - 0.01, -0.6), rotationX(-90)),
          width: 0.8,
          height: 0.8,
          intensity: 14,
          colour: [1, 0.95, 0.88],
          group: 'hatch',
        },
        bulb: {
          kind: 'point',
          name: 'bulb',
          transform: multiply(identity(), translation(0.9, 2.1, 0.7)),
          radius: 0.03,
          intensity: 2.5,
          colour: [1, 0.72, 0.42],
          group: 'bulb',
        },
      },
      sheets: {
        preview: {
          width: 480,
          height: 270,
          samples: 16,
          passes: { occlusion: true },
          occlusion: { distance: null },
          grainTarget: 5,
        },
        final: {
          width: 1920,
          height: 1080,
          samples: 128,
          passes: { occlusion: true },
          occlusion: { distance: null },
        },
      },
    },
  );
}
