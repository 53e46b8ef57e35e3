/** Textures, maps and materials of a document → flat tables. */
import { materialIds as idsOfMaterials } from '../../document/object-names.ts';
import type { Texture } from '../../data/texture.ts';
import { daylightTexture } from '../../lights/daylight.ts';
import type { MaterialSpec, Sheet, ShotDocument, SkySpec } from '../../document/schema.ts';
import type { Allocate } from '../../geometry/allocate.ts';
import type { Means } from '../../geometry/scene-geometry.ts';
import { compileMap, type CompiledMap } from '../../textures/compiled-map.ts';
import { mipChain } from '../../textures/image.ts';
import { readAs } from '../../textures/read-as.ts';
import { coatOf, mapOf, type Assets } from './assets.ts';
import type { Relief } from './displace.ts';
import { makeNeutral, MATERIAL_STRIDE, writeMaterial } from '../scene/material-row.ts';

export interface CompiledSurfaces {
  textureIds: string[];
  /** Of the document's textures by their number, and behind them those of daylight skies. */
  chains: Texture[][];
  /** Numbers of what environment and background show; −1: no image. */
  skies: { environment: number; background: number };
  maps: CompiledMap[];
  materialIds: string[];
  /** One row for each of `specs`. */
  materials: Float64Array;
  materialNumber: Int32Array;
  /** What each row was made of. */
  specs: MaterialSpec[];
}

/**
 * @param mesh lights give their object a glow of its own: further rows, each a material with that emission
 */
export function compileSurfaces(
  document: ShotDocument,
  assets: Assets,
  neutral: Sheet['neutral'],
  reliefs: ReadonlyMap<string, Relief>,
  glowing: { material: string; emission: number[] }[],
  { allocate, kept }: Means,
  warnings: string[],
): CompiledSurfaces {
  const textureIds = [...assets.textures.keys()].sort();
  // Heights below 0 are no mistake.
  const isHeight = new Set(
    Object.values(document.materials).flatMap(({ displacementMap }) => {
      const map = displacementMap === null ? null : mapOf(document, assets, displacementMap);
      return map?.kind === 'image' ? [map.texture] : [];
    }),
  );
  const chains = textureIds.map((id) => {
    const texture = assets.textures.get(id)!;
    const colourSpace = document.textures[id]?.colourSpace ?? texture.colourSpace;
    const make = () => compileImage(colourSpace ? readAs(texture, colourSpace) : texture, allocate);
    const { chain, bad, notFinite } = kept ? kept.of(texture, `mips ${colourSpace ?? ''}`, make) : make();
    if (bad > 0 && !isHeight.has(id))
      warnings.push(`Texture "${id}" has ${bad} values that are negative, infinite or no numbers; they count as 0.`);
    if (notFinite > 0 && isHeight.has(id))
      warnings.push(`Texture "${id}" has ${notFinite} heights that are infinite or no numbers; they count as 0. Export it again, or fill them.`); // prettier-ignore
    return chain;
  });
  const skyOf = (spec: SkySpec | null): number => {
    if (spec?.kind !== 'daylight') return spec?.texture ? textureIds.indexOf(spec.texture) : -1;
    return chains.push(mipChain(daylightTexture(spec.daylight)).map((level) => share(level, allocate))) - 1;
  };
  const skies = { environment: skyOf(document.environment), background: skyOf(document.background) };
  const mapIds = Object.keys(document.maps).sort();
  const maps = mapIds.map((id) => {
    const spec = mapOf(document, assets, id);
    return compileMap(spec, textureIds, spec.kind === 'image' ? assets.textures.get(spec.texture) : undefined);
  });
  const materialIds = idsOfMaterials(document);
  const specs: MaterialSpec[] = [
    ...materialIds.map((id) => document.materials[id]),
    ...glowing.map(({ material, emission }) => ({
      ...document.materials[material],
      emission,
      emissionStrength: 1,
    })),
  ];
  const ids = [...materialIds, ...glowing.map(({ material }) => material)];
  const materials = new Float64Array(allocate(Math.max(1, specs.length) * MATERIAL_STRIDE * 8));
  const number = (id: string | null) => (id === null ? -1 : mapIds.indexOf(id));
  specs.forEach((spec, row) => {
    const used = neutral === 'off' ? spec : makeNeutral(spec);
    const coat = used.coat === null ? null : coatOf(document, assets, used.coat);
    writeMaterial(materials, row * MATERIAL_STRIDE, used, number, coat, reliefs.get(ids[row])?.detail ?? false);
  });
  return {
    textureIds,
    chains,
    skies,
    maps,
    materialIds,
    materials,
    materialNumber: Int32Array.from(ids, (id) => materialIds.indexOf(id)),
    specs,
  };
}

/** Texels that are no numbers, infinite or negative would spoil every mean they reach: they become 0. */
function compileImage(texture: Texture, allocate: Allocate) {
  let [bad, notFinite] = [0, 0];
  const texels = texture.texels.slice();
  for (let i = 0; i < texels.length; i++) {
    if (texels[i] >= 0 && texels[i] < Infinity) continue;
    if (!Number.isFinite(texels[i])) notFinite++;
    texels[i] = 0;
    bad++;
  }
  return { chain: mipChain({ ...texture, texels }).map((level) => share(level, allocate)), bad, notFinite };
}

function share({ width, height, texels, alpha }: Texture, allocate: Allocate): Texture {
  const copy = (from: Float32Array) => {
    const to = new Float32Array(allocate(from.length * 4));
    to.set(from);
    return to;
  };
  return { width, height, texels: copy(texels), alpha: alpha && copy(alpha) };
}
