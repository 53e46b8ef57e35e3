/** Shot document + its meshes and textures → CompiledScene. */
import type { ObjectSpec, ShotDocument } from '../../document/schema.ts';
import { compileGeometry, PLAIN_MEANS, type Means } from '../../geometry/scene-geometry.ts';
import { compileSky } from '../../lights/sky.ts';
import type { Assets } from './assets.ts';
import { compileCamera } from './camera.ts';
import { reliefsOf } from './displace.ts';
import { compileInstances } from './instances.ts';
import { compileLights, glowOfObject, inverseRows, meshLights } from './lights.ts';
import { compileSurfaces } from './surfaces.ts';
import { filmLayout } from '../film/film-layout.ts';
import { SLICES } from './motion.ts';
import { IS_SEE_THROUGH, HAS_ALPHA, IS_BACK_ONLY, IS_FRONT_ONLY, type CompiledScene } from '../scene/scene.ts';
import type { SceneSheet } from '../scene/scene-sheet.ts';
import { sceneWarnings } from './warnings.ts';

/**
 * @param means memory for the large arrays, and the builder of trees; a host lends shared memory and a kernel
 * @throws RangeError naming the id of a mesh or texture that is not among the assets
 */
export function compileScene(
  asked: ShotDocument,
  assets: Assets,
  sheet: SceneSheet,
  means: Means = PLAIN_MEANS,
): CompiledScene {
  const { allocate } = means;
  const document = withoutLacking(asked, assets);
  const warnings: string[] = [...(assets.missing ?? [])];
  const glows = meshLights(document);
  const glowing = [...glows].map(([id, light]) => glowOfObject(light, document.objects[id]));
  const reliefs = reliefsOf(document, assets, means.kept);
  const surfaces = compileSurfaces(document, assets, sheet.neutral, reliefs, glowing, means, warnings);
  const glowRow = new Map([...glows.keys()].map((id, i) => [id, surfaces.materialIds.length + i]));
  const rowOf = (id: string, object: ObjectSpec) => glowRow.get(id) ?? surfaces.materialIds.indexOf(object.material);
  const usedSpecs =
    sheet.neutral === 'off'
      ? surfaces.specs
      : surfaces.specs.map((spec) => ({ ...spec, transmission: 0, alphaMode: 'opaque' as const }));
  const placed = compileInstances(document, assets, sheet, rowOf, usedSpecs, means, reliefs);
  const lights = compileLights(document, surfaces, placed, allocate, warnings);
  warnings.push(...sceneWarnings(document, assets, sheet, means.kept));

  const { background } = document;
  const { background: backgroundTexture } = surfaces.skies;
  const ints = (values: number[]) => {
    const out = new Int32Array(allocate(values.length * 4));
    out.set(values);
    return out;
  };
  const { fog } = document;
  const everywhere = [-Infinity, -Infinity, -Infinity, Infinity, Infinity, Infinity];
  return {
    geometry: compileGeometry(placed.meshes, placed.instances, means),
    kernel: null,
    instanceMaterial: ints(placed.material),
    instanceObject: ints(placed.object),
    instanceFlags: ints(placed.flags),
    instancePriority: ints(placed.priority),
    instanceLight: ints(lights.instanceLight),
    instanceEmitter: ints(lights.instanceEmitter),
    toObject: Float64Array.from(placed.toWorld.flatMap(inverseRows)),
    nextToWorld: placed.moves ? Float64Array.from(placed.next.flatMap(rowsOf)) : null,
    objectIds: placed.objectIds,
    objectCount: placed.objectIds.length,
    materialIds: surfaces.materialIds,
    lightIds: lights.lightIds,
    textureIds: surfaces.textureIds,
    layout: filmLayout(document, sheet),
    materials: surfaces.materials,
    materialNumber: surfaces.materialNumber,
    maps: surfaces.maps,
    chains: surfaces.chains,
    lights: lights.lights,
    lightCount: lights.lightCount,
    hasBodies: lights.hasBodies,
    emitters: lights.emitters,
    lightTree: lights.lightTree,
    lightLinks: lights.lightLinks,
    shadowLinks: lights.shadowLinks,
    sky: lights.sky,
    skyLight: lights.skyLight,
    background:
      background && compileSky(background, backgroundTexture, surfaces.chains[backgroundTexture] ?? null, false),
    hidesBackground: background !== null && !background.camera,
    fog:
      fog && fog.density > 0
        ? Float64Array.of(
            fog.density,
            ...fog.albedo,
            fog.anisotropy,
            ...(fog.box ? [...fog.box.min, ...fog.box.max] : everywhere),
          )
        : null,
    hasThroughShadows: placed.flags.some((f) => f & (IS_SEE_THROUGH | HAS_ALPHA | IS_FRONT_ONLY | IS_BACK_ONLY)),
    single: sheet.precision === 'single',
    slices: placed.instances.some((i) => (i.slice ?? -1) >= 0) ? SLICES : 1,
    camera: compileCamera(document, sheet.width / sheet.height),
    previewShadows: document.previewShadows,
    warnings,
  };
}

/** Objects whose mesh is not there are left out, where that was taken. */
function withoutLacking(document: ShotDocument, assets: Assets): ShotDocument {
  if (!assets.missing?.length) return document;
  const lacks = ({ shape, mesh, keys }: ObjectSpec) =>
    shape === 'mesh' && [mesh, ...keys.map((key) => key.mesh)].some((id) => id !== null && !assets.meshes.has(id));
  const objects = Object.entries(document.objects).map(([id, object]) =>
    lacks(object) ? [id, { ...object, hidden: true }] : [id, object],
  );
  return { ...document, objects: Object.fromEntries(objects) as ShotDocument['objects'] };
}

const rowsOf = (m: number[]): number[] => [0, 1, 2].flatMap((row) => [m[row], m[4 + row], m[8 + row], m[12 + row]]);
