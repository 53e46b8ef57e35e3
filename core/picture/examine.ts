/**
 * Reads a picture once and tells what is in it: parts, layers, health, and the figures a sequence is charted by.
 *
 * @example
 * const facts = examinePicture(await readPictureFile(bytes, name, { inflate }), planeMeans());
 */
import type { LayerFacts, PictureFacts } from './brought.ts';
import type { PictureFile, PicturePart } from '../formats/picture-file.ts';
import { coloursOf, layersOf } from '../formats/layers.ts';
import { floatsOf, luminanceBy, type HealthFinding, type HealthInput } from './health/check.ts';
import { healthOf } from './health/health.ts';
import { noiseStep, seenVariance, seenWeights } from './noise.ts';
import { plainPlanes, type PlaneMeans } from './plane-means.ts';
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

/** @param means what values are worked through with: a kernel, where there is one */
export function examinePicture(
  { format, isForDisplay, parts }: PictureFile,
  means: PlaneMeans = plainPlanes,
): PictureFacts {
  const pictures = picturesOf(parts);
  const told = pictures.map((picture) => healthOf(picture, means));
  const findings = [...parts.flatMap((part, number) => fileFindings(part, parts.length > 1 ? `Part ${part.name || number}: ` : '')), ...told.flatMap((one) => one.findings)]; // prettier-ignore
  const layers = pictures.flatMap((picture) => layerFacts(picture, parts, means));
  const beauty = layers.find((layer) => layer.role === 'beauty' && coloursOf(layer)) ?? layers.find(coloursOf);
  const of = beauty && pictures.find(({ planes }) => planes.has(beauty.channels[0]))!;
  const y = beauty && luminanceBy(means, coloursOf(beauty)!, of!.planes);
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

function layerFacts(
  picture: HealthInput & { numbers: number[] },
  parts: PicturePart[],
  means: PlaneMeans,
): LayerFacts[] {
  const { planes, width, height } = picture;
  const layers = layersOf(planes.keys());
  const beauty = layers.find((layer) => layer.role === 'beauty' && coloursOf(layer));
  // What a variance weighs in visible noise goes by the brightness that is seen.
  const weights = beauty && seenWeights(luminanceBy(means, coloursOf(beauty)!, planes), noiseStep(width, height));
  const partOf = (channel: string) => picture.numbers.find((n) => parts[n].channels.some(({ name }) => fullName(parts[n], name, parts.length) === channel))!; // prettier-ignore
  return layers.map((layer) => {
    const colours = coloursOf(layer);
    const plane = colours ? luminanceBy(means, colours, planes) : floatsOf(planes.get(layer.channels[0])!);
    const { sum, nan, infinite } = means.channelSums(plane, Infinity);
    const finite = plane.length - nan - infinite;
    const isLight = layer.role === 'beauty' || layer.role === 'light' || layer.role === 'light group';
    return {
      ...layer,
      part: partOf(layer.channels[0]),
      mean: finite ? sum / finite : 0,
      noise: colours && weights && isLight ? seenVariance(plane, weights, errorOf(layer, planes), width, height) : null,
    };
  });
}
