/** A light stands inside glass, which shadow rays do not go through: it is found by chance. */
import { byShare } from './by-share.ts';

export const emitterInShell = byShare('fireflies.emitter-in-shell');
