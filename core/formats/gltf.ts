/**
 * Triangle meshes from and to binary glTF 2.0 (GLB), through glTF-Transform.
 *
 * @example
 * const bytes = await writeGlb([{ name: 'jar', mesh }]);
 * const file = await readGlb(bytes, 'geometry/jars.glb');
 * const same = file.mesh(0, 0);
 */
import { Document, WebIO, type Accessor, type Primitive } from '@gltf-transform/core';
import { checkMesh, type Mesh, type PolygonData } from '../data/mesh.ts';
import { PolygonsExtension, type Polygons } from './gltf/polygons.ts';

const TRIANGLES = 4;

export interface GlbFile {
  meshCount: number;
  /** Throws a RangeError that names the file when there is no such mesh or it cannot be used. */
  mesh(index: number, primitive: number): Mesh;
  /** What the file says of the polygons a mesh was made from; null when it says nothing. */
  polygons(index: number, primitive: number): PolygonData | null;
}

/** @param where the file's name in messages. Throws a RangeError that says what is wrong with the bytes. */
export async function readGlb(bytes: Uint8Array, where: string): Promise<GlbFile> {
  checkHeader(bytes, where);
  let document: Document;
  try {
    document = await new WebIO().registerExtensions([PolygonsExtension]).readBinary(bytes as Uint8Array<ArrayBuffer>);
  } catch (error) {
    throw new RangeError(`${where}: is not readable glTF (${(error as Error).message})`, { cause: error });
  }
  const meshes = document.getRoot().listMeshes();
  const partAt = (index: number, primitive: number): Primitive => {
    if (index >= meshes.length)
      throw new RangeError(`${where}: has ${meshes.length} meshes, so there is no mesh ${index} (counted from 0)`);
    const parts = meshes[index].listPrimitives();
    if (primitive >= parts.length)
      throw new RangeError(`${where}: mesh ${index} has ${parts.length} parts, so there is no part ${primitive}`);
    return parts[primitive];
  };
  return {
    meshCount: meshes.length,
    mesh: (index, primitive) => meshOf(partAt(index, primitive), `${where} mesh ${index} part ${primitive}`),
    polygons: (index, primitive) =>
      partAt(index, primitive).getExtension<Polygons>(PolygonsExtension.EXTENSION_NAME)?.getData() ?? null,
  };
}

/** A primitive's triangles; V from the bottom. Throws a RangeError that names it when it cannot be used. */
export function meshOf(part: Primitive, name: string): Mesh {
  if (part.getMode() !== TRIANGLES) throw new RangeError(`${name}: is not made of triangles`);
  const position = part.getAttribute('POSITION');
  if (!position) throw new RangeError(`${name}: has no positions`);
  const vertices = position.getCount();
  const normal = part.getAttribute('NORMAL');
  const uv = part.getAttribute('TEXCOORD_0');
  const uv2 = part.getAttribute('TEXCOORD_1');
  const indices = part.getIndices();
  const mesh: Mesh = {
    positions: floats(position, 3),
    normals: normal && floats(normal, 3),
    uvs: uv && flipV(floats(uv, 2)),
    uvs2: uv2 && flipV(floats(uv2, 2)),
    indices: indices ? Uint32Array.from(indices.getArray()!) : Uint32Array.from({ length: vertices }, (_, i) => i),
  };
  checkMesh(mesh, name);
  return mesh;
}

export interface MeshToWrite {
  name: string;
  mesh: Mesh;
  polygons?: PolygonData | null;
  /** Meshes of one key are parts of one mesh, in order; left out: a mesh of its own. */
  partOf?: string;
}

/** @returns a GLB with a mesh for each given one, or for each key that they share, in order; each in a node of its first name */
export async function writeGlb(meshes: MeshToWrite[]): Promise<Uint8Array> {
  const document = new Document();
  const extension = meshes.some(({ polygons }) => polygons) ? document.createExtension(PolygonsExtension) : null;
  const buffer = document.createBuffer();
  const scene = document.createScene();
  const accessor = (array: Float32Array | Uint32Array, type: 'SCALAR' | 'VEC2' | 'VEC3') =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array.slice() as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const wholes = new Map<string, ReturnType<typeof document.createMesh>>();
  for (const { name, mesh, polygons, partOf } of meshes) {
    const part = document
      .createPrimitive()
      .setAttribute('POSITION', accessor(mesh.positions, 'VEC3'))
      .setIndices(accessor(mesh.indices, 'SCALAR'));
    if (polygons && extension) part.setExtension(PolygonsExtension.EXTENSION_NAME, extension.createPolygons(polygons));
    if (mesh.normals) part.setAttribute('NORMAL', accessor(mesh.normals, 'VEC3'));
    if (mesh.uvs) part.setAttribute('TEXCOORD_0', accessor(flipV(mesh.uvs.slice()), 'VEC2'));
    if (mesh.uvs2) part.setAttribute('TEXCOORD_1', accessor(flipV(mesh.uvs2.slice()), 'VEC2'));
    let whole = partOf === undefined ? undefined : wholes.get(partOf);
    if (!whole) {
      whole = document.createMesh(name);
      if (partOf !== undefined) wholes.set(partOf, whole);
      scene.addChild(document.createNode(name).setMesh(whole));
    }
    whole.addPrimitive(part);
  }
  document.getRoot().setDefaultScene(scene);
  return new WebIO().registerExtensions([PolygonsExtension]).writeBinary(document);
}

/** The GLB header and chunk lengths must fit the bytes there are; what is inside is glTF-Transform's to judge. */
export function checkHeader(bytes: Uint8Array, where: string): void {
  if (bytes.byteLength < 20) throw new RangeError(`${where}: ${bytes.byteLength} bytes are too few for a GLB file`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== 0x46546c67) throw new RangeError(`${where}: does not begin as a GLB file does`);
  if (view.getUint32(4, true) !== 2) throw new RangeError(`${where}: is GLB version ${view.getUint32(4, true)}, not 2`);
  const stated = view.getUint32(8, true);
  if (stated > bytes.byteLength)
    throw new RangeError(`${where}: is cut off: it states ${stated} bytes and has ${bytes.byteLength}`);
}

function floats(accessor: Accessor, components: number): Float32Array {
  const out = new Float32Array(accessor.getCount() * components);
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, element);
    for (let k = 0; k < components; k++) out[i * components + k] = element[k];
  }
  return out;
}

/** glTF counts V from the top of the image, our meshes from the bottom. */
function flipV(uvs: Float32Array): Float32Array {
  for (let i = 1; i < uvs.length; i += 2) uvs[i] = 1 - uvs[i];
  return uvs;
}
