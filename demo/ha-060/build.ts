/**
 * HA-060, label case: the first labels of the apiary behind a glass front, before a tinted pane that stands before the cards.
 *
 * Before it lie small prints: two round labels and a leaf that are die-cut, a bee of few pixels, a tag.
 *
 * What is wrong with the case: the run of the tinted pane is upside down, so that its dark end hides the cards it was to set off; occlusion takes
 * the front for a wall, and dims what stands behind it, in light that is traced all around besides; and the horizon of the environment, which the camera does not see, is a
 * hard line in the front where it rises above the back of the case. With the prints: the round labels have lost their alpha, the leaf is black
 * under its transparent texels, the bee is blurred, and the tag still glows by its own colour.
 */
import { lookAt, multiply, rotationX, rotationY, translation } from '../../core/data/transform.ts';
import { label, wood } from '../ha-010/textures.ts';
import type { Mesh } from '../../core/data/mesh.ts';
import { makeShot } from '../make-shot.ts';
import type { DemoShot } from '../shot.ts';
import { box } from '../shapes.ts';
import { bee, leaf, roundCutout, roundLabel } from './prints.ts';

/** Metres: the case inside, its back, and the front that rises above it. */
const [WIDTH, BACK, FRONT, DEPTH] = [0.9, 0.34, 0.46, 0.22];
const CARD = { width: 0.16, height: 0.1 };
const PANE = { width: 0.4, height: 0.3 };

/** A card that leans back a little, its print to the front. */
const card = (x: number, z: number, turn: number) =>
  multiply(translation(x, 0.002, z), multiply(rotationY(turn), rotationX(-8)));

const SMALL = 0.1;
/** One side, its foot on the table, with UVs from 0 to 1. */
const small: Mesh = {
  positions: Float32Array.of(-SMALL / 2, 0, 0, SMALL / 2, 0, 0, SMALL / 2, SMALL, 0, -SMALL / 2, SMALL, 0),
  normals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1),
  uvs: Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1),
  indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
};
const smallAt = (x: number, turn: number) =>
  multiply(translation(x, 0.001, 0.3), multiply(rotationY(turn), rotationX(-35)));
const printed = (name: string, map: string, more: object = {}) => ({
  name,
  baseColour: [1, 1, 1],
  baseColourMap: map,
  roughness: 0.9,
  specular: 0,
  ...more,
});
const image = (name: string, texture: string, more: object = {}) => ({
  kind: 'image',
  name,
  texture,
  filter: 'mip',
  wrap: 'clamp',
  ...more,
});

export const buildLabelCase = (): Promise<DemoShot> =>
  makeShot(
    'geometry/label-case.glb',
    {
      table: box([-1.1, -0.04, -0.5], [1.1, 0, 0.8], 3),
      back: box([-WIDTH / 2, 0, -DEPTH], [WIDTH / 2, BACK, -DEPTH + 0.012], 2),
      side: box([0, 0, -DEPTH], [0.012, BACK, 0.1], 2),
      front: box([-WIDTH / 2, 0.001, 0.1], [WIDTH / 2, FRONT, 0.106]),
      pane: box([-PANE.width / 2, 0, 0], [PANE.width / 2, PANE.height, 0.003], 1 / PANE.height),
      card: box([-CARD.width / 2, 0, 0], [CARD.width / 2, CARD.height, 0.003], 1 / CARD.width),
      small,
      stand: box([-0.05, 0, -0.02], [0.05, 0.05, 0.02], 3),
    },
    { wood: wood(), label: label(), round: roundLabel(), round_alpha: roundCutout(), leaf: leaf(), bee: bee() },
    {
      code: 'HA-060',
      name: 'label case',
      frame: 1001,
      camera: 'visitor',
      cameras: { visitor: { name: 'visitor', transform: lookAt([0.12, 0.4, 1.25], [0, 0.21, 0]), fieldOfView: 36 } },
      maps: {
        wood: { kind: 'image', name: 'wood', texture: 'wood' },
        label: { kind: 'image', name: 'label', texture: 'label', filter: 'mip', offset: [0.5, 0], scale: [1, 1.6] },
        round: image('round', 'round'),
        leaf: image('leaf', 'leaf'),
        'leaf-cut': image('leaf cut', 'leaf', { channel: 'alpha' }),
        bee: image('bee', 'bee', { filter: 'bilinear' }),
        tag: image('tag', 'label'),
        tint: { kind: 'gradient', name: 'honey tint', axis: 'v', stops: [{ at: 0, colour: [0.02, 0.012, 0.004] }, { at: 0.45, colour: [0.06, 0.03, 0.008] }, { at: 0.75, colour: [0.95, 0.86, 0.62] }, { at: 1, colour: [0.97, 0.93, 0.85] }] },
      },
      materials: {
        table: { name: 'table', baseColour: [1, 1, 1], baseColourMap: 'wood', roughness: 0.8, specular: 0 },
        felt: { name: 'felt', baseColour: [0.42, 0.4, 0.36], roughness: 1, specular: 0 },
        frame: { name: 'frame', baseColour: [0.3, 0.2, 0.12], roughness: 0.9, specular: 0 },
        print: { name: 'print', baseColour: [1, 1, 1], baseColourMap: 'label', roughness: 0.9, specular: 0 },
        round: printed('round label', 'round'),
        leaf: printed('leaf', 'leaf', { alphaMap: 'leaf-cut', alphaMode: 'mask' }),
        bee: printed('bee', 'bee'),
        tag: printed('tag', 'tag', { emission: [1, 1, 1], emissionMap: 'tag', emissionStrength: 0.35 }),
        glass: { name: 'clear glass', baseColour: [0.98, 0.99, 0.985], roughness: 0, ior: 1.5, transmission: 1 },
        tinted: { name: 'tinted glass', baseColour: [1, 1, 1], baseColourMap: 'tint', roughness: 0, ior: 1.5, transmission: 1 },
      },
      objects: {
        table: { name: 'table', mesh: 'table', material: 'table' },
        back: { name: 'back', mesh: 'back', material: 'felt' },
        left: { name: 'left side', mesh: 'side', material: 'frame', transform: translation(-WIDTH / 2 - 0.012, 0, 0) },
        right: { name: 'right side', mesh: 'side', material: 'frame', transform: translation(WIDTH / 2, 0, 0) },
        front: { name: 'front glass', mesh: 'front', material: 'glass', seeThroughShadows: true },
        pane: { name: 'tinted pane', mesh: 'pane', material: 'tinted', transform: translation(0.2, 0.002, -0.02), seeThroughShadows: true },
        'label-1921': { name: 'label of 1921', mesh: 'card', material: 'print', transform: card(-0.33, -0.1, 8) },
        'label-1934': { name: 'label of 1934', mesh: 'card', material: 'print', transform: card(-0.12, -0.08, -4) },
        'label-1950': { name: 'label of 1950', mesh: 'card', material: 'print', transform: card(0.1, -0.1, 6) },
        'label-1968': { name: 'label of 1968', mesh: 'card', material: 'print', transform: card(0.3, -0.09, -6) },
        'round-acacia': { name: 'round label of acacia', mesh: 'small', material: 'round', transform: smallAt(-0.34, 10) },
        'round-lime': { name: 'round label of lime', mesh: 'small', material: 'round', transform: smallAt(-0.2, 4) },
        leaf: { name: 'leaf', mesh: 'small', material: 'leaf', transform: smallAt(-0.05, 0) },
        bee: { name: 'bee', mesh: 'small', material: 'bee', transform: smallAt(0.1, -4) },
        tag: { name: 'tag', mesh: 'small', material: 'tag', transform: smallAt(0.26, -8) },
        stand: { name: 'stand', mesh: 'stand', material: 'frame', transform: translation(-0.22, 0, 0.02) },
      },
      lights: {
        window: { kind: 'rectangle', name: 'window', transform: lookAt([-1.1, 1.3, 1.1], [0, 0.1, 0]), width: 0.8, height: 0.8, intensity: 15, colour: [1, 0.96, 0.9], group: 'window', samples: 2, visibility: { specular: false, transmission: false } },
      },
      environment: {
        kind: 'gradient',
        intensity: 0.6,
        // Land below, sky above: what a quick panorama has for a horizon.
        stops: [{ at: 0, colour: [0.1, 0.08, 0.06] }, { at: 0.499, colour: [0.14, 0.11, 0.08] }, { at: 0.503, colour: [0.75, 0.8, 0.9] }, { at: 1, colour: [0.3, 0.4, 0.62] }],
        visibility: { camera: false },
      },
      sheets: {
        preview: { width: 480, height: 270, samples: 64, occlusion: { distance: 0.5, strength: 0.5 }, passes: { occlusion: true }, extraSamples: { occlusion: 4 }, grainTarget: 6 },
        final: { width: 1920, height: 1080, samples: 256, occlusion: { distance: 0.5, strength: 0.5 }, passes: { occlusion: true }, extraSamples: { occlusion: 4 }, grainTarget: 6 },
      },
    },
  ); // prettier-ignore
