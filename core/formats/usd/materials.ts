/** Preview surfaces. Source: OpenUSD, "UsdPreviewSurface specification", 2.6. */
import type { SceneReading } from '../scene-reading.ts';
import {
  namedMaterial,
  plainTexture,
  type SourceMaterial,
  type SourceTexture,
  type TextureSlot,
} from '../source-scene.ts';
import { assetOf, numberOf, numbersOf, textOf, tripleOf, valueOf } from './access.ts';
import { primAt } from './compose.ts';
import type { UsdPrim } from './layer.ts';

const clamp = (value: number) => Math.min(1, Math.max(0, value));

/** Inputs of the surface that can be maps, and where they go. */
const SLOTS: Record<string, TextureSlot> = {
  diffuseColor: 'baseColour',
  emissiveColor: 'emission',
  metallic: 'metallic',
  roughness: 'roughness',
  opacity: 'alpha',
  normal: 'normal',
  displacement: 'displacement',
  occlusion: 'occlusion',
};

const KNOWN = new Set([
  ...Object.keys(SLOTS), 'useSpecularWorkflow', 'specularColor', 'clearcoat', 'clearcoatRoughness', 'ior',
  'opacityThreshold', 'opacityMode',
]); // prettier-ignore

export async function usdMaterial(prim: UsdPrim, root: UsdPrim, reading: SceneReading): Promise<SourceMaterial> {
  const material = namedMaterial(prim.name, prim.where);
  const { spec } = material;
  const surface = sourceOf(prim, 'outputs:surface', root)?.prim;
  if (!surface) {
    reading.notUnderstood(prim.where, `material "${prim.name}" has no surface`);
    return material;
  }
  const id = textOf(surface, 'info:id') ?? 'no id';
  if (id !== 'UsdPreviewSurface') {
    reading.notUnderstood(surface.where, `shader "${id}" of material "${prim.name}"`);
    return material;
  }
  for (const name of surface.attributes.keys())
    if (name.startsWith('inputs:') && !KNOWN.has(name.slice(7)))
      reading.notUnderstood(surface.where, `input "${name.slice(7)}" of a preview surface`);
  const input = (name: string) => resolve(surface, `inputs:${name}`, root);
  const one = (name: string, otherwise: number) => {
    const { prim: at, name: as } = input(name);
    return numberOf(at, as) ?? otherwise;
  };
  const three = (name: string, otherwise: [number, number, number]) => {
    const { prim: at, name: as } = input(name);
    return tripleOf(at, as) ?? otherwise;
  };
  spec.baseColour = three('diffuseColor', [0.18, 0.18, 0.18]).map(clamp);
  spec.emission = three('emissiveColor', [0, 0, 0]).map((v) => Math.max(0, v));
  spec.metallic = clamp(one('metallic', 0));
  spec.roughness = clamp(one('roughness', 0.5));
  spec.ior = Math.min(4, Math.max(1, one('ior', 1.5)));
  if (one('useSpecularWorkflow', 0) === 1) {
    // Reflection at normal incidence that the index alone gives; the colour scales it.
    const f0 = ((spec.ior - 1) / (spec.ior + 1)) ** 2;
    spec.specular = clamp(Math.max(...three('specularColor', [0, 0, 0])) / Math.max(f0, 1e-6));
  }
  const coat = clamp(one('clearcoat', 0));
  if (coat > 0) material.coat = { strength: coat, roughness: clamp(one('clearcoatRoughness', 0.01)) };
  const opacity = clamp(one('opacity', 1));
  const threshold = one('opacityThreshold', 0);
  for (const [name, slot] of Object.entries(SLOTS)) {
    const texture = await textureOf(surface, name, slot, root, reading);
    if (!texture) continue;
    material.textures.push(texture);
    // A map takes the place of the value.
    if (slot === 'baseColour') spec.baseColour = [1, 1, 1];
    else if (slot === 'emission') spec.emission = [1, 1, 1];
    else if (slot === 'metallic') spec.metallic = 1;
    else if (slot === 'roughness') spec.roughness = 1;
  }
  const isCut = material.textures.some(({ slot }) => slot === 'alpha');
  if (isCut || opacity < 1) {
    spec.alpha = isCut ? 1 : opacity;
    spec.alphaMode = threshold > 0 ? 'mask' : 'blend';
    if (threshold > 0) spec.alphaCutoff = clamp(threshold);
  }
  return material;
}

/** Follows connections through the inputs of node graphs and materials to where the value, or a shader, stands. */
function resolve(prim: UsdPrim, name: string, root: UsdPrim): { prim: UsdPrim; name: string } {
  let at = { prim, name };
  for (let i = 0; i < 32; i++) {
    const [connection] = at.prim.attributes.get(at.name)?.connections ?? [];
    if (!connection) return at;
    const [path, property] = connection.split('.');
    const next = primAt(root, path);
    if (!next) return at;
    at = { prim: next, name: property };
    if (property.startsWith('outputs:') && next.type === 'Shader') return at;
  }
  return at;
}

/** The shader that an input or output is connected to. */
function sourceOf(prim: UsdPrim, name: string, root: UsdPrim): { prim: UsdPrim; output: string } | null {
  const at = resolve(prim, name, root);
  return at.name.startsWith('outputs:') && at.prim !== prim ? { prim: at.prim, output: at.name.slice(8) } : null;
}

const CHANNELS: Record<string, SourceTexture['channel']> = { r: 'red', g: 'green', b: 'blue', a: 'alpha' };
const WRAPS: Record<string, SourceTexture['wrap']> = {
  repeat: 'repeat', clamp: 'clamp', mirror: 'mirror', black: 'clamp', useMetadata: 'repeat',
}; // prettier-ignore

async function textureOf(
  surface: UsdPrim,
  input: string,
  slot: TextureSlot,
  root: UsdPrim,
  reading: SceneReading,
): Promise<SourceTexture | null> {
  const source = sourceOf(surface, `inputs:${input}`, root);
  if (!source) return null;
  const { prim: shader, output } = source;
  const id = textOf(shader, 'info:id') ?? 'no id';
  const file = resolveAsset(shader, root);
  if (id !== 'UsdUVTexture' || !file) {
    reading.notUnderstood(
      shader.where,
      id === 'UsdUVTexture' ? `texture "${shader.name}" names no file` : `shader "${id}" at "${input}"`,
    );
    return null;
  }
  const image = await reading.image(file.file, file.path, shader.attributes.get('inputs:file')?.where ?? shader.where);
  const space = textOf(shader, 'inputs:sourceColorSpace') ?? 'auto';
  const texture: SourceTexture = {
    ...plainTexture(slot, image),
    channel: CHANNELS[output] ?? 'luminance',
    wrap: WRAPS[textOf(shader, 'inputs:wrapS') ?? 'useMetadata'] ?? 'repeat',
    colourSpace: space === 'sRGB' ? 'srgb' : space === 'raw' ? 'linear' : 'unstated',
    uvName: 'st',
  };
  const isNormal = slot === 'normal';
  for (const [name, usual] of [
    ['inputs:scale', isNormal ? '2,2,2,1' : '1,1,1,1'],
    ['inputs:bias', isNormal ? '-1,-1,-1,0' : '0,0,0,0'],
  ] as const)
    // prettier-ignore
    if (numbersOf(shader, name) && numbersOf(shader, name)!.join(',') !== usual)
      reading.notUnderstood(shader.where, `"${name.slice(7)}" of texture "${shader.name}"`);
  let from = sourceOf(shader, 'inputs:st', root)?.prim;
  if (from && textOf(from, 'info:id') === 'UsdTransform2d') {
    const pair = (name: string, otherwise: [number, number]): [number, number] => {
      const values = numbersOf(from!, name);
      return values && values.length >= 2 ? [values[0], values[1]] : otherwise;
    };
    texture.scale = pair('inputs:scale', [1, 1]);
    texture.offset = pair('inputs:translation', [0, 0]);
    texture.rotation = numberOf(from, 'inputs:rotation') ?? 0;
    from = sourceOf(from, 'inputs:in', root)?.prim;
  }
  if (from && (textOf(from, 'info:id') ?? '').startsWith('UsdPrimvarReader')) {
    const { prim: at, name } = resolve(from, 'inputs:varname', root);
    const set = valueOf(at, name);
    if (typeof set === 'string') texture.uvName = set;
  } else if (from) reading.notUnderstood(from.where, `shader "${textOf(from, 'info:id')}" as a source of UVs`);
  return texture;
}

function resolveAsset(shader: UsdPrim, root: UsdPrim) {
  const { prim, name } = resolve(shader, 'inputs:file', root);
  return assetOf(prim, name);
}
