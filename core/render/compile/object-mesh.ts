/**
 * The mesh of an object as it is traced: its file's, or one between two keys; subdivided as far as the sheet lets it; moved by
 * its material's map. Each is made once for all objects that have it alike, and again only where what it hangs on changed.
 *
 * @example
 * const { key, make } = objectMesh('comb', document.objects.comb, pose, { assets, refinement: refinementOf(document, sheet), reliefs: reliefsOf(document, assets) });
 */
import type { Mesh } from '../../data/mesh.ts';
import { meshPolygons } from '../../data/mesh-polygons.ts';
import { trianglesOf, type PolyMesh } from '../../data/poly-mesh.ts';
import type { ObjectSpec } from '../../document/schema.ts';
import { KeptParts } from '../../geometry/kept-parts.ts';
import { facesFrom, joinParts } from '../../subdivision/join-parts.ts';
import { subdivided } from '../../subdivision/subdivide.ts';
import { need, type Assets } from './assets.ts';
import { displaced, type Relief } from './displace.ts';
import { blendMeshes, type Pose } from './motion.ts';
import { levelOf, type Refinement } from './refinement.ts';

/** A mesh that is made when it is asked for, by what tells it from others. */
export interface MeshToMake {
  key: string;
  make: () => Mesh;
}

export interface ObjectMeshOptions {
  assets: Assets;
  refinement: Refinement;
  /** By material. */
  reliefs: ReadonlyMap<string, Relief>;
  kept: KeptParts;
}

/** @throws RangeError, when it is made, naming the object whose subdivision cannot be carried out */
export function objectMesh(
  id: string,
  object: ObjectSpec,
  pose: Pose,
  { assets, refinement, reliefs, kept }: ObjectMeshOptions,
): MeshToMake {
  const source = meshOf(object, pose, assets);
  if (object.shape === 'floor') return source;
  const fine =
    object.subdivision.level === 0 ? source : fineMesh(id, object, source, pose, { assets, refinement, kept });
  return displacedMesh(object, fine, reliefs.get(object.material), kept);
}

/** Ids of the meshes that are subdivided together with an object's own, itself among them. */
export function partsOfObject(
  { mesh }: ObjectSpec,
  pose: Pose,
  assets: Assets,
  { parts }: Refinement,
): readonly string[] {
  const all = pose.meshes ? undefined : parts.get(mesh!);
  return all?.every((id) => assets.meshes.has(id)) ? all : [mesh!];
}

/** Half the side of an endless floor, metres: as far as 32-bit boxes can tell places apart by a metre. */
const FLOOR = 1e7;

const FLOOR_MESH: Mesh = {
  positions: new Float32Array([-FLOOR, 0, -FLOOR, FLOOR, 0, -FLOOR, FLOOR, 0, FLOOR, -FLOOR, 0, FLOOR]),
  normals: null,
  uvs: null,
  indices: new Uint32Array([0, 2, 1, 0, 3, 2]),
};

function meshOf(object: ObjectSpec, pose: Pose, assets: Assets): MeshToMake {
  if (object.shape === 'floor') return { key: 'endless floor', make: () => FLOOR_MESH };
  const { meshes } = pose;
  if (!meshes) return { key: `mesh ${object.mesh}`, make: () => need(assets.meshes, object.mesh!, 'mesh') };
  const [from, to] = [meshes.from, meshes.to].map((id) => need(assets.meshes, id, 'mesh'));
  return {
    key: `between ${meshes.from} and ${meshes.to} ${meshes.share}`,
    make: () => ({ ...blendMeshes(from, to, meshes.share), polygons: from.polygons }),
  };
}

/** The mesh as it is subdivided, made once for all objects that subdivide it alike; parts of one mesh are subdivided together. */
function fineMesh(
  id: string,
  object: ObjectSpec,
  source: MeshToMake,
  pose: Pose,
  { assets, refinement, kept }: Omit<ObjectMeshOptions, 'reliefs'>,
): MeshToMake {
  const { boundary, uvs } = object.subdivision;
  const parts = partsOfObject(object, pose, assets, refinement);
  const meshes = parts.length > 1 ? parts.map((part) => need(assets.meshes, part, 'mesh')) : [source.make()];
  const level = levelOf(object, meshes, pose.transform, refinement);
  if (level === 0) return source;
  const how = `subdivided ${level} ${boundary} ${uvs}${parts.length > 1 ? ` with ${parts.join(' ')}` : ''}`;
  const refine = (): Mesh[] => {
    try {
      const polygons = meshes.map((mesh, k) => withScheme(meshPolygons(mesh, mesh.polygons ?? null, parts.length > 1 ? `mesh ${parts[k]}` : source.key))); // prettier-ignore
      const options = { level, boundary, uvRule: uvs };
      const joined = polygons.length > 1 ? joinParts(polygons) : null;
      if (!joined) return polygons.map((one) => trianglesOf(subdivided(one, options)));
      const fine = subdivided(joined.whole, options);
      return polygons.map((_, k) => trianglesOf(fine, facesFrom(fine, joined.firstFace[k], joined.firstFace[k + 1])));
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      throw new RangeError(`/objects/${id}/subdivision: ${error.message}`, { cause: error });
    }
  };
  const own = parts.length > 1 ? parts.indexOf(object.mesh!) : 0;
  return { key: `${source.key} ${how}`, make: () => kept.of(meshes[0], how, refine)[own] };
}

const withScheme = (poly: PolyMesh): PolyMesh => (poly.subdivision === 'none' ? { ...poly, subdivision: 'catmull-clark' } : poly); // prettier-ignore

/** The same moved by its material's map; what both hang on is kept with both. */
function displacedMesh(
  { material }: ObjectSpec,
  source: MeshToMake,
  relief: Relief | undefined,
  kept: KeptParts,
): MeshToMake {
  if (!relief) return source;
  const make = () => {
    const mesh = source.make();
    const own = kept.of(mesh, relief.key, () => new KeptParts());
    return own.of(relief.texture ?? mesh, 'displaced', () => displaced(mesh, relief));
  };
  return { key: `${source.key} displaced by ${material}`, make };
}
