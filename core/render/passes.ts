/**
 * The passes of a film and where their numbers stand in a pixel.
 *
 * Light passes are named by the first scattering event of a path (a run of transmissions being one
 * event): direct when light is met right after it, emission and background when there was none. They
 * add up to the beauty, which is accumulated on its own.
 */
export const LIGHT_PASSES = [
  'beauty',
  'diffuse.direct',
  'diffuse.indirect',
  'specular.direct',
  'specular.indirect',
  'transmission.direct',
  'transmission.indirect',
  'emission',
  'background',
] as const;
export type LightPass = (typeof LIGHT_PASSES)[number];

export const BEAUTY = 0;
export const EMISSION = 7;
export const BACKGROUND = 8;
export const LIGHT_PASS_COUNT = LIGHT_PASSES.length;

/** The light pass of a path whose first event is `kind` (0 diffuse, 1 specular, 2 transmission). */
export const passOf = (kind: number, direct: boolean): number => 1 + kind * 2 + (direct ? 0 : 1);

/** Every limit that can end a path, and `any` for paths that one or more of them ended. */
export const CUTS = ['diffuse', 'specular', 'transmission', 'overall', 'any'] as const;
export type Cut = (typeof CUTS)[number];
export const CUT_OVERALL = 3;
export const CUT_ANY = 4;

/** Layout of one pixel's means: light passes as RGB, then the cuts, then rays. */
export const MEAN_CUT = LIGHT_PASS_COUNT * 3;
export const MEAN_RAYS = MEAN_CUT + CUTS.length;
export const MEANS = MEAN_RAYS + 1;

/** Channel names of a picture made from a film, in groups a person would look for them in. */
export function passChannels(pass: string): string[] {
  if ((LIGHT_PASSES as readonly string[]).includes(pass)) return [`${pass}.R`, `${pass}.G`, `${pass}.B`];
  return [pass];
}

/** One-channel passes a film also gives. */
export const MEASURE_PASSES = [
  'samples',
  'cost',
  'crossings',
  ...CUTS.map((cut) => `cut.${cut}`),
  ...LIGHT_PASSES.map((pass) => `error.${pass}`),
];

export const ALL_PASSES: string[] = [...LIGHT_PASSES, ...MEASURE_PASSES];
