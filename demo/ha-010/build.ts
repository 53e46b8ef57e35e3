/**
 * HA-010, jar shelf: honey jars five rows deep, a window on the left, a steel tray at the back, tipped
 * forward, that mirrors them.
 *
 * What is wrong with it: a straight path through five empty jars passes 5 jars × 2 walls × 2 faces =
 * 20 faces, but paths end at 6 transmissions (and, behind that, at 9 events of all kinds): the jars
 * are black inside. Lids are black in the tray, for reflections end at the second. What light is left
 * is grainy with shadows boosted.
 */
import type { Mesh } from '../../core/data/mesh.ts';
import { lookAt, multiply, rotationX, rotationY, translation, type Transform } from '../../core/data/transform.ts';
import {
  defaultCamera,
  defaultLight,
  defaultMap,
  defaultMaterial,
  defaultObject,
  defaultSheet,
  evenEnvironment,
} from '../../core/document/defaults.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { writeGlb } from '../../core/formats/gltf.ts';
import { writePng } from '../../core/formats/png.ts';
import type { DemoShot } from '../shot.ts';
import { box, cylinderPatch, lathe } from '../shapes.ts';
import { label, wood } from './textures.ts';

const ROWS = 5;
const COLUMNS = [-0.195, -0.065, 0.065, 0.195];
const ROW_DEPTH = 0.098;
/** Columns whose jars hold honey; the others are empty all the way back. */
const FILLED = new Set([0, 3]);

const RADIUS = 0.04;
const HEIGHT = 0.14;
const WALL = 0.003;
const HONEY_LEVEL = 0.098;
/** Honey reaches this far into the glass, so that no gap is left between them; priorities decide. */
const OVERLAP = 0.0001;
const SEGMENTS = 96;

/** Outline of a jar body, from the bottom's middle to the neck's rim. */
function wall(inset: number): [number, number][] {
  const r = RADIUS - inset;
  return [
    [r - 0.006, inset],
    [r - 0.002, inset + 0.0015],
    [r, inset + 0.006],
    [r, 0.1 - inset * 0.3],
    [r - 0.0015, 0.109 - inset * 0.3],
    [r - 0.0055, 0.116 - inset * 0.3],
    [r - 0.008, 0.12 - inset * 0.3],
  ];
}

function jarBody(): Mesh {
  const outside = wall(0);
  const inside = wall(WALL).reverse();
  return lathe(
    [[0, 0], ...outside, [RADIUS - 0.008, HEIGHT], [RADIUS - WALL - 0.008, HEIGHT], ...inside, [0, WALL]],
    SEGMENTS,
  );
}

function honeyBody(): Mesh {
  const side = wall(WALL - OVERLAP).filter(([, y]) => y < HONEY_LEVEL - 0.002);
  const radius = RADIUS - WALL + OVERLAP;
  return lathe([[0, WALL - OVERLAP], ...side, [radius, HONEY_LEVEL], [0, HONEY_LEVEL]], SEGMENTS);
}

const lid = (): Mesh =>
  lathe(
    [
      [0, 0.13],
      [0.0335, 0.13],
      [0.0345, 0.131],
      [0.0345, 0.1455],
      [0.033, 0.147],
      [0, 0.147],
    ],
    SEGMENTS,
    40,
  );

export async function buildJarShelf(): Promise<DemoShot> {
  const meshes: [string, Mesh][] = [
    ['jar', jarBody()],
    ['honey', honeyBody()],
    ['lid', lid()],
    ['label', cylinderPatch(RADIUS + 0.0003, 0.022, 0.06, 92, 32)],
    ['shelf', box([-1, -0.03, -0.62], [1, 0, 0.4], 2)],
    ['wall', box([-1.6, -0.6, -0.66], [1.6, 1.2, -0.62])],
    ['tray', box([-0.16, 0, -0.004], [0.16, 0.21, 0])],
  ];
  const document: ShotDocument = {
    schema: 'dusting.shot/1',
    code: 'HA-010',
    name: 'jar shelf',
    frame: 1001,
    camera: 'shelf',
    cameras: {
      shelf: {
        ...defaultCamera(),
        name: 'shelf camera',
        transform: lookAt([0.065, 0.165, 0.95], [0.012, 0.068, 0]),
        fieldOfView: 19,
      },
    },
    meshes: Object.fromEntries(
      meshes.map(([id], mesh) => [id, { file: 'geometry/jar-shelf.glb', mesh, primitive: 0 }]),
    ),
    textures: {
      wood: { file: 'textures/wood.png', colourSpace: 'srgb' },
      label: { file: 'textures/label.png', colourSpace: 'srgb' },
    },
    maps: {
      wood: { ...defaultMap('image'), name: 'wood grain', texture: 'wood' },
      label: { ...defaultMap('image'), name: 'printed label', texture: 'label' },
    },
    coats: {},
    groups: {},
    materials: {
      glass: {
        ...defaultMaterial(),
        name: 'tinted glass',
        baseColour: [1, 1, 1],
        roughness: 0,
        ior: 1.52,
        transmission: 1,
        attenuationColour: [0.72, 0.86, 0.74],
        attenuationDistance: 0.03,
      },
      honey: {
        ...defaultMaterial(),
        name: 'honey',
        baseColour: [1, 1, 1],
        roughness: 0,
        ior: 1.49,
        transmission: 1,
        attenuationColour: [0.95, 0.62, 0.12],
        attenuationDistance: 0.04,
      },
      steel: {
        ...defaultMaterial(),
        name: 'polished steel',
        baseColour: [0.72, 0.7, 0.67],
        metallic: 1,
        roughness: 0.02,
      },
      tin: { ...defaultMaterial(), name: 'lid', baseColour: [0.62, 0.6, 0.55], metallic: 1, roughness: 0.22 },
      paper: {
        ...defaultMaterial(),
        name: 'label paper',
        baseColour: [0.95, 0.95, 0.95],
        baseColourMap: 'label',
        roughness: 0.7,
      },
      wood: {
        ...defaultMaterial(),
        name: 'shelf wood',
        baseColour: [1, 1, 1],
        baseColourMap: 'wood',
        roughness: 0.45,
      },
      plaster: { ...defaultMaterial(), name: 'plaster', baseColour: [0.62, 0.58, 0.52], roughness: 0.9 },
    },
    objects: {
      shelf: { ...defaultObject(), name: 'shelf', mesh: 'shelf', material: 'wood' },
      wall: { ...defaultObject(), name: 'back wall', mesh: 'wall', material: 'plaster' },
      tray: {
        ...defaultObject(),
        name: 'steel tray',
        mesh: 'tray',
        material: 'steel',
        transform: multiply(translation(0.31, 0.0006, -0.5), multiply(rotationY(-30), rotationX(8))),
      },
    },
    lights: {
      window: {
        ...defaultLight('rectangle'),
        name: 'window',
        transform: lookAt([-1.3, 1, 0.8], [0, 0.05, -0.3]),
        width: 2.2,
        height: 1.8,
        intensity: 1,
        colour: [1.5, 1.42, 1.3],
      },
    },
    environment: evenEnvironment([0.1, 0.11, 0.125]),
    background: null,
    fog: null,
    previewShadows: null,
    sheets: {
      preview: {
        ...defaultSheet(),
        width: 480,
        height: 270,
        samples: 32,
        limits: { diffuse: 3, specular: 2, transmission: 6, volume: 3, alpha: 20, overall: 9 },
        grainTarget: 5,
      },
      final: {
        ...defaultSheet(),
        width: 1920,
        height: 1080,
        samples: 128,
        limits: { diffuse: 3, specular: 2, transmission: 6, volume: 3, alpha: 20, overall: 11 },
      },
    },
  };
  COLUMNS.forEach((x, column) => {
    for (let row = 0; row < ROWS; row++) {
      const id = `${column + 1}-${row + 1}`;
      const where = `column ${column + 1}, row ${row + 1}`;
      const transform: Transform = translation(x, 0.0002, -row * ROW_DEPTH);
      const add = (part: string, name: string, material: string, priority = 0) => {
        document.objects[`${part}-${id}`] = {
          ...defaultObject(),
          name: `${name}, ${where}`,
          mesh: part,
          material,
          transform,
          priority,
        };
      };
      add('jar', 'jar', 'glass', 2);
      add('lid', 'lid', 'tin');
      if (row === 0) add('label', 'label', 'paper');
      if (FILLED.has(column)) add('honey', 'honey', 'honey', 1);
    }
  });
  const images = { wood: wood(), label: label() };
  return {
    document,
    files: new Map([
      ['geometry/jar-shelf.glb', await writeGlb(meshes.map(([name, mesh]) => ({ name, mesh })))],
      ...Object.entries(images).map(
        ([name, i]) => [`textures/${name}.png`, writePng(i.width, i.height, i.rgb)] as [string, Uint8Array],
      ),
    ]),
  };
}
