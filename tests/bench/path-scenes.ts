/** Scenes that path tracing is measured on, small enough to be told to a program in another language. */
import type { Mesh } from '../../core/data/mesh.ts';
import { identity, lookAt, multiply, rotationX, translation } from '../../core/data/transform.ts';
import { defaultCamera, defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import type { LightSpec, MaterialSpec } from '../../core/document/schema.ts';
import { box, lathe } from '../../demo/shapes.ts';
import { scene, sphere, square, type TestScene } from '../unit/helpers.ts';
import { room } from './meshes.ts';

const SHEET = { width: 192, height: 128, roulette: false, filter: { kind: 'box' as const, width: 1 } };
const matt = (grey: number): Partial<MaterialSpec> => ({ baseColour: [grey, grey, grey], roughness: 1, specular: 0 });

const depth = (diffuse: number, other: number) => ({
  limits: { diffuse, specular: other, transmission: other, volume: 0, alpha: 0, overall: diffuse + other },
});

/** A square of radiance 10 under the ceiling, shining down. */
const ceiling = (height: number, side: number): LightSpec => ({
  ...defaultLight('rectangle'),
  width: side,
  height: side,
  intensity: 10,
  transform: multiply(translation(0, height, 0), rotationX(-90)),
});

/** A sphere with hills. */
function bumpy(segments: number): Mesh {
  const mesh = sphere(1, segments);
  const positions = mesh.positions.map((_, i, all) => {
    const [x, y, z] = [0, 1, 2].map((a) => all[i - (i % 3) + a]);
    return all[i] * (1 + 0.05 * Math.sin(9 * x) * Math.sin(11 * y) * Math.sin(13 * z));
  });
  return { ...mesh, positions, normals: null };
}

const jar = lathe([[0, 0], [0.35, 0], [0.35, 0.8], [0.25, 1], [0.2, 1], [0.3, 0.75], [0.3, 0.05], [0, 0.05]], 64); // prettier-ignore

export const pathScenes: Record<string, () => TestScene> = {
  'room, 12 k triangles': () => {
    const test = scene([{ mesh: room(), material: matt(0.7) }], { lights: { light: ceiling(4.9, 3) } }, { ...SHEET, ...depth(4, 0) }); // prettier-ignore
    test.document.cameras.main = {
      ...defaultCamera(),
      name: '',
      transform: lookAt([0, 1, 4.8], [0, 0, 0]),
      fieldOfView: 60,
    };
    return test;
  },
  '20 glass jars and a mirror': () => {
    const jars = Array.from({ length: 20 }, (_, k) => ({
      mesh: { ...jar, normals: null },
      material: { ...matt(1), roughness: 0, transmission: 1, ior: 1.5 },
      object: { transform: translation((k % 5) - 2, 0, -Math.floor(k / 5) * 0.9), seeThroughShadows: false },
    }));
    const mirror = { ...square(2.5, 0), positions: square(2.5, 0).positions.map((p, i) => (i % 3 === 2 ? -3.6 : i % 3 === 1 ? p + 2.5 : p)) }; // prettier-ignore
    const test = scene(
      [
        { mesh: box([-4, -0.1, -4], [4, -0.001, 4]), material: matt(0.6) },
        { mesh: mirror, material: { ...matt(0.9), metallic: 1, roughness: 0 } },
        ...jars,
      ],
      { lights: { light: ceiling(4, 2) } },
      { ...SHEET, ...depth(4, 12) },
    );
    test.document.cameras.main = {
      ...defaultCamera(),
      name: '',
      transform: lookAt([0, 1.6, 4.5], [0, 0.4, -1.5]),
      fieldOfView: 45,
    };
    return test;
  },
  'sphere, 500 k triangles': () => {
    const test = scene(
      [{ mesh: bumpy(708), material: matt(0.7), object: { transform: identity() } }],
      { environment: evenEnvironment([1, 1, 1]) },
      { ...SHEET, ...depth(4, 0) },
    );
    test.document.cameras.main = {
      ...defaultCamera(),
      name: '',
      transform: lookAt([0, 0, 3.5], [0, 0, 0]),
      fieldOfView: 40,
    };
    return test;
  },
};
