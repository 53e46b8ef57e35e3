/** Image maps as they are worn in the picture: by what, in which slots, and how large their texels are there. */
import { channel, type Picture } from '../../data/picture.ts';
import type { Texture } from '../../data/texture.ts';
import { MAP_SLOTS } from '../../document/check-references.ts';
import { objectIds } from '../../document/object-names.ts';
import type { MapSpec, ShotDocument } from '../../document/schema.ts';
import { percentile } from '../../picture/measured.ts';
import { pixelsByObject } from '../regions.ts';
import type { RenderInput } from '../family.ts';
import { texelSteps } from '../texel-steps.ts';

export type Slot = (typeof MAP_SLOTS)[number];
export type ImageSpec = Extract<MapSpec, { kind: 'image' }>;

export interface MapUse {
  map: string;
  spec: ImageSpec;
  image: Texture;
  /** Materials that wear it, and in what. */
  worn: { material: string; slot: Slot }[];
  /** Keys and names of objects of those materials that are in view. */
  ids: string[];
  objects: string[];
  /** Pixels of those objects, full-frame numbers. */
  pixels: number[];
  /** From a pixel to the next, the median; null where its UVs are not those of the pass. */
  texels: number | null;
  /** Metres that a texel covers, the median; null as above. */
  metres: number | null;
}

/** Pixels of what wears a map below which it is no matter. */
const FEWEST = 40;

/** Every image map of the document that is seen; those of shared files are left out, for nothing here changes them. */
export function mapUses(input: RenderInput): MapUse[] {
  const { document, assets, picture } = input;
  const seen = pixelsByObject(document, picture);
  const ids = objectIds(document);
  return Object.entries(document.maps).flatMap(([map, spec]): MapUse[] => {
    const image = spec.kind === 'image' ? assets.textures.get(spec.texture) : undefined;
    if (spec.kind !== 'image' || !image) return [];
    const worn = wornBy(document, map);
    const materials = new Set(worn.map(({ material }) => material));
    const own = ids.filter((id) => materials.has(document.objects[id].material) && seen.has(id));
    const pixels = own.flatMap((id) => seen.get(id)!);
    if (pixels.length < FEWEST) return [];
    const steps = texelSteps(picture, spec, image, pixels);
    return [{ map, spec, image, worn, ids: own, objects: own.map((id) => document.objects[id].name || id), pixels, texels: median(steps.map(({ texels }) => texels)), metres: median(steps.map(({ pixel, texels }) => metresTo(picture, pixel) / texels)) }]; // prettier-ignore
  });
}

const wornBy = ({ materials }: ShotDocument, map: string): MapUse['worn'] =>
  Object.entries(materials).flatMap(([material, spec]) => MAP_SLOTS.flatMap((slot) => (spec[slot] === map ? [{ material, slot }] : []))); // prettier-ignore

const median = (values: number[]): number | null => (values.length > 0 ? percentile(values, 0.5) : null);

/** From the surface in a pixel to that in the next one. */
function metresTo(picture: Picture, i: number): number {
  const [x, y, z] = ['position.X', 'position.Y', 'position.Z'].map((name) => channel(picture, name));
  return Math.hypot(x[i + 1] - x[i], y[i + 1] - y[i], z[i + 1] - z[i]);
}
