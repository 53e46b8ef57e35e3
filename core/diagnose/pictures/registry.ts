/** What is looked for in pictures by themselves, and how a file becomes one to look at. */
import type { Severity } from '../../contracts/finding.ts';
import type { Region } from '../../data/picture.ts';
import { coloursOf, layersOf, leafLayers, type Layer } from '../../formats/layers.ts';
import type { PictureFile } from '../../formats/picture-file.ts';
import { errorOf, picturesOf } from '../../picture/examine.ts';
import { settingsOfAttributes } from '../../picture/settings-record.ts';
import { luminanceOf } from '../../picture/measured.ts';
import { denoising } from './denoising.ts';
import { fireflies } from './fireflies.ts';
import { noise } from './noise.ts';
import type { RenderedWith } from './plan-in-numbers.ts';
import type { PictureDiagnosis, PictureFinding, PictureToDiagnose } from './picture-diagnosis.ts';

export const pictureDiagnoses: PictureDiagnosis[] = [fireflies, noise, denoising];

const ORDER: Severity[] = ['stop', 'caution', 'note'];

/** @param families that are wanted; all by default. @returns findings, worst first */
export function diagnosePicture(picture: PictureToDiagnose, families?: string[]): PictureFinding[] {
  return pictureDiagnoses
    .filter(({ family }) => families?.includes(family) ?? true)
    .flatMap((one) => one.examine(picture))
    .sort((a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity));
}

/**
 * @param region of the data window that is looked at, pixels; all by default
 * @returns null where the file has no colours to look at
 */
export function toDiagnose(file: PictureFile, region: Region | null = null): PictureToDiagnose | null {
  const record = settingsOfAttributes(Object.assign({}, ...file.parts.map((one) => one.attributes)));
  for (const picture of picturesOf(file.parts)) {
    const found = planesToDiagnose(picture, { record, target: null }, region);
    if (found) return found;
  }
  return null;
}

/** Layers that are looked at: others of a picture need not be there. */
export const isLookedAt = ({ name, role }: Pick<Layer, 'name' | 'role'>): boolean =>
  role === 'beauty' || role === 'light' || role === 'noise' || (role === 'data' && GUIDES.test(name));

/** @returns null where they have no colours */
export function planesToDiagnose(
  picture: { width: number; height: number; planes: Map<string, ArrayLike<number>> },
  renderedWith: RenderedWith | null,
  region: Region | null = null,
): PictureToDiagnose | null {
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
export function meanOfHalves(a: PictureToDiagnose, b: PictureToDiagnose): PictureToDiagnose {
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
