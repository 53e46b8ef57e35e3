/** Small scenes for tests: a document with defaults, meshes given in memory. */
import { luminance } from '../../core/data/colour.ts';
import type { Mesh } from '../../core/data/mesh.ts';
import { lookAt } from '../../core/data/transform.ts';
import {
  defaultCamera,
  defaultEnvironment,
  defaultMaterial,
  defaultObject,
  defaultSheet,
} from '../../core/document/defaults.ts';
import type { MaterialSpec, ObjectSpec, Sheet, ShotDocument } from '../../core/document/schema.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { createFilm, type Film } from '../../core/render/film/film.ts';
import { LIGHT_PASSES, type LightPass } from '../../core/render/film/passes.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene/scene.ts';
import type { Region } from '../../core/data/picture.ts';
import { kernelScene } from './kernel.ts';

export interface TestScene {
  document: ShotDocument;
  assets: Assets;
}

/** A scene of `parts`, each a mesh with a material; unlimited depth, sheet 16×16, 64 samples, seed 1. */
export function scene(
  parts: { mesh: Mesh; material?: Partial<MaterialSpec>; object?: Partial<ObjectSpec> }[],
  rest: Partial<ShotDocument> = {},
  sheet: Partial<Sheet> = {},
): TestScene {
  const preview: Sheet = {
    ...defaultSheet(),
    width: 16,
    height: 16,
    samples: 64,
    limits: { diffuse: 64, specular: 64, transmission: 64, volume: 64, alpha: 256, overall: 200 },
    ...sheet,
  };
  const document: ShotDocument = {
    schema: 'dusting.shot/1',
    code: 'TEST',
    name: 'test',
    frame: 1,
    camera: 'main',
    cameras: { main: { ...defaultCamera(), name: '', transform: lookAt([0, 0, 5], [0, 0, 0]), fieldOfView: 20 } },
    meshes: {},
    textures: {},
    maps: {},
    coats: {},
    groups: {},
    materials: {},
    objects: {},
    lights: {},
    environment: defaultEnvironment(),
    background: null,
    fog: null,
    previewShadows: null,
    sheets: { preview, final: structuredClone(preview) },
    ...rest,
  };
  const meshes = new Map<string, Mesh>();
  parts.forEach(({ mesh, material, object }, i) => {
    const id = `part${i}`;
    meshes.set(id, mesh);
    document.meshes[id] = { file: 'test.glb', mesh: i, primitive: 0 };
    document.materials[id] = { ...defaultMaterial(), ...material };
    document.objects[id] = { ...defaultObject(), mesh: id, material: id, ...object };
  });
  return { document, assets: { meshes, textures: new Map() } };
}

export function compiled({ document, assets }: TestScene): CompiledScene {
  return compileScene(document, assets, document.sheets.preview);
}

/** Renders a region (all of it by default) of the preview sheet. */
export function render(test: TestScene, region?: Region, samples?: number): Film {
  const sheet = test.document.sheets.preview;
  // The same bits as by its TypeScript twin (`kernel.test.ts`), in a third of the time.
  const ready = kernelScene(compiled(test));
  const film = createFilm(region ?? { x: 0, y: 0, width: sheet.width, height: sheet.height }, ready.layout);
  renderGroups(ready, settingsOf(sheet), film, (samples ?? sheet.samples) / 4);
  return film;
}

/** Mean luminance of a pass over a film, with its standard error over pixels taken as independent. */
export function meanOf(film: Film, pass: LightPass = 'beauty'): { mean: number; error: number } {
  const p = LIGHT_PASSES.indexOf(pass);
  const n = film.region.width * film.region.height;
  let sum = 0;
  let variance = 0;
  const groups = film.groups;
  for (let i = 0; i < n; i++) {
    const o = i * film.width + p * 3;
    sum += luminance(film.means[o], film.means[o + 1], film.means[o + 2]);
    variance += film.moments[i * LIGHT_PASSES.length + p] / (groups * (groups - 1));
  }
  return { mean: sum / n, error: Math.sqrt(variance) / n };
}

/** A closed sphere; smooth normals unless `flat`. */
export function sphere(radius: number, segments = 48, flat = false): Mesh {
  const positions: number[] = [];
  const indices: number[] = [];
  const rows = segments / 2;
  for (let i = 0; i <= rows; i++)
    for (let j = 0; j < segments; j++) {
      const a = (Math.PI * i) / rows;
      const b = (2 * Math.PI * j) / segments;
      const s = i === 0 || i === rows ? 0 : Math.sin(a);
      positions.push(radius * s * Math.cos(b), radius * Math.cos(a), -radius * s * Math.sin(b));
    }
  for (let i = 0; i < rows; i++)
    for (let j = 0; j < segments; j++) {
      const k = (j + 1) % segments;
      const [a, b, c, d] = [i * segments + j, i * segments + k, (i + 1) * segments + j, (i + 1) * segments + k];
      if (i > 0) indices.push(a, c, b);
      if (i < rows - 1) indices.push(b, c, d);
    }
  const p = Float32Array.from(positions);
  return {
    positions: p,
    normals: flat ? null : p.map((v) => v / radius),
    uvs: null,
    indices: Uint32Array.from(indices),
  };
}

/** A square in the plane z, facing +Z, of half width `half`. */
export function square(half: number, z: number): Mesh {
  return {
    positions: Float32Array.from([-half, -half, z, half, -half, z, half, half, z, -half, half, z]),
    normals: null,
    uvs: null,
    indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
  };
}
