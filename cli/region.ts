import type { Region } from '../core/data/picture.ts';
import { BadUse } from './bad-use.ts';

/** Refuses a region that is not inside a picture. */
export function needInside({ x, y, width, height }: Region, w: number, h: number, what: string): void {
  if (!(x >= 0 && y >= 0 && width > 0 && height > 0 && x + width <= w && y + height <= h))
    throw new BadUse(`--region ${x},${y},${width},${height} does not lie in ${what}, ${w} × ${h} pixels.`);
}
