/** Why a depth map shows another shadow at a place than there is, as bits: several bite at once, and each alone changes nothing then. */

/** Further from the camera than there are shadows. */
export const BEYOND_MAP = 1;
/** The place, or what throws its shadow, lies beyond the light's distance. */
export const BEYOND_LIGHT = 2;
/** What throws the shadow is nearer to the lamp than its maps begin. */
export const BEFORE_NEAR = 4;
/** The bias is deeper than what lies between the caster and the place. */
export const BIAS_TOO_LARGE = 8;
/** A lit surface shades itself, for its texels are deeper than the bias. */
export const BIAS_TOO_SMALL = 16;
/** A texel is as wide as what is missing, or as the edge is off. */
export const TEXELS = 32;
/** The steps of the stored depths are deeper than what lies between. */
export const BITS = 64;
/** The bound of a variance map, or the mean of an exponential one, leaves light where there is none. */
export const LEAK = 128;
/** The filter is wider than the shadow. */
export const SOFTNESS = 256;
/** A contact shadow of something that the light passes behind. */
export const CONTACT = 512;

export const REASONS = [
  { bit: BEYOND_MAP, id: 'beyond-map', label: 'beyond the map’s distance', pointer: '/previewShadows/mapDistance' },
  { bit: BEYOND_LIGHT, id: 'beyond-light', label: 'beyond the light’s distance', pointer: '/previewShadows/lightDistance' },
  { bit: BEFORE_NEAR, id: 'before-near', label: 'nearer to the lamp than its maps begin', pointer: '/previewShadows/near' },
  { bit: BIAS_TOO_LARGE, id: 'bias-too-large', label: 'lost to the bias', pointer: '/previewShadows/bias' },
  { bit: BIAS_TOO_SMALL, id: 'bias-too-small', label: 'self-shadowing', pointer: '/previewShadows/slopeBias' },
  { bit: TEXELS, id: 'texels', label: 'off by texel size', pointer: '/previewShadows/resolution' },
  { bit: BITS, id: 'bits', label: 'off by depth precision', pointer: '/previewShadows/depthBits' },
  { bit: LEAK, id: 'leak', label: 'light leaks', pointer: '/previewShadows/filter' },
  { bit: SOFTNESS, id: 'softness', label: 'blurred away', pointer: '/previewShadows/softness' },
  { bit: CONTACT, id: 'contact', label: 'held back on screen alone', pointer: '/previewShadows/contact' },
] as const; // prettier-ignore

export type ReasonId = (typeof REASONS)[number]['id'];
