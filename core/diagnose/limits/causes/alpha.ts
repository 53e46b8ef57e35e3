/** What stands behind see-through surfaces stays black because paths end at the alpha limit. */
import { byOwnLimit } from './own-limit.ts';

export const alpha = byOwnLimit('alpha');
