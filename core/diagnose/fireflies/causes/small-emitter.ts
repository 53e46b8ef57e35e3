/** A small bright surface that is found by chance. */
import { byShare } from './by-share.ts';

export const smallEmitter = byShare('fireflies.small-emitter');
