/**
 * Wavefront OBJ with its MTL libraries: polygons, groups, creases and per-corner indices kept.
 *
 * @example
 * const scene = await readObj(bytes, 'yard/hive.obj', files);
 */
import { faceStarts } from '../../data/poly-mesh.ts';
import type { SceneFiles } from '../scene-files.ts';
import { SceneReading, type ReadOptions } from '../scene-reading.ts';
import { namedMaterial, plainNode, type SourceMaterial, type SourcePart, type SourceScene } from '../source-scene.ts';
import { decodeText } from '../text.ts';
import { readObjGeometry, type ObjGeometry } from './geometry.ts';
import { objMesh } from './mesh.ts';
import { readMtl } from './mtl.ts';

/** @throws RangeError that names file and line when it cannot be read */
export async function readObj(
  bytes: Uint8Array,
  file: string,
  files: SceneFiles,
  options: ReadOptions = {},
): Promise<SourceScene> {
  const reading = new SceneReading(files, 'OBJ', file, bytes.byteLength, options);
  const { scene } = reading;
  const { text, notes } = decodeText(bytes, file);
  for (const note of notes) reading.repaired(file, note);
  const geometry = readObjGeometry(text, reading);
  if (geometry.faceSizes.length === 0)
    throw new RangeError(
      `${file}: has no faces${geometry.points.length ? ', only points' : ''}, so there is nothing to render`,
    );
  const numberOf = await readMaterials(geometry, file, reading);
  const starts = faceStarts({ faceSizes: Uint32Array.from(geometry.faceSizes) });
  facesByNode(geometry).forEach((faces, n) => {
    if (faces.length === 0) return;
    const { name, line } = geometry.nodes[n];
    const where = `${file}:${line}`;
    const { poly, materials, repaired } = objMesh(geometry, faces, starts);
    for (const what of repaired) reading.repaired(where, `${name}: ${what}`);
    scene.meshes.push({ name, where, poly });
    scene.nodes.push({
      ...plainNode(`/${name.replaceAll('/', '_')}`, where),
      name,
      mesh: scene.meshes.length - 1,
      parts: partsOf(materials, numberOf),
    });
  });
  return scene;
}

/** Faces in one run of each node. */
function facesByNode({ nodes, faceNode }: ObjGeometry): Uint32Array[] {
  const counts = new Uint32Array(nodes.length);
  for (const node of faceNode) counts[node] += 1;
  const faces = Array.from(counts, (count) => new Uint32Array(count));
  counts.fill(0);
  faceNode.forEach((node, face) => (faces[node][counts[node]++] = face));
  return faces;
}

/** @returns number of the scene's material for each that the geometry names */
async function readMaterials(geometry: ObjGeometry, file: string, reading: SceneReading): Promise<number[]> {
  const { scene } = reading;
  const byName = new Map<string, SourceMaterial>();
  for (const { text, line } of geometry.libraries) {
    const where = `${file}:${line}`;
    // Names may hold blanks, and several may stand on a line.
    const whole = await reading.refer('material library', file, text, where);
    let found = [whole];
    if (!whole.bytes && /\s/.test(text)) {
      scene.references.splice(scene.references.indexOf(whole.reference), 1);
      found = await Promise.all(text.split(/\s+/).map((path) => reading.refer('material library', file, path, where)));
    }
    for (const { reference, bytes } of found) {
      if (!bytes) continue;
      const decoded = decodeText(bytes, reference.resolved!);
      for (const note of decoded.notes) reading.repaired(reference.resolved!, note);
      for (const material of await readMtl(decoded.text, reference.resolved!, reading)) {
        if (byName.has(material.name))
          reading.repaired(material.where, `a second material "${material.name}"; the first one counts`);
        else byName.set(material.name, material);
        if (geometry.materials.some(({ name }) => name === material.name)) reference.used = true;
      }
    }
  }
  return geometry.materials.map(({ name, line }) => {
    const where = `${file}:${line}`;
    const known = byName.get(name);
    if (!known) reading.notUnderstood(where, `material "${name}" is in no library that is there`);
    return scene.materials.push(known ?? { ...namedMaterial(name, where), missing: true }) - 1;
  });
}

function partsOf(materials: Int32Array, numberOf: number[]): SourcePart[] {
  const faces = new Map<number, number[]>();
  materials.forEach((material, face) => {
    const own = faces.get(material);
    if (own) own.push(face);
    else faces.set(material, [face]);
  });
  const number = (material: number) => (material < 0 ? -1 : numberOf[material]);
  if (faces.size === 1) return [{ material: number(materials[0]), faces: null }];
  return [...faces].map(([material, own]) => ({ material: number(material), faces: Uint32Array.from(own) }));
}
