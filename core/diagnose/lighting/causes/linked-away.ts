/** All that could light the frame is linked to nothing. */
import { offBy } from './off-by.ts';

export const linkedAway = offBy('lighting.linked-away', 'linked away');
