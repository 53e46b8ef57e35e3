/** Light found after several bounces, that no clamp holds. */
import { byShare } from './by-share.ts';

export const unclampedBounce = byShare('fireflies.unclamped-bounce');
