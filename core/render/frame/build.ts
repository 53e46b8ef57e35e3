/** Raised whenever the same inputs would give other bits: films of different builds are never mixed. */
export const CORE_BUILD = 'dusting-core-7';
