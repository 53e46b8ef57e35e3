/**
 * Reads a picture once and tells what is in it: parts, layers, health, and the figures a sequence is charted by.
 *
 * @example
 * const facts = examinePicture(await readPictureFile(bytes, name, { inflate }));
 */
import type { LayerFacts, PictureFacts } from './brought.ts';
import type { PictureFile, PicturePart } from '../formats/picture-file.ts';
import { coloursOf, layersOf, type Layer } from '../formats/layers.ts';
import type { HealthFinding, HealthInput } from './health/check.ts';
import { healthOf } from './health/health.ts';
import { luminanceOf } from './measured.ts';
import { seenVariance } from './noise.ts';
import { frameFigures } from './sequence/frame-figures.ts';

/** Names of a part's channels in the whole file: of several parts, with the part's name before them. */
export function fullName(part: { name: string }, channel: string, parts: number): string {
  if (parts === 1 || part.name === '' || channel === part.name || channel.startsWith(`${part.name}.`)) return channel;
  return `${part.name}.${channel}`;
}

/** Parts with the same window are one picture in several pieces; each picture with the numbers of its parts. */
export function picturesOf(parts: PicturePart[]): (HealthInput & { numbers: number[] })[] {
  const groups = new Map<string, HealthInput & { numbers: number[] }>();
  parts.forEach((part, number) => {
    if (part.isDeep) return;
    const key = Object.values(part.dataWindow).join();
    const { width, height } = part;
    const group = groups.get(key) ?? { width, height, planes: new Map(), types: new Map(), numbers: [] as number[] };
    for (const { name, type } of part.channels) {
      const plane = part.planes.get(name);
      if (plane) group.planes.set(fullName(part, name, parts.length), plane);
      group.types.set(fullName(part, name, parts.length), type);
    }
    group.numbers.push(number);
    groups.set(key, group);
  });
  return [...groups.values()];
}

export function examinePicture({ format, isForDisplay, parts }: PictureFile): PictureFacts {
  const pictures = picturesOf(parts);
  const told = pictures.map((picture) => healthOf(picture));
  const findings = [...parts.flatMap((part, number) => fileFindings(part, parts.length > 1 ? `Part ${part.name || number}: ` : '')), ...told.flatMap((one) => one.findings)]; // prettier-ignore
  const layers = pictures.flatMap((picture) => layerFacts(picture, parts));
  const beauty = layers.find((layer) => layer.role === 'beauty' && coloursOf(layer)) ?? layers.find(coloursOf);
  const of = beauty && pictures.find(({ planes }) => planes.has(beauty.channels[0]))!;
  const y = beauty && luminanceOf(coloursOf(beauty)!, of!.planes);
  return {
    format,
    isForDisplay,
    parts: parts.map(({ name, compression, dataWindow, displayWindow, pixelAspect, channels, attributes }) => ({
      name,
      compression,
      dataWindow,
      displayWindow,
      pixelAspect,
      channels: channels.map((one) => ({ ...one, name: fullName({ name }, one.name, parts.length) })),
      attributes,
    })),
    layers,
    health: { channels: told.flatMap((one) => one.channels), findings },
    figures: y ? frameFigures(y, errorOf(beauty, of!.planes), of!.width, of!.height) : null,
    missingChunks: parts.reduce((sum, part) => sum + part.missingChunks, 0),
  };
}

/** The standard error that our own pictures bring along for a layer, as one channel; null where there is none. */
export function errorOf({ name }: { name: string }, planes: Map<string, ArrayLike<number>>): ArrayLike<number> | null {
  return planes.get(`error.${name || 'beauty'}`) ?? null;
}

/** What is unusual about the file itself. */
function fileFindings(
  { isDeep, missingChunks, broken, dataWindow: d, displayWindow: w }: PicturePart,
  of: string,
): HealthFinding[] {
  const findings: HealthFinding[] = [];
  const add = (severity: HealthFinding['severity'], id: string, sentence: string) =>
    findings.push({ id, severity, sentence: of + sentence, channels: [] });
  if (isDeep) add('caution', 'deep', 'it holds deep pixels, which are not read.');
  if (missingChunks) {
    const first = broken[0] ? ` (${broken[0]})` : '';
    add('stop', 'cut-short', `${missingChunks} of its chunks are missing or broken${first}: the file is cut short.`);
  }
  if (d.minX !== w.minX || d.minY !== w.minY || d.maxX !== w.maxX || d.maxY !== w.maxY)
    add('note', 'windows', `its data window, ${d.minX}, ${d.minY} to ${d.maxX}, ${d.maxY}, is not its display window, ${w.minX}, ${w.minY} to ${w.maxX}, ${w.maxY}.`); // prettier-ignore
  return findings;
}

function layerFacts(picture: HealthInput & { numbers: number[] }, parts: PicturePart[]): LayerFacts[] {
  const { planes, width, height } = picture;
  const layers = layersOf(planes.keys());
  const beauty = layers.find((layer) => layer.role === 'beauty' && coloursOf(layer));
  const seen = beauty ? luminanceOf(coloursOf(beauty)!, planes) : null;
  const partOf = (channel: string) => picture.numbers.find((n) => parts[n].channels.some(({ name }) => fullName(parts[n], name, parts.length) === channel))!; // prettier-ignore
  return layers.map((layer) => ({
    ...layer,
    part: partOf(layer.channels[0]),
    ...figuresOf(layer, planes, width, height, seen),
  }));
}

/** @param seen luminance of the beauty: what a variance weighs in visible grain goes by the brightness that is seen */
function figuresOf(
  layer: Layer,
  planes: Map<string, ArrayLike<number>>,
  width: number,
  height: number,
  seen: Float32Array | null,
): { mean: number; noise: number | null } {
  const colours = coloursOf(layer);
  const plane = colours ? luminanceOf(colours, planes) : planes.get(layer.channels[0])!;
  let [sum, count] = [0, 0];
  for (let i = 0; i < plane.length; i++)
    if (plane[i] - plane[i] === 0) {
      sum += plane[i];
      count += 1;
    }
  const mean = count ? sum / count : 0;
  const isLight = layer.role === 'beauty' || layer.role === 'light' || layer.role === 'light group';
  if (!colours || !seen || !isLight) return { mean, noise: null };
  return { mean, noise: seenVariance(plane, seen, errorOf(layer, planes), width, height) };
}
