/**
 * A float picture: named channels over one data window, whoever made it.
 *
 * @example
 * const picture = createPicture(480, 270, ['beauty.R', 'beauty.G', 'beauty.B']);
 * channel(picture, 'beauty.R')[0] = 0.18;
 */
export interface Picture {
  /** Columns of the data window, pixels. */
  readonly width: number;
  /** Rows of the data window, pixels. */
  readonly height: number;
  /** Where the data window stands in the full frame; origin at the top left. */
  readonly x: number;
  readonly y: number;
  /** Row-major planes of `width * height` linear values each. */
  readonly channels: Map<string, Float32Array>;
}

/** A rectangle of pixels of the full frame, origin at the top left. */
export interface Region {
  x: number;
  y: number;
  width: number;
  height: number;
}

export function createPicture(width: number, height: number, names: Iterable<string>, x = 0, y = 0): Picture {
  const channels = new Map<string, Float32Array>();
  for (const name of names) channels.set(name, new Float32Array(width * height));
  return { width, height, x, y, channels };
}

/** The plane called `name`. Throws a RangeError that lists what there is. */
export function channel(picture: Picture, name: string): Float32Array {
  const plane = picture.channels.get(name);
  if (!plane)
    throw new RangeError(`the picture has no channel "${name}"; it has ${[...picture.channels.keys()].join(', ')}`);
  return plane;
}

/** Whether a pixel of the full frame lies in a region. */
export const isInRegion = ({ x, y, width, height }: Region, px: number, py: number): boolean =>
  px >= x && py >= y && px < x + width && py < y + height;

/** The part of `region` that lies inside a frame of `width` × `height` pixels, on whole pixels. */
export function clipRegion(region: Region, width: number, height: number): Region {
  const x0 = Math.max(0, Math.floor(region.x));
  const y0 = Math.max(0, Math.floor(region.y));
  const x1 = Math.min(width, Math.ceil(region.x + region.width));
  const y1 = Math.min(height, Math.ceil(region.y + region.height));
  return { x: x0, y: y0, width: Math.max(0, x1 - x0), height: Math.max(0, y1 - y0) };
}
