/** Light that glass bent before it was found. */
import { byShare } from './by-share.ts';

export const glassCaustic = byShare('fireflies.glass-caustic');
