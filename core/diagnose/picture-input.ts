/** A picture by itself, whoever made it: no scene, no sheet. How a file becomes one to look at. */
import type { Region } from '../data/picture.ts';
import { coloursOf, layersOf, leafLayers, type Layer } from '../formats/layers.ts';
import type { PictureFile } from '../formats/picture-file.ts';
import { errorOf, picturesOf } from '../picture/examine.ts';
import { luminanceOf } from '../picture/measured.ts';
import { settingsOfAttributes } from '../picture/settings-record.ts';
import type { RenderedWith } from './noise/plan-in-numbers.ts';

export interface PictureInput {
  width: number;
  height: number;
  planes: Map<string, ArrayLike<number>>;
  layers: Layer[];
  /** The layer that is seen. */
  beauty: Layer;
  /** Its luminance, linear. */
  luminance: Float32Array;
  /** Luminances of light passes that are no part of another one, by layer. */
  passes: Map<string, Float32Array>;
  /** Luminance of the albedo, where there is such a layer. */
  albedo: Float32Array | null;
  /** Standard error of the beauty, where it came along. */
  sigma: ArrayLike<number> | null;
  /** Albedo, normals and depth, where there are such layers: passes without noise. */
  guides: Float32Array[];
  /** Luminances of two renders of half the samples, of which the picture is the mean. */
  halves: [Float32Array, Float32Array] | null;
  /** What it was rendered with, where a record says it. */
  renderedWith: RenderedWith | null;
  /** The frames before and after, where they are of the same size: luminances. */
  beside: Float32Array[];
}

/**
 * @param region of the data window that is looked at, pixels; all by default
 * @returns null where the file has no colours to look at
 */
export function pictureInput(file: PictureFile, region: Region | null = null): PictureInput | null {
  const record = settingsOfAttributes(Object.assign({}, ...file.parts.map((one) => one.attributes)));
  for (const picture of picturesOf(file.parts)) {
    const found = planesInput(picture, { record, target: null }, region);
    if (found) return found;
  }
  return null;
}

/** Layers that are looked at: others of a picture need not be there. */
export const isLookedAt = ({ name, role }: Pick<Layer, 'name' | 'role'>): boolean =>
  role === 'beauty' || role === 'light' || role === 'noise' || (role === 'data' && GUIDES.test(name));

/** @returns null where they have no colours */
export function planesInput(
  picture: { width: number; height: number; planes: Map<string, ArrayLike<number>> },
  renderedWith: RenderedWith | null,
  region: Region | null = null,
): PictureInput | null {
  const layers = layersOf(picture.planes.keys());
  const beauty = layers.find((layer) => layer.role === 'beauty' && coloursOf(layer)) ?? layers.find(coloursOf);
  if (!beauty) return null;
  const part = region ?? { x: 0, y: 0, width: picture.width, height: picture.height };
  const cut = <T extends ArrayLike<number>>(plane: T): Float32Array => cropped(plane, picture.width, part);
  const sigma = errorOf(beauty, picture.planes);
  const lit = leafLayers(layers.filter((layer) => layer.role === 'light' && coloursOf(layer)));
  const albedo = layers.find((layer) => /albedo/i.test(layer.name) && coloursOf(layer));
  const luminance = (layer: Layer) => cut(luminanceOf(coloursOf(layer)!, picture.planes));
  return {
    width: part.width,
    height: part.height,
    planes: picture.planes,
    layers,
    beauty,
    luminance: luminance(beauty),
    passes: new Map(lit.map((layer) => [layer.name, luminance(layer)])),
    albedo: albedo ? luminance(albedo) : null,
    sigma: sigma && cut(sigma),
    guides: guidesOf(layers).map((name) => cut(picture.planes.get(name)!)),
    halves: null,
    renderedWith,
    beside: [],
  };
}

const GUIDES = /(^|[._ -])(albedo|normals?|n|depth|z)([._ -]|$)/i;

/** Channels of layers that have no noise of their own. */
const guidesOf = (layers: Layer[]): string[] =>
  layers.filter(({ name, role }) => role === 'data' && GUIDES.test(name)).flatMap(({ channels }) => channels);

/** The mean of two renders of one picture, by other random numbers, as a picture whose noise they tell. */
export function meanOfHalves(a: PictureInput, b: PictureInput): PictureInput {
  const mean = (p: ArrayLike<number>, q: ArrayLike<number>) => Float32Array.from(p, (value, i) => (value + q[i]) / 2);
  const passes = new Map([...a.passes].flatMap(([name, plane]) => (b.passes.has(name) ? [[name, mean(plane, b.passes.get(name)!)]] : []))); // prettier-ignore
  return { ...a, luminance: mean(a.luminance, b.luminance), passes, sigma: null, halves: [a.luminance, b.luminance] };
}

function cropped(plane: ArrayLike<number>, stride: number, { x, y, width, height }: Region): Float32Array {
  const out = new Float32Array(width * height);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) out[row * width + column] = plane[(y + row) * stride + x + column];
  return out;
}
