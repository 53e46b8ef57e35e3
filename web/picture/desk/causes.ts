/** Looks for causes in a picture that is kept, with the frames beside it. */
import type { Finding } from '../../../core/contracts/finding.ts';
import type { RenderedWith } from '../../../core/diagnose/noise/plan-in-numbers.ts';
import { isLookedAt, planesInput } from '../../../core/diagnose/picture-input.ts';
import { diagnosePicture } from '../../../core/diagnose/run.ts';
import type { Shelf } from './shelf.ts';

/** @param beside keys of the frames before and after */
export async function causes(
  shelf: Shelf,
  key: string,
  beside: string[],
  renderedWith: RenderedWith,
): Promise<Finding[]> {
  const picture = await toLookAt(shelf, key, renderedWith);
  if (!picture) return [];
  const frames: Float32Array[] = [];
  for (const other of beside) {
    const { luminance } = (await toLookAt(shelf, other, null)) ?? {};
    if (luminance?.length === picture.luminance.length) frames.push(luminance);
  }
  return diagnosePicture({ ...picture, beside: frames });
}

async function toLookAt(shelf: Shelf, key: string, renderedWith: RenderedWith | null) {
  const known = await shelf.ready(key, []);
  const layers = known.opened.layers.filter(isLookedAt);
  const source = await shelf.ready(key, layers.map(({ name }) => name)); // prettier-ignore
  const names = layers.flatMap(({ channels }) => channels).filter((name) => source.planes.has(name));
  const window = source.planes.get(names[0])?.window;
  if (!window) return null;
  // Parts with other windows are pictures of their own.
  const same = names.filter((name) => {
    const { x, y, width, height } = source.planes.get(name)!.window;
    return x === window.x && y === window.y && width === window.width && height === window.height;
  });
  const planes = new Map(same.map((name) => [name, source.planes.get(name)!.values]));
  return planesInput({ width: window.width, height: window.height, planes }, renderedWith);
}
