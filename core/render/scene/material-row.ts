/** A material as one row of a flat table. Maps are numbers of compiled maps, or −1. */
import type { CoatSpec, MaterialSpec } from '../../document/schema.ts';
import { absorption } from '../../materials/absorption.ts';

export const MATERIAL_STRIDE = 32;
export const MATERIAL_BASE = 0;
export const MATERIAL_BASE_MAP = 3;
export const MATERIAL_METALLIC = 4;
export const MATERIAL_METALLIC_MAP = 5;
export const MATERIAL_ROUGHNESS = 6;
export const MATERIAL_ROUGHNESS_MAP = 7;
export const MATERIAL_IOR = 8;
export const MATERIAL_SPECULAR = 9;
export const MATERIAL_TRANSMISSION = 10;
/** 1/m per channel. */
export const MATERIAL_ABSORPTION = 11;
export const MATERIAL_THICKNESS = 14;
export const MATERIAL_NORMAL_MAP = 15;
export const MATERIAL_NORMAL_STRENGTH = 16;
export const MATERIAL_BUMP_MAP = 17;
export const MATERIAL_BUMP_DEPTH = 18;
export const MATERIAL_COAT = 19;
export const MATERIAL_COAT_ROUGHNESS = 20;
export const MATERIAL_ALPHA = 21;
export const MATERIAL_ALPHA_MAP = 22;
/** Below it nothing is there; −1 where alpha is a chance. */
export const MATERIAL_ALPHA_CUTOFF = 23;
export const MATERIAL_EMISSION = 24;
export const MATERIAL_EMISSION_MAP = 27;
/** 1 when any map is used. */
export const MATERIAL_HAS_MAPS = 28;
/** 1 when a normal or bump map turns the normal. */
export const MATERIAL_TURNS_NORMAL = 29;
/** Displacement whose slopes all shade as a bump, on normals of the mesh as it was before; −1: none. */
export const MATERIAL_DETAIL_MAP = 30;
export const MATERIAL_DETAIL_DEPTH = 31;

/**
 * @param mapNumber number of a map by id, −1 for null
 * @param coat what the material's coat stands for, or null
 * @param detail whether its displacement shades as a bump as well
 */
export function writeMaterial(
  table: Float64Array,
  o: number,
  m: MaterialSpec,
  mapNumber: (id: string | null) => number,
  coat: CoatSpec | null,
  detail: boolean,
): void {
  for (let a = 0; a < 3; a++) {
    table[o + MATERIAL_BASE + a] = m.baseColour[a];
    table[o + MATERIAL_ABSORPTION + a] = absorption(m.attenuationColour[a], m.attenuationDistance);
    table[o + MATERIAL_EMISSION + a] = m.emission[a] * m.emissionStrength;
  }
  table[o + MATERIAL_BASE_MAP] = mapNumber(m.baseColourMap);
  table[o + MATERIAL_METALLIC] = m.metallic;
  table[o + MATERIAL_METALLIC_MAP] = mapNumber(m.metallicMap);
  table[o + MATERIAL_ROUGHNESS] = m.roughness;
  table[o + MATERIAL_ROUGHNESS_MAP] = mapNumber(m.roughnessMap);
  table[o + MATERIAL_IOR] = m.ior;
  table[o + MATERIAL_SPECULAR] = m.specular;
  table[o + MATERIAL_TRANSMISSION] = m.transmission;
  table[o + MATERIAL_THICKNESS] = m.thickness;
  table[o + MATERIAL_NORMAL_MAP] = mapNumber(m.normalMap);
  table[o + MATERIAL_NORMAL_STRENGTH] = m.normalStrength;
  table[o + MATERIAL_BUMP_MAP] = mapNumber(m.bumpMap);
  table[o + MATERIAL_BUMP_DEPTH] = m.bumpDepth;
  table[o + MATERIAL_COAT] = coat?.strength ?? 0;
  table[o + MATERIAL_COAT_ROUGHNESS] = coat?.roughness ?? 0;
  table[o + MATERIAL_ALPHA] = m.alpha;
  table[o + MATERIAL_ALPHA_MAP] = mapNumber(m.alphaMap);
  table[o + MATERIAL_ALPHA_CUTOFF] = m.alphaMode === 'mask' ? m.alphaCutoff : -1;
  table[o + MATERIAL_EMISSION_MAP] = mapNumber(m.emissionMap);
  const detailMap = detail ? m.displacementMap : null;
  table[o + MATERIAL_DETAIL_MAP] = mapNumber(detailMap);
  table[o + MATERIAL_DETAIL_DEPTH] = m.displacementScale;
  const maps = [m.baseColourMap, m.metallicMap, m.roughnessMap, m.normalMap, m.bumpMap, m.emissionMap, detailMap];
  table[o + MATERIAL_HAS_MAPS] = maps.some((id) => id !== null) ? 1 : 0;
  table[o + MATERIAL_TURNS_NORMAL] = m.normalMap !== null || m.bumpMap !== null || detailMap !== null ? 1 : 0;
}

/** Grey, matt and opaque; what the material emits stays. */
export function makeNeutral(m: MaterialSpec): MaterialSpec {
  return {
    ...m,
    baseColour: [0.5, 0.5, 0.5],
    baseColourMap: null,
    metallic: 0,
    metallicMap: null,
    roughness: 1,
    roughnessMap: null,
    specular: 0,
    transmission: 0,
    coat: null,
    alphaMode: 'opaque',
  };
}
