/**
 * How far two pictures are from each other, over the pixels that both have.
 *
 * @example
 * const { rmse, psnr, ssim } = compareColours(a, b);
 */
import { luminance, srgbFromLinear } from '../data/colour.ts';
import { ssim } from './ssim.ts';

/** Red, green and blue, linear, over a window of the full frame. */
export interface Colours {
  x: number;
  y: number;
  width: number;
  height: number;
  planes: [ArrayLike<number>, ArrayLike<number>, ArrayLike<number>];
}

export interface ColourDifference {
  /** The window that both have. */
  x: number;
  y: number;
  width: number;
  height: number;
  /** Whether their windows are not the same. */
  isAligned: boolean;
  /** Root of the mean squared difference of linear values over the three channels. */
  rmse: number;
  /** Of display values (sRGB, 0–1), decibels; infinite for equal pictures. */
  psnr: number;
  /** Of display luminance; NaN for pictures smaller than its window of 11 pixels. */
  ssim: number;
  /** Stops between the mean luminances, above 0 where the second is brighter. */
  stops: number;
  /** The largest difference of one channel, and where it is in the full frame. */
  most: { difference: number; x: number; y: number };
  /** Pixels that are no number in either; they are left out. */
  notFinite: number;
}

/** @throws RangeError when their windows have no pixel in common */
export function compareColours(a: Colours, b: Colours): ColourDifference {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  const width = Math.min(a.x + a.width, b.x + b.width) - x;
  const height = Math.min(a.y + a.height, b.y + b.height) - y;
  if (width < 1 || height < 1) throw new RangeError('the pictures have no pixel in common');
  const grey = [new Float64Array(width * height), new Float64Array(width * height)];
  let [linear, display, sumA, sumB, count, notFinite] = [0, 0, 0, 0, 0, 0];
  const most = { difference: 0, x, y };
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const i = (y + row - a.y) * a.width + x + column - a.x;
      const j = (y + row - b.y) * b.width + x + column - b.x;
      const p = a.planes.map((plane) => plane[i]);
      const q = b.planes.map((plane) => plane[j]);
      if (![...p, ...q].every(Number.isFinite)) {
        notFinite += 1;
        continue;
      }
      count += 1;
      for (let c = 0; c < 3; c++) {
        const difference = q[c] - p[c];
        linear += difference * difference;
        display += (shown(q[c]) - shown(p[c])) ** 2;
        if (Math.abs(difference) > most.difference)
          Object.assign(most, { difference: Math.abs(difference), x: x + column, y: y + row });
      }
      const [la, lb] = [luminance(p[0], p[1], p[2]), luminance(q[0], q[1], q[2])];
      sumA += la;
      sumB += lb;
      grey[0][row * width + column] = 255 * shown(la);
      grey[1][row * width + column] = 255 * shown(lb);
    }
  const isAligned = a.x !== b.x || a.y !== b.y || a.width !== b.width || a.height !== b.height;
  return {
    x,
    y,
    width,
    height,
    isAligned,
    rmse: Math.sqrt(linear / (3 * Math.max(1, count))),
    psnr: 10 * Math.log10((3 * Math.max(1, count)) / display),
    ssim: ssim(grey[0], grey[1], width, height, 255),
    stops: Math.log2(sumB / sumA),
    most,
    notFinite,
  };
}

const shown = (linear: number): number => srgbFromLinear(Math.min(1, Math.max(0, linear)));
