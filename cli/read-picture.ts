/** A picture from a file, whatever its format: its colours and where they stand in the frame. */
import { existsSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { readExr } from '../core/formats/exr/read.ts';
import { coloursOf, layersOf } from '../core/formats/layers.ts';
import { fileName } from '../core/formats/paths.ts';
import { readTexture } from '../core/formats/texture-readers.ts';
import type { Colours } from '../core/picture/compare.ts';
import { inflate } from '../host/inflate.ts';
import { BadUse } from './bad-use.ts';

export interface ReadPicture extends Colours {
  /** Layer that the colours are of; empty where there is but one. */
  layer: string;
  display: { width: number; height: number };
  attributes: Record<string, unknown>;
}

/** @param layer of an EXR file; its beauty by default */
export async function readPicture(path: string, layer?: string): Promise<ReadPicture> {
  if (!existsSync(path) || !statSync(path).isFile()) throw new BadUse(`There is no file "${path}".`);
  const bytes = new Uint8Array(await readFile(path));
  if (!/\.exr$/i.test(path)) return fromTexture(bytes, path, layer);
  const { parts } = readExr(bytes, fileName(path), { inflate });
  const all = parts.flatMap((part) =>
    layersOf(part.planes.keys()).map((one) => ({ part, one, names: coloursOf(one) })),
  );
  const known = all.filter(({ names }) => names !== null);
  const found =
    layer === undefined
      ? (known.find(({ one }) => one.role === 'beauty') ?? known[0])
      : known.find(({ one }) => one.name === layer);
  if (!found) {
    const names = known.map(({ one }) => one.name || '(no layer)').join(', ') || 'none';
    throw new BadUse(
      `${path} has no ${layer === undefined ? 'colours' : `layer "${layer}" of colours`}; there are ${names}.`,
    );
  }
  const { part, one, names } = found;
  const { dataWindow: d, displayWindow: w } = part;
  return {
    x: d.minX - w.minX,
    y: d.minY - w.minY,
    width: part.width,
    height: part.height,
    planes: names!.map((name) => part.planes.get(name)!) as unknown as Colours['planes'],
    layer: one.name,
    display: { width: w.maxX - w.minX + 1, height: w.maxY - w.minY + 1 },
    attributes: part.attributes,
  };
}

function fromTexture(bytes: Uint8Array, path: string, layer?: string): ReadPicture {
  if (layer) throw new BadUse(`${path} has no layers; --layer is for EXR files.`);
  const { width, height, texels } = readTexture(bytes, /\.(png|jpe?g)$/i.test(path) ? 'srgb' : 'linear', path);
  const plane = (c: number) => Float32Array.from({ length: width * height }, (_, i) => texels[i * 3 + c]);
  return { x: 0, y: 0, width, height, planes: [plane(0), plane(1), plane(2)], layer: '', display: { width, height }, attributes: {} }; // prettier-ignore
}
