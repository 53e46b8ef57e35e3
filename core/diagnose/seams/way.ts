/** One way to close seams: a shot without one reason of gaps. What it closes tells how much the reason explains. */
import type { CauseId } from '../catalogue.ts';
import type { SeamMend } from '../../contracts/intake.ts';
import type { Assets } from '../../render/compile/assets.ts';
import type { Sheet, ShotDocument } from '../../document/schema.ts';
import { withValues, type ControlValues } from '../../document/set-values.ts';
import type { Texture } from '../../data/texture.ts';
import { mendTexture } from '../../seams/mend-texture.ts';
import type { WornShape } from '../../seams/worn-shapes.ts';

/** What shapes are made of. */
export interface SeamState {
  document: ShotDocument;
  assets: Assets;
  joinsNormals: boolean;
}

export interface SeamInput {
  state: SeamState;
  /** As it is rendered. */
  sheet: Sheet;
  /** Keys of the objects whose seams are open. */
  ids: string[];
  /** Those objects, as the state has them. */
  shapes: WornShape[];
  /** All objects that wear a texture, in a state. @param texture id */
  wearers(state: SeamState, texture: string): WornShape[];
}

/** One of both tells what to change; null where there is nothing of the kind. */
export interface Way {
  cause: CauseId;
  /** Values of the document. */
  values?(input: SeamInput): ControlValues | null;
  /** Or what no value does. */
  without?(input: SeamInput): SeamState | null;
}

export function stateWithout(way: Way, input: SeamInput): SeamState | null {
  const values = way.values?.(input);
  if (values) return { ...input.state, document: withValues(input.state.document, [], values) };
  return way.without?.(input) ?? null;
}

/** The state with a texture in place of another. */
export function withTexture(state: SeamState, id: string, texture: Texture): SeamState {
  const textures = new Map(state.assets.textures).set(id, texture);
  return { ...state, assets: { ...state.assets, textures } };
} // prettier-ignore

/** Ids of the images that move the shapes, each once, with the maps that show them. */
export function imagesOf({ shapes, state }: Pick<SeamInput, 'shapes' | 'state'>): { texture: string; maps: string[]; of: WornShape[] }[] {
  const found = new Map<string, { texture: string; maps: string[]; of: WornShape[] }>();
  for (const shape of shapes) {
    const { map } = shape.relief;
    if (map.kind !== 'image' || !shape.texels) continue;
    const own = found.get(map.texture) ?? { texture: map.texture, maps: [], of: [] };
    const id = state.document.materials[state.document.objects[shape.id].material].displacementMap!;
    if (!own.maps.includes(id)) own.maps.push(id);
    own.of.push(shape);
    found.set(map.texture, own);
  }
  return [...found.values()];
} // prettier-ignore

/**
 * The state with textures mended, one after the other.
 * @param texels painted around the islands of each, by its id
 */
export const mended = (
  how: SeamMend,
  input: Pick<SeamInput, 'state' | 'wearers'>,
  texels: Record<string, number>,
): SeamState =>
  Object.entries(texels).reduce((state, [id, around]) => {
    const wear = (next: Texture) => input.wearers(withTexture(state, id, next), id);
    return withTexture(
      state,
      id,
      mendTexture(how, state.assets.textures.get(id)!, { wear, texels: around, where: id }),
    );
  }, input.state);
