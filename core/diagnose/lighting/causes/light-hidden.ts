/** All that could light the frame is hidden. */
import { offBy } from './off-by.ts';

export const lightHidden = offBy('lighting.light-hidden', 'hidden');
