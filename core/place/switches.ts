/**
 * What a document and a sheet can do to a shadow that nature would have thrown: one bit each, so that any of them can be put
 * right alone or together with others and the light worked out again from rays that are traced once.
 */

export const LIGHT_CASTS_NONE = 1;
export const OBJECT_CASTS_NONE = 2;
export const RECEIVER_TAKES_NONE = 4;
export const NOT_LINKED = 8;
export const SHADOW_DISTANCE = 16;
export const RAY_DISTANCE = 32;
export const SHADOW_COLOUR = 64;
export const ONE_SIDED = 128;

export interface Switch {
  bit: number;
  id: SwitchId;
}
export type SwitchId =
  'light' | 'object' | 'receiver' | 'link' | 'shadow-distance' | 'ray-distance' | 'colour' | 'side';

/** In the order people look for them. */
export const SWITCHES: readonly Switch[] = [
  { bit: LIGHT_CASTS_NONE, id: 'light' },
  { bit: OBJECT_CASTS_NONE, id: 'object' },
  { bit: RECEIVER_TAKES_NONE, id: 'receiver' },
  { bit: NOT_LINKED, id: 'link' },
  { bit: SHADOW_DISTANCE, id: 'shadow-distance' },
  { bit: RAY_DISTANCE, id: 'ray-distance' },
  { bit: SHADOW_COLOUR, id: 'colour' },
  { bit: ONE_SIDED, id: 'side' },
];
export const ALL_SWITCHES = 255;
/** Those of the objects that should throw the shadow. */
export const OBJECT_SWITCHES = OBJECT_CASTS_NONE | ONE_SIDED;
/** Those that are no light's own: put right for one, they are for all. */
export const SHARED_SWITCHES = OBJECT_SWITCHES | RECEIVER_TAKES_NONE | RAY_DISTANCE;

export const switchesIn = (bits: number): Switch[] => SWITCHES.filter(({ bit }) => (bits & bit) !== 0);
