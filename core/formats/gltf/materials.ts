/** Materials of a glTF file and the maps on them. Source: Khronos, glTF 2.0 and its KHR_materials extensions. */
import type { Material, Texture, TextureInfo } from '@gltf-transform/core';
import type {
  Clearcoat,
  EmissiveStrength,
  IOR,
  Specular,
  Transform as TextureTransform,
  Transmission,
  Volume,
} from '@gltf-transform/extensions';
import { defaultMaterial } from '../../document/defaults.ts';
import type { MaterialSpec } from '../../document/schema.ts';
import {
  namedMaterial,
  plainTexture,
  type SourceMaterial,
  type SourceTexture,
  type TextureSlot,
} from '../source-scene.ts';

/** What a part without a material has (glTF 2.0, section 3.7.2.1). */
export function gltfDefaultMaterial(where: string): SourceMaterial {
  const material = namedMaterial('', where);
  Object.assign(material.spec, { baseColour: [1, 1, 1], metallic: 1, roughness: 1 });
  return material;
}

/** @param imageOf number of the scene's image of a texture */
export function gltfMaterial(m: Material, where: string, imageOf: (texture: Texture) => number): SourceMaterial {
  const transmission = m.getExtension<Transmission>('KHR_materials_transmission');
  const volume = m.getExtension<Volume>('KHR_materials_volume');
  const coat = m.getExtension<Clearcoat>('KHR_materials_clearcoat');
  const [r, g, b, alpha] = m.getBaseColorFactor();
  const distance = volume?.getAttenuationDistance() ?? Infinity;
  const isCut = m.getAlphaMode() !== 'OPAQUE';
  // Shown as its colours are, whatever lights it: a surface that sends out its base colour and reflects nothing.
  const isUnlit = m.getExtension('KHR_materials_unlit') !== null;
  const textures: SourceTexture[] = [];
  const add = (
    slot: TextureSlot,
    texture: Texture | null,
    info: TextureInfo | null,
    more: Partial<SourceTexture> = {},
  ) => {
    if (texture && info) textures.push({ ...textureOf(slot, imageOf(texture), info), ...more });
  };
  const base = [m.getBaseColorTexture(), m.getBaseColorTextureInfo()] as const;
  const metalRough = [m.getMetallicRoughnessTexture(), m.getMetallicRoughnessTextureInfo()] as const;
  add(isUnlit ? 'emission' : 'baseColour', ...base, { colourSpace: 'srgb' });
  if (isCut) add('alpha', ...base, { colourSpace: 'srgb', channel: 'alpha' });
  if (isUnlit) return unlit();
  add('metallic', ...metalRough, { colourSpace: 'linear', channel: 'blue' });
  add('roughness', ...metalRough, { colourSpace: 'linear', channel: 'green' });
  add('normal', m.getNormalTexture(), m.getNormalTextureInfo(), { colourSpace: 'linear' });
  add('emission', m.getEmissiveTexture(), m.getEmissiveTextureInfo(), { colourSpace: 'srgb' });
  add('occlusion', m.getOcclusionTexture(), m.getOcclusionTextureInfo(), { colourSpace: 'linear', channel: 'red' });
  function unlit(): SourceMaterial {
    const dark = { baseColour: [0, 0, 0], specular: 0, emission: [r, g, b], sampledAsLight: false };
    const spec = { ...defaultMaterial(), ...dark, name: m.getName().slice(0, 200), ...cutOut() };
    return { name: m.getName(), where, missing: false, spec, coat: null, thin: false, textures };
  }
  function cutOut(): Pick<MaterialSpec, 'alpha' | 'alphaMode' | 'alphaCutoff'> {
    const mode = m.getAlphaMode() === 'MASK' ? 'mask' : 'blend';
    return { alpha, alphaMode: isCut ? mode : 'opaque', alphaCutoff: m.getAlphaCutoff() };
  }
  return {
    name: m.getName(),
    where,
    missing: false,
    spec: {
      ...defaultMaterial(),
      name: m.getName().slice(0, 200),
      baseColour: [r, g, b],
      metallic: m.getMetallicFactor(),
      roughness: m.getRoughnessFactor(),
      ior: m.getExtension<IOR>('KHR_materials_ior')?.getIOR() ?? 1.5,
      specular: m.getExtension<Specular>('KHR_materials_specular')?.getSpecularFactor() ?? 1,
      transmission: transmission?.getTransmissionFactor() ?? 0,
      attenuationColour: [...(volume?.getAttenuationColor() ?? [1, 1, 1])],
      attenuationDistance: distance > 0 && distance < Infinity ? distance : null,
      thickness: volume?.getThicknessFactor() ?? 0,
      normalStrength: m.getNormalScale(),
      ...cutOut(),
      emission: [...m.getEmissiveFactor()],
      emissionStrength: m.getExtension<EmissiveStrength>('KHR_materials_emissive_strength')?.getEmissiveStrength() ?? 1,
    },
    coat:
      coat && coat.getClearcoatFactor() > 0
        ? { strength: coat.getClearcoatFactor(), roughness: coat.getClearcoatRoughnessFactor() }
        : null,
    // Transmission without a thickness is a thin wall.
    thin: !!transmission && !(volume && volume.getThicknessFactor() > 0),
    textures,
  };
}

const WRAPS: Record<number, SourceTexture['wrap']> = { 10497: 'repeat', 33071: 'clamp', 33648: 'mirror' };

function textureOf(slot: TextureSlot, image: number, info: TextureInfo): SourceTexture {
  const own = info.getExtension<TextureTransform>('KHR_texture_transform');
  const rotation = own?.getRotation() ?? 0;
  const [sx, sy] = own?.getScale() ?? [1, 1];
  const [ox, oy] = own?.getOffset() ?? [0, 0];
  return {
    ...plainTexture(slot, image),
    uvSet: own?.getTexCoord() ?? info.getTexCoord(),
    rotation: (rotation * 180) / Math.PI,
    scale: [sx, sy],
    // glTF counts V from the top of the image; ours counts from the bottom.
    offset: [ox + Math.sin(rotation) * sy, 1 - Math.cos(rotation) * sy - oy],
    wrap: WRAPS[info.getWrapS()] ?? 'repeat',
    filter: info.getMagFilter() === 9728 ? 'nearest' : 'mip',
  };
}
