/** A small bright surface that is met by chance. */
import { byShare } from './by-share.ts';

export const smallEmitter = byShare('fireflies.small-emitter');
