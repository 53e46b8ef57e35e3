/** A shot that renders in a second or two and has glass that a limit cuts: three panes before a lit wall. */
import { lookAt } from '../../core/data/transform.ts';
import {
  defaultCamera,
  defaultLight,
  defaultMaterial,
  defaultObject,
  defaultSheet,
  evenEnvironment,
} from '../../core/document/defaults.ts';
import type { Sheet, ShotDocument } from '../../core/document/schema.ts';
import { writeGlb } from '../../core/formats/gltf.ts';
import { box } from '../../demo/shapes.ts';

export interface SmallShot {
  document: ShotDocument;
  /** Everything but the document, by path. */
  files: Map<string, Uint8Array>;
}

export async function smallShot(code: string, sheet: Partial<Sheet> = {}): Promise<SmallShot> {
  const meshes = [
    { name: 'wall', mesh: box([-4, -4, -1.1], [4, 4, -1]) },
    { name: 'pane', mesh: box([-0.6, -0.6, 0], [0.6, 0.6, 0.02]) },
  ];
  const preview: Sheet = {
    ...defaultSheet(),
    width: 96,
    height: 64,
    samples: 16,
    limits: { diffuse: 2, specular: 2, transmission: 2, volume: 2, alpha: 16, overall: 4 },
    grainTarget: 1,
    ...sheet,
  };
  const document: ShotDocument = {
    schema: 'dusting.shot/1',
    code,
    name: 'three panes',
    frame: 1,
    camera: 'main',
    cameras: { main: { ...defaultCamera(), name: 'main', transform: lookAt([0, 0, 4], [0, 0, 0]), fieldOfView: 30 } },
    meshes: Object.fromEntries(meshes.map(({ name }, mesh) => [name, { file: 'geometry/panes.glb', mesh, primitive: 0 }])),
    textures: {},
    maps: {},
    coats: {},
      groups: {},
    materials: {
      wall: { ...defaultMaterial(), name: 'plaster', baseColour: [0.7, 0.7, 0.7], roughness: 1 },
      glass: { ...defaultMaterial(), name: 'clear glass', baseColour: [1, 1, 1], roughness: 0, transmission: 1 },
    },
    objects: { wall: { ...defaultObject(), name: 'wall', mesh: 'wall', material: 'wall' } },
    lights: {
      window: { ...defaultLight('rectangle'), name: 'window', transform: lookAt([-2, 2, 1], [0, 0, -1]), width: 1, height: 1, intensity: 1, colour: [4, 4, 4] },
    },
    environment: evenEnvironment([0.2, 0.2, 0.2]),
    background: null,
    fog: null,
    previewShadows: null,
    sheets: { preview, final: { ...structuredClone(preview), samples: 64 } },
  }; // prettier-ignore
  for (let i = 0; i < 3; i++)
    document.objects[`pane${i}`] = {
      ...defaultObject(),
      name: `pane ${i}`,
      mesh: 'pane',
      material: 'glass',
      transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, i * 0.2, 1],
    };
  return { document, files: new Map([['geometry/panes.glb', await writeGlb(meshes)]]) };
}

export const filesOf = ({ document, files }: SmallShot): [string, Uint8Array | string][] => [
  ['shot.json', JSON.stringify(document)],
  ...files,
];
