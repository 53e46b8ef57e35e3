/** Indirect light stops early because paths end at the diffuse limit. */
import { byOwnLimit } from './own-limit.ts';

export const diffuse = byOwnLimit('diffuse');
