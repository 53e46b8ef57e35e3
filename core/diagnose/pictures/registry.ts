/** What is looked for in pictures by themselves, and how a file becomes one to look at. */
import type { Severity } from '../../contracts/finding.ts';
import type { Region } from '../../data/picture.ts';
import { coloursOf, layersOf, leafLayers, type Layer } from '../../formats/layers.ts';
import type { PictureFile } from '../../formats/picture-file.ts';
import { errorOf, picturesOf } from '../../picture/examine.ts';
import { luminanceOf } from '../../picture/measured.ts';
import { denoising } from './denoising.ts';
import { fireflies } from './fireflies.ts';
import { noise } from './noise.ts';
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
  for (const picture of picturesOf(file.parts)) {
    const layers = layersOf(picture.planes.keys());
    const beauty = layers.find((layer) => layer.role === 'beauty' && coloursOf(layer)) ?? layers.find(coloursOf);
    if (!beauty) continue;
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
      beside: [],
    };
  }
  return null;
}

function cropped(plane: ArrayLike<number>, stride: number, { x, y, width, height }: Region): Float32Array {
  const out = new Float32Array(width * height);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) out[row * width + column] = plane[(y + row) * stride + x + column];
  return out;
}
