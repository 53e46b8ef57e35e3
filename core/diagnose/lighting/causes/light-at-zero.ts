/** All that could light the frame stands at an intensity of zero, or is black. */
import { offBy } from './off-by.ts';

export const lightAtZero = offBy('lighting.light-at-zero', 'at zero');
