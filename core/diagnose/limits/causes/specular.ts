/** Reflections stay black because paths end at the specular limit. */
import { byOwnLimit } from './own-limit.ts';

export const specular = byOwnLimit('specular');
