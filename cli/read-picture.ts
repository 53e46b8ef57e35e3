/** A picture from a file, whatever its format: its colours and where they stand in the frame. */
import { existsSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { coloursOf, layersOf } from '../core/formats/layers.ts';
import { fileName } from '../core/formats/paths.ts';
import { readPictureFile } from '../core/formats/picture-file.ts';
import type { Colours } from '../core/picture/compare.ts';
import { inflate } from '../host/inflate.ts';
import { exrMeans } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';

export interface ReadPicture extends Colours {
  /** Layer that the colours are of; empty where there is but one. */
  layer: string;
  display: { width: number; height: number };
  attributes: Record<string, unknown>;
}

/** @param layer of a file that has layers; its beauty by default */
export async function readPicture(path: string, layer?: string): Promise<ReadPicture> {
  if (!existsSync(path) || !statSync(path).isFile()) throw new BadUse(`There is no file "${path}".`);
  const bytes = new Uint8Array(await readFile(path));
  const { parts } = await readPictureFile(bytes, fileName(path), { inflate, means: exrMeans() });
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
