/** Objects of a document → meshes and instances to trace, with what the renderer knows of each. */
import { objectIds } from '../../document/object-names.ts';
import type { Mesh } from '../../data/mesh.ts';
import { identity, invert, type Transform } from '../../data/transform.ts';
import type { MaterialSpec, ObjectSpec, Sheet, ShotDocument } from '../../document/schema.ts';
import {
  CAMERA_RAY,
  DIFFUSE_RAY,
  OCCLUSION_RAY,
  SHADOW_RAY,
  SHADOW_THROUGH_RAY,
  SPECULAR_RAY,
  TRANSMISSION_RAY,
} from '../../geometry/ray-kinds.ts';
import { compileMesh, type CompiledMesh, type InstanceSpec, type Means } from '../../geometry/scene-geometry.ts';
import { KeptParts } from '../../geometry/kept-parts.ts';
import { bakeMesh } from '../../geometry/bake-mesh.ts';
import type { Assets } from './assets.ts';
import type { Relief } from './displace.ts';
import { poseAt, posesInShutter, SLICES, type Pose } from './motion.ts';
import { objectMesh } from './object-mesh.ts';
import { refinementOf } from './refinement.ts';
import {
  EMITS,
  HAS_ALPHA,
  IS_BACK_ONLY,
  IS_CUT_OUT,
  IS_FLAT,
  IS_FLOOR,
  IS_FRONT_ONLY,
  IS_GLASS,
  IS_SEE_THROUGH,
  IS_SHADOW_ONLY,
  IS_THIN,
  IS_UNSHADED,
} from '../scene/scene.ts';

export interface CompiledInstances {
  meshes: CompiledMesh[];
  instances: InstanceSpec[];
  material: number[];
  object: number[];
  flags: number[];
  priority: number[];
  /** Mesh-to-world of each, for maps in the object's space, whatever the mesh was baked to. */
  toWorld: Transform[];
  /** Mesh-to-world a frame later. */
  next: Transform[];
  objectIds: string[];
  moves: boolean;
}

/**
 * @param rowOf row of an object's material
 * @param specs what each row was made of, glass and alpha told by it
 * @param reliefs of materials that move what they are on
 */
export function compileInstances(
  document: ShotDocument,
  assets: Assets,
  sheet: Pick<Sheet, 'motion' | 'precision' | 'mostSubdivision' | 'width' | 'height'>,
  rowOf: (id: string, object: ObjectSpec) => number,
  specs: MaterialSpec[],
  means: Means,
  reliefs: Map<string, Relief>,
): CompiledInstances {
  const out: CompiledInstances = {
    meshes: [],
    instances: [],
    material: [],
    object: [],
    flags: [],
    priority: [],
    toWorld: [],
    next: [],
    objectIds: objectIds(document),
    moves: false,
  };
  const options = { assets, refinement: refinementOf(document, sheet), reliefs, kept: means.kept ?? new KeptParts() };
  const numbers = new Map<string, number>();
  const numbered = (key: string, make: () => Mesh) => {
    let number = numbers.get(key);
    if (number === undefined) numbers.set(key, (number = out.meshes.push(treeOf(make(), means)) - 1));
    return number;
  };
  out.objectIds.forEach((id, objectNumber) => {
    const object = document.objects[id];
    if (object.hidden) return;
    const row = rowOf(id, object);
    const flags = flagsOf(object, specs[row]);
    const poses = posesInShutter(object, document.frame, sheet.motion);
    if (poses.length > 1 || object.motion !== 'static') out.moves = true;
    poses.forEach((pose, slice) => {
      const source = objectMesh(id, object, pose, options);
      const isBaked = sheet.precision === 'single' && object.shape === 'mesh';
      const mesh = isBaked
        ? numbered(`${id} in the world ${slice}`, () => bakeMesh(source.make(), pose.transform))
        : numbered(source.key, source.make);
      out.instances.push({
        mesh,
        transform: isBaked ? identity() : pose.transform,
        mask: maskOf(object, flags),
        slice: poses.length === SLICES ? slice : -1,
      });
      out.material.push(row);
      out.object.push(objectNumber);
      out.flags.push(flags);
      out.priority.push(object.priority);
      out.toWorld.push(pose.transform);
      out.next.push(laterPose(object, document.frame, sheet.motion, poses.length, slice, isBaked ? pose : null));
    });
  });
  return out;
}

const treeOf = (mesh: Mesh, means: Means): CompiledMesh =>
  means.kept ? means.kept.of(mesh, 'tree', () => compileMesh(mesh, means)) : compileMesh(mesh, means);

/** Where the mesh as it is traced stands a frame later. */
function laterPose(
  object: ObjectSpec,
  frame: number,
  { shutter }: Sheet['motion'],
  slices: number,
  slice: number,
  baked: Pose | null,
): Transform {
  const time = slices === 1 ? 0 : (shutter * (slice + 0.5)) / slices;
  const later = poseAt(object, frame + 1 + time).transform;
  if (!baked) return later;
  const back = invert(baked.transform);
  const product = new Array<number>(16).fill(0);
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++)
      for (let k = 0; k < 4; k++) product[column * 4 + row] += later[k * 4 + row] * back[column * 4 + k];
  return product;
}

function flagsOf(object: ObjectSpec, material: MaterialSpec): number {
  const isGlass = material.transmission > 0;
  const emits = material.emissionStrength > 0 && material.emission.some((e) => e > 0);
  return (
    (isGlass ? IS_GLASS : 0) |
    (isGlass && object.thin ? IS_THIN : 0) |
    (object.normals === 'flat' ? IS_FLAT : 0) |
    (object.facing === 'front' ? IS_FRONT_ONLY : 0) |
    (object.facing === 'back' ? IS_BACK_ONLY : 0) |
    (material.alphaMode === 'opaque' ? 0 : HAS_ALPHA) |
    (object.role === 'shadow-only' ? IS_SHADOW_ONLY : 0) |
    (object.role === 'cut-out' || object.role === 'hold-out' ? IS_CUT_OUT : 0) |
    (object.receivesShadows ? 0 : IS_UNSHADED) |
    (isGlass && object.seeThroughShadows ? IS_SEE_THROUGH : 0) |
    (object.shape === 'floor' ? IS_FLOOR : 0) |
    (emits ? EMITS : 0)
  );
}

function maskOf({ visibility: v, role, facing }: ObjectSpec, flags: number): number {
  const through = (flags & (IS_SEE_THROUGH | HAS_ALPHA)) !== 0 || facing !== 'both';
  const shadow = v.shadow ? (through ? SHADOW_THROUGH_RAY : SHADOW_RAY) : 0;
  if (role === 'shadow-only' || role === 'cut-out')
    return (v.camera ? CAMERA_RAY : 0) | (role === 'cut-out' ? shadow : 0);
  return (
    shadow |
    (v.camera ? CAMERA_RAY : 0) |
    (v.diffuse ? DIFFUSE_RAY : 0) |
    (v.specular ? SPECULAR_RAY : 0) |
    (v.transmission ? TRANSMISSION_RAY : 0) |
    (v.occlusion ? OCCLUSION_RAY : 0)
  );
}
