/** The dials of a sheet, as a person meets them: label, unit, range, step, and what each decides. */
import { FALLOFFS } from '../data/falloff.ts';
import { FILTER_KINDS, type Sheet } from './schema.ts';

export const DIAL_GROUPS = [
  'Picture',
  'Samples',
  'Adaptive',
  'Limits',
  'Clamps',
  'Filter',
  'Motion',
  'Occlusion',
  'Lines',
  'Passes',
  'Target',
] as const;

export interface Dial {
  /** JSON pointer inside a sheet. */
  pointer: string;
  label: string;
  group: (typeof DIAL_GROUPS)[number];
  unit: string;
  /** `colour`: linear Rec.709. */
  kind: 'number' | 'choice' | 'switch' | 'colour';
  min?: number;
  max?: number;
  step?: number;
  digits?: number;
  /** How the absence of a number (null) is called, where it may be absent. */
  none?: string;
  choices?: readonly string[];
  help: string;
  /** The pass that shows what this dial takes away. */
  cut?: string;
}

const limit = (kind: string, max: number, help: string, unit = 'events'): Dial => ({
  pointer: `/limits/${kind}`,
  label: `${kind[0].toUpperCase()}${kind.slice(1)} limit`,
  group: 'Limits',
  unit,
  kind: 'number',
  min: 0,
  max,
  step: 1,
  help,
  cut: `cut.${kind}`,
});

const extra = (kind: string, label: string, help: string): Dial => ({
  pointer: `/extraSamples/${kind}`,
  label,
  group: 'Samples',
  unit: '×',
  kind: 'number',
  min: 1,
  max: 256,
  step: 1,
  help,
});

const clamp = (kind: string, help: string): Dial => ({
  pointer: `/clamps/${kind}`,
  label: `${kind[0].toUpperCase()}${kind.slice(1)} clamp`,
  group: 'Clamps',
  unit: 'W/(sr m²)',
  kind: 'number',
  min: 0,
  max: 1e9,
  step: 0.5,
  digits: 3,
  none: 'off',
  help,
  cut: 'clamped',
});

export const DIALS: Dial[] = [
  { pointer: '/samples', label: 'Samples', group: 'Samples', unit: 'per pixel', kind: 'number', min: 4, max: 65536, step: 4, help: 'Camera samples per pixel, in multiples of 4; the maximum where sampling is adaptive. Four times the samples halve the noise at four times the rays.' },
  extra('light', 'Light samples', 'Samples per light at the first hit; 1 adds none. Lowers noise in direct light and soft shadows.'),
  extra('diffuse', 'Diffuse samples', 'Diffuse rays at the first hit. Lowers noise in indirect diffuse light.'),
  extra('specular', 'Specular samples', 'Reflection rays at the first hit. Lowers noise in rough reflections.'),
  extra('transmission', 'Transmission samples', 'Transmission rays at the first hit. Lowers noise behind glass.'),
  extra('volume', 'Volume samples', 'Samples along the ray through the volume, up to the first hit. Lowers noise in volumes.'),
  extra('occlusion', 'Occlusion samples', 'Occlusion rays at the first hit. Lowers noise in the occlusion pass.'),
  { pointer: '/adaptive/on', label: 'Adaptive sampling', group: 'Adaptive', unit: '', kind: 'switch', help: 'Each pixel gets the samples it needs. The decision uses a few samples that stay out of the picture, so that no pixel stops early because it happened to be dark.' },
  { pointer: '/adaptive/target', label: 'Noise target', group: 'Adaptive', unit: 'of 255', kind: 'number', min: 0.1, max: 50, step: 0.5, digits: 2, help: 'Noise at which a pixel stops sampling: of 255 with shadows boosted; bright areas are judged without the boost.' },
  { pointer: '/adaptive/least', label: 'Minimum samples', group: 'Adaptive', unit: 'per pixel', kind: 'number', min: 16, max: 65536, step: 4, help: 'Samples every pixel gets, in multiples of 4, however clean it looks.' },
  limit('diffuse', 64, 'Diffuse bounces on a path. 1 is direct light only, 0 emission only.'),
  limit('specular', 64, 'Reflections on a path, including internal ones.'),
  limit('transmission', 64, 'Glass surfaces a path may cross. Each wall of a vessel has two.'),
  limit('volume', 64, 'Scattering events in a volume on a path. 1 is single scattering.'),
  limit('alpha', 256, 'Transparent surfaces a path may cross: cut-out leaves, labels, gauze. They don’t count towards the overall limit.', 'surfaces'),
  limit('overall', 200, 'Events of all kinds together. Where it is lower than the others, it cuts paths first.'),
  { pointer: '/rayDistance', label: 'Ray distance', group: 'Limits', unit: 'm', kind: 'number', min: 1e-6, max: 1e9, step: 1, digits: 6, none: 'any', help: 'Maximum length of a ray. Anything farther is missing from the picture and casts no shadow.', cut: 'cut.distance' },
  { pointer: '/roulette', label: 'Roulette', group: 'Limits', unit: '', kind: 'switch', help: 'Russian roulette: ends weak paths at random and weights up the survivors. Faster, unbiased.' },
  clamp('direct', 'Maximum luminance of one direct contribution. It also dims flames and highlights that are brighter; what it takes is in the pass clamped.'),
  clamp('indirect', 'Maximum luminance of one indirect contribution. It removes fireflies along with the light they stand for; what it takes is in the pass clamped.'),
  clamp('bounced', 'Maximum luminance of one contribution that comes after a diffuse, volume or rough event. What the camera sees directly, in a mirror or through clear glass is spared; what is found by chance is clamped.'),
  { pointer: '/roughnessFloor', label: 'Roughness floor', group: 'Clamps', unit: '', kind: 'number', min: 0, max: 1, step: 0.05, digits: 2, help: 'Minimum roughness of reflections after a diffuse or volume event; glass keeps its own. Removes caustics from mirrors and the fireflies that come with them; what the camera sees in a mirror stays sharp.' },
  { pointer: '/width', label: 'Width', group: 'Picture', unit: 'px', kind: 'number', min: 1, max: 16384, step: 1, help: 'Width of the frame.' },
  { pointer: '/height', label: 'Height', group: 'Picture', unit: 'px', kind: 'number', min: 1, max: 16384, step: 1, help: 'Height of the frame.' },
  { pointer: '/neutral', label: 'Neutral material', group: 'Picture', unit: '', kind: 'choice', choices: ['off', 'neutral', 'neutral-occlusion'], help: 'One matt grey material on the whole scene, multiplied by ambient occlusion if you like: light and shape alone.' },
  { pointer: '/mostSubdivision', label: 'Max subdivision', group: 'Picture', unit: 'levels', kind: 'number', min: 0, max: 8, step: 1, none: 'any', help: 'Maximum subdivision level of any object; a preview can do with fewer. Each level has four times the faces of the one before.' },
  { pointer: '/precision', label: 'World positions', group: 'Picture', unit: '', kind: 'choice', choices: ['double', 'single'], help: 'Precision of world positions. Many renderers use single: far from the origin edges jitter, by 4 mm at 40 km.' },
  { pointer: '/filter/kind', label: 'Pixel filter', group: 'Filter', unit: '', kind: 'choice', choices: FILTER_KINDS, help: 'How samples around a pixel are weighted. Mitchell and Lanczos are sharp and can leave negative pixels beside bright ones.' },
  { pointer: '/filter/width', label: 'Filter width', group: 'Filter', unit: 'px', kind: 'number', min: 0.1, max: 8, step: 0.1, digits: 2, help: 'Full width. Wider is softer, with less aliasing.' },
  { pointer: '/motion/samples', label: 'Motion samples', group: 'Motion', unit: 'positions', kind: 'number', min: 1, max: 16, step: 1, help: 'Motion segments: positions of a moving object within the shutter, joined by straight lines. 1 gives no blur, 2 is the minimum for blur; arcs need more.' },
  { pointer: '/motion/shutter', label: 'Shutter', group: 'Motion', unit: 'frames', kind: 'number', min: 0, max: 1, step: 0.05, digits: 3, help: 'How long the shutter is open, in frames, from the frame on.' },
  { pointer: '/occlusion/distance', label: 'Occlusion distance', group: 'Occlusion', unit: 'm', kind: 'number', min: 1e-6, max: 1e9, step: 0.1, digits: 6, none: 'any', help: 'Maximum distance of an occluder. Without one a closed room is black: everything is behind something.' },
  { pointer: '/occlusion/falloff', label: 'Occlusion falloff', group: 'Occlusion', unit: '', kind: 'choice', choices: FALLOFFS, help: 'How occlusion fades with distance to the occluder. None: full up to the distance. The others reach zero there, square-root soonest. No effect without a distance.' },
  { pointer: '/occlusion/cone', label: 'Occlusion cone', group: 'Occlusion', unit: '°', kind: 'number', min: 1, max: 90, step: 5, digits: 1, help: 'Half angle of the cone of rays around the normal.' },
  { pointer: '/occlusion/direction', label: 'Occlusion direction', group: 'Occlusion', unit: '', kind: 'choice', choices: ['outward', 'inward'], help: 'Outward measures how open a point is; inward, how thick the body behind it is.' },
  { pointer: '/occlusion/seeThrough', label: 'See-through occlusion', group: 'Occlusion', unit: '', kind: 'switch', help: 'Glass and cut-outs occlude only by the light they hold back, so that what is behind a pane doesn’t turn black.' },
  { pointer: '/occlusion/strength', label: 'Occlusion strength', group: 'Occlusion', unit: '', kind: 'number', min: 0, max: 1, step: 0.05, digits: 2, help: 'How much occlusion darkens the light at the first hit where it is full. 0 leaves it a pass only. Traced light already falls off in corners, so this darkens them twice.' },
  { pointer: '/occlusion/contrast', label: 'Occlusion contrast', group: 'Occlusion', unit: '', kind: 'number', min: 0.1, max: 10, step: 0.1, digits: 2, help: 'Exponent on openness before it darkens light: above 1 also darkens what is half open, below 1 only what is almost closed. Anything but 1 uses at least 16 occlusion rays at the first hit. The pass is not affected.' },
  { pointer: '/occlusion/colour', label: 'Occlusion colour', group: 'Occlusion', unit: '', kind: 'colour', min: 0, max: 1, help: 'Light that is left at full occlusion: black leaves none, a dark brown keeps corners warm.' },
  { pointer: '/lines/over', label: 'Lines over the beauty', group: 'Lines', unit: '', kind: 'switch', help: 'Draws ink lines over the picture. They count as emission, so that the passes still add up to the beauty.' },
  { pointer: '/lines/width', label: 'Line width', group: 'Lines', unit: 'px', kind: 'number', min: 0.5, max: 64, step: 0.25, digits: 2, help: 'Width of ink lines, centred on the edge.' },
  { pointer: '/lines/colour', label: 'Line colour', group: 'Lines', unit: '', kind: 'colour', min: 0, max: 1, help: 'Colour of the ink.' },
  { pointer: '/lines/objects', label: 'Lines of objects', group: 'Lines', unit: '', kind: 'switch', help: 'Where one object ends and another, or nothing, begins.' },
  { pointer: '/lines/materials', label: 'Lines of materials', group: 'Lines', unit: '', kind: 'switch', help: 'Where one material ends and another begins.' },
  { pointer: '/lines/normal', label: 'Line angle', group: 'Lines', unit: '°', kind: 'number', min: 1, max: 180, step: 5, digits: 1, none: 'never', help: 'Draws a line where the surface turns by more than this within a quarter of a pixel: creases. Bump and normal maps don’t count. Lower draws more.' },
  { pointer: '/lines/depth', label: 'Line depth', group: 'Lines', unit: 'of depth', kind: 'number', min: 1e-6, max: 1, step: 0.005, digits: 4, none: 'never', help: 'Draws a line where depth jumps by more than this share of it, beyond what the slope of the faces explains: folds, and an object’s edges in front of itself. Lower draws more.' },
  { pointer: '/lines/overshoot', label: 'Line overshoot', group: 'Lines', unit: 'px', kind: 'number', min: 0, max: 64, step: 1, digits: 1, help: 'How far straight lines run past the corner they meet in, as a draughtsman’s do.' },
  { pointer: '/passes/lines', label: 'Line pass', group: 'Passes', unit: '', kind: 'switch', help: 'Keeps ink lines as a pass: the share of each pixel that they cover.' },
  { pointer: '/passes/occlusion', label: 'Occlusion pass', group: 'Passes', unit: '', kind: 'switch', help: 'Keeps ambient occlusion as a pass.' },
  { pointer: '/passes/shadows', label: 'Shadow passes', group: 'Passes', unit: '', kind: 'switch', help: 'Keeps one pass per light: the share of it that arrives, 1 when lit and 0 in shadow.' },
  { pointer: '/passes/groups', label: 'Light group passes', group: 'Passes', unit: '', kind: 'switch', help: 'Keeps every light pass of each light group, not just its beauty.' },
  { pointer: '/seed', label: 'Seed', group: 'Samples', unit: '', kind: 'number', min: 0, max: 4294967295, step: 1, help: 'A different seed gives different noise over the same picture.' },
  { pointer: '/grainTarget', label: 'Target noise', group: 'Target', unit: 'of 255', kind: 'number', min: 0.1, max: 50, step: 0.5, digits: 1, help: 'Noise that is acceptable: of 255 with shadows boosted (+2 stops, gamma 1.25).' },
]; // prettier-ignore

/** @throws RangeError when no dial has that pointer */
export function dialAt(pointer: string): Dial {
  const dial = DIALS.find((d) => d.pointer === pointer);
  if (!dial) throw new RangeError(`no dial stands at ${pointer}`);
  return dial;
}

export type DialValue = number | string | boolean | null | readonly number[];

/** Whether two values of a dial are the same, colours by their numbers. */
export const isSameValue = (a: unknown, b: unknown): boolean => a === b || (Array.isArray(a) && JSON.stringify(a) === JSON.stringify(b)); // prettier-ignore

export function dialValue(sheet: Sheet, pointer: string): DialValue {
  let value: unknown = sheet;
  for (const key of pointer.slice(1).split('/')) value = (value as Record<string, unknown>)[key];
  return value as DialValue;
}

/**
 * What stands in a dial's way in its own sheet, said where it stands: the overall limit hides what is
 * above it. Null when the dial is obeyed as it is.
 */
export function overriddenBy(sheet: Sheet, pointer: string): string | null {
  const kind = /^\/limits\/(diffuse|specular|transmission|volume)$/.exec(pointer)?.[1] as
    keyof Sheet['limits'] | undefined;
  if (!kind || sheet.limits[kind] <= sheet.limits.overall) return null;
  return `overall ${sheet.limits.overall} decides first`;
}
