/** Light that a mirror threw before it was found. */
import { byShare } from './by-share.ts';

export const mirrorCaustic = byShare('fireflies.mirror-caustic');
