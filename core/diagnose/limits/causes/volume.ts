/** Fog stays dark because paths end at the volume limit. */
import { byOwnLimit } from './own-limit.ts';

export const volume = byOwnLimit('volume');
