/**
 * All causes, by family. Ids are `family.cause`; scripts rely on them, so that one that has shipped is never renamed. A
 * cause that is told must be here (`registry.ts` sees to it); not all that are here can be told yet.
 */
export const CATALOGUE = {
  noise: ['light-samples', 'diffuse-samples', 'specular-samples', 'transmission-samples', 'volume-samples', 'occlusion-samples', 'pixel-samples', 'fine-texture', 'sharp-filter', 'motion-blur', 'depth-of-field', 'bright-parts', 'more-than-needed'],
  fireflies: ['small-emitter', 'emitter-in-shell', 'glass-caustic', 'mirror-caustic', 'bright-environment-pixel', 'unclamped-bounce'],
  limits: ['transmission', 'specular', 'diffuse', 'volume', 'alpha', 'overall-hides-other', 'ray-distance', 'wasted-depth'],
  glass: ['black-filter', 'pure-channel-filter', 'tint-on-opacity', 'tint-upside-down', 'tint-mapping-copied', 'absorption-too-strong', 'normals-inverted', 'missing-second-face', 'thin-as-solid', 'solid-as-thin', 'ior-out-of-range', 'coincident-faces', 'gap-to-liquid', 'shadow-only-floor', 'blocks-shadow-rays', 'environment-line', 'camera-inside'],
  occlusion: ['closed-room', 'distance-too-short', 'distance-too-long', 'ignores-transparency', 'too-few-samples', 'counted-twice', 'self-occluded', 'faceted', 'inward-outward'],
  shadows: ['light-casts-none', 'object-casts-none', 'receiver-takes-none', 'not-linked', 'distance-too-short', 'distance-too-coarse', 'light-too-wide', 'drowned-by-fill', 'colour-too-light', 'blocked-elsewhere', 'seen-through', 'map-distance', 'map-resolution', 'map-bias', 'map-leak', 'jagged'],
  lighting: ['nothing-lights', 'nothing-in-view', 'light-at-zero', 'light-hidden', 'light-inside-object', 'light-turned-away', 'light-out-of-reach', 'linked-away', 'environment-missing', 'environment-too-dark', 'environment-coarse', 'environment-seam', 'background-tied', 'overexposed', 'direct-only', 'flat-sides', 'display-curve-twice', 'display-curve-missing', 'display-picture-as-light'],
  scale: ['single-precision', 'offset-in-transforms', 'offset-in-vertices', 'pivot-far', 'camera-near', 'camera-far', 'ray-distance', 'units-wrong'],
  motion: ['static-flag', 'no-blur', 'too-few-samples', 'half-baked-transform', 'stale-cache', 'samples-without-motion'],
  normals: ['reversed', 'mixed-winding', 'faceted', 'one-sided', 'against-faces', 'invalid'],
  displacement: ['too-little-geometry', 'too-much-geometry', 'scale-too-large', 'scale-too-small', 'rest-level', 'clipped-range', 'bounds-too-small', 'self-intersecting', 'bump-in-its-place'],
  seams: ['uv-rule', 'no-padding', 'tile-missing', 'tile-edge', 'sides-differ', 'filter-across', 'split-normals', 'scale-differs'],
  textures: ['filtered-when-meant-sharp', 'alpha-lost', 'alpha-fringe', 'premultiplied-twice', 'colour-read-as-data', 'data-read-as-colour', 'glow-left-on', 'too-small', 'too-large', 'upside-down', 'wrapped', 'uv-missing', 'uv-set-empty', 'uv-overlap', 'banding', 'bump-too-strong'],
  cost: ['limits-above-need', 'subdivision-finer-than-pixels', 'map-finer-than-pixels', 'motion-samples-unused', 'ray-distance-beyond-scene', 'volume-samples-above-need', 'pixel-samples-memory', 'dense-unseen-mesh', 'copied-instances', 'one-off-each-frame', 'lights-that-add-nothing'],
  denoising: ['noise-alone', 'too-much-noise', 'fireflies-stay'],
} as const; // prettier-ignore

export type FamilyId = keyof typeof CATALOGUE;
/** `noise.light-samples`. */
export type CauseId = { [F in FamilyId]: `${F}.${(typeof CATALOGUE)[F][number]}` }[FamilyId];

export const CAUSE_IDS: ReadonlySet<string> = new Set(
  Object.entries(CATALOGUE).flatMap(([family, causes]) => causes.map((cause) => `${family}.${cause}`)),
);
