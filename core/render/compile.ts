/** Shot document + its meshes and textures → CompiledScene. */
import type { Mesh } from '../data/mesh.ts';
import type { Texture } from '../data/texture.ts';
import type { ShotDocument } from '../document/schema.ts';
import {
  allocatePlain,
  compileGeometry,
  compileMesh,
  type Allocate,
  type CompiledMesh,
  type InstanceSpec,
} from '../geometry/scene-geometry.ts';
import { ALL_RAYS } from '../geometry/intersector.ts';
import { LIGHT_STRIDE, lightMesh, writeLight } from '../lights/rectangle.ts';
import { absorption } from '../materials/absorption.ts';
import {
  MATERIAL_ABSORPTION,
  MATERIAL_BASE,
  MATERIAL_EMISSION,
  MATERIAL_IOR,
  MATERIAL_METALLIC,
  MATERIAL_ROUGHNESS,
  MATERIAL_STRIDE,
  MATERIAL_TEXTURE,
  MATERIAL_TRANSMISSION,
  type CompiledScene,
} from './scene.ts';

/** What the document's references stand for, by id. */
export interface Assets {
  meshes: Map<string, Mesh>;
  textures: Map<string, Texture>;
}

/**
 * @param allocate memory for the large arrays; pass one that gives SharedArrayBuffers to share the result
 * @throws RangeError naming the id of a mesh or texture that is not among the assets
 */
export function compileScene(
  document: ShotDocument,
  assets: Assets,
  sheet: { width: number; height: number },
  allocate: Allocate = allocatePlain,
): CompiledScene {
  const textureIds = Object.keys(document.textures).sort();
  const textures = textureIds.map((id) => shareTexture(need(assets.textures, id, 'texture'), allocate));
  const materialIds = Object.keys(document.materials).sort();
  const materials = new Float64Array(allocate(materialIds.length * MATERIAL_STRIDE * 8));
  materialIds.forEach((id, i) => {
    const m = document.materials[id];
    const o = i * MATERIAL_STRIDE;
    const texture = m.baseColourTexture === null ? -1 : textureIds.indexOf(m.baseColourTexture);
    for (let a = 0; a < 3; a++) {
      materials[o + MATERIAL_BASE + a] = m.baseColour[a];
      materials[o + MATERIAL_ABSORPTION + a] = absorption(m.attenuationColour[a], m.attenuationDistance);
      materials[o + MATERIAL_EMISSION + a] = m.emission[a];
    }
    materials[o + MATERIAL_TEXTURE] = texture;
    materials[o + MATERIAL_METALLIC] = m.metallic;
    materials[o + MATERIAL_ROUGHNESS] = m.roughness;
    materials[o + MATERIAL_IOR] = m.ior;
    materials[o + MATERIAL_TRANSMISSION] = m.transmission;
  });

  const meshes: CompiledMesh[] = [];
  const meshNumbers = new Map<string, number>();
  const meshNumber = (id: string) => {
    let number = meshNumbers.get(id);
    if (number === undefined) {
      number = meshes.push(compileMesh(need(assets.meshes, id, 'mesh'), allocate)) - 1;
      meshNumbers.set(id, number);
    }
    return number;
  };

  const instances: InstanceSpec[] = [];
  const material: number[] = [];
  const priority: number[] = [];
  const light: number[] = [];
  const instanceIds: string[] = [];
  for (const id of Object.keys(document.objects).sort()) {
    const object = document.objects[id];
    if (object.hidden) continue;
    instances.push({ mesh: meshNumber(object.mesh), transform: object.transform, mask: ALL_RAYS });
    material.push(materialIds.indexOf(object.material));
    priority.push(object.priority);
    light.push(-1);
    instanceIds.push(id);
  }
  const lightIds = Object.keys(document.lights).sort();
  const lights = new Float64Array(allocate(lightIds.length * LIGHT_STRIDE * 8));
  lightIds.forEach((id, i) => {
    const spec = document.lights[id];
    writeLight(lights, i * LIGHT_STRIDE, spec);
    meshes.push(compileMesh(lightMesh(spec), allocate));
    instances.push({ mesh: meshes.length - 1, transform: spec.transform, mask: ALL_RAYS });
    material.push(-1);
    priority.push(0);
    light.push(i);
    instanceIds.push(id);
  });

  return {
    geometry: compileGeometry(meshes, instances, allocate),
    rays: null,
    instanceMaterial: ints(material, allocate),
    instancePriority: ints(priority, allocate),
    instanceLight: ints(light, allocate),
    instanceIds,
    materials,
    textures,
    lights,
    lightCount: lightIds.length,
    environment: Float64Array.from(document.environment.radiance),
    camera: compileCamera(document, sheet.width / sheet.height),
  };
}

function compileCamera(document: ShotDocument, aspect: number): Float64Array {
  const { transform: m, fieldOfView } = document.cameras[document.camera];
  const column = (k: number) => {
    const l = Math.hypot(m[k * 4], m[k * 4 + 1], m[k * 4 + 2]);
    return [m[k * 4] / l, m[k * 4 + 1] / l, m[k * 4 + 2] / l];
  };
  const half = Math.tan((fieldOfView * Math.PI) / 360);
  const right = column(0).map((c) => c * half * aspect);
  const up = column(1).map((c) => c * half);
  return Float64Array.from([m[12], m[13], m[14], ...right, ...up, ...column(2).map((c) => -c)]);
}

function need<T>(map: Map<string, T>, id: string, kind: string): T {
  const item = map.get(id);
  if (!item) throw new RangeError(`${kind} "${id}" was not loaded`);
  return item;
}

function ints(values: number[], allocate: Allocate): Int32Array {
  const out = new Int32Array(allocate(values.length * 4));
  out.set(values);
  return out;
}

function shareTexture(texture: Texture, allocate: Allocate): Texture {
  const texels = new Float32Array(allocate(texture.texels.length * 4));
  texels.set(texture.texels);
  return { width: texture.width, height: texture.height, texels };
}
