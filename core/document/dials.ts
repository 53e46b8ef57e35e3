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
  { pointer: '/samples', label: 'Samples', group: 'Samples', unit: 'per pixel', kind: 'number', min: 4, max: 65536, step: 4, help: 'Camera samples of every pixel, in fours; the most, if sampling is adaptive. Four times as many halve the noise and cost four times the rays.' },
  extra('light', 'Light samples', 'Samples of every light at the first hit; 1 means none extra. Lowers noise in direct light and soft shadows.'),
  extra('diffuse', 'Diffuse samples', 'Diffuse directions at the first hit. Lowers noise in indirect diffuse light.'),
  extra('specular', 'Specular samples', 'Reflections at the first hit. Lowers noise in rough and blurred reflections.'),
  extra('transmission', 'Transmission samples', 'Transmissions at the first hit. Lowers noise behind glass.'),
  extra('volume', 'Volume samples', 'Places in the volume on the way to the first hit. Lowers noise in volumes.'),
  extra('occlusion', 'Occlusion samples', 'Occlusion rays at the first hit. Lowers noise in the occlusion pass.'),
  { pointer: '/adaptive/on', label: 'Adaptive sampling', group: 'Adaptive', unit: '', kind: 'switch', help: 'Each pixel gets the samples it needs, told by samples of its own that stay out of the picture, so that no pixel stops because it happened to be dark.' },
  { pointer: '/adaptive/target', label: 'Noise target', group: 'Adaptive', unit: 'of 255', kind: 'number', min: 0.1, max: 50, step: 0.5, digits: 2, help: 'Noise at which a pixel is done: of 255 with shadows boosted, and in bright parts as the picture is.' },
  { pointer: '/adaptive/least', label: 'Least samples', group: 'Adaptive', unit: 'per pixel', kind: 'number', min: 16, max: 65536, step: 4, help: 'Samples of every pixel, in fours, however clean it looks.' },
  limit('diffuse', 64, 'Diffuse events on a path. 1 is direct light only, 0 is emission only.'),
  limit('specular', 64, 'Reflections on a path, internal ones too.'),
  limit('transmission', 64, 'Glass faces a path may pass. Each wall of a vessel has two.'),
  limit('volume', 64, 'Scattering events in fog on a path. 1 is light that was scattered once.'),
  limit('alpha', 256, 'See-through surfaces a path may pass: cut-out leaves, labels, gauze. The overall limit does not count them.', 'surfaces'),
  limit('overall', 200, 'Events of all kinds together. It decides before the others where it is lower.'),
  { pointer: '/rayDistance', label: 'Ray distance', group: 'Limits', unit: 'm', kind: 'number', min: 1e-6, max: 1e9, step: 1, digits: 6, none: 'any', help: 'What is further from where a ray starts is not met: it is missing from the picture and throws no shadow.', cut: 'cut.distance' },
  { pointer: '/roulette', label: 'Roulette', group: 'Limits', unit: '', kind: 'switch', help: 'Ends weak paths by chance and strengthens those that go on: faster, without bias.' },
  clamp('direct', 'Most luminance that one contribution of direct light may bring. It dims what is brighter, flames and highlights too; what it takes is in the pass clamped.'),
  clamp('indirect', 'Most luminance that one contribution of indirect light may bring. It takes fireflies and the light they stand for; what it takes is in the pass clamped.'),
  clamp('bounced', 'Most luminance that one contribution may bring that was found by way of an earlier event that spreads: diffuse, fog, a blurred reflection. It spares what the camera sees at once, sharply mirrored or through clear glass, and takes what is found by chance.'),
  { pointer: '/roughnessFloor', label: 'Roughness floor', group: 'Clamps', unit: '', kind: 'number', min: 0, max: 1, step: 0.05, digits: 2, help: 'Least roughness that reflections have after a diffuse or fog event; glass keeps its own. Takes the patterns of light that mirrors throw, and the fireflies they are met by; what the camera sees mirrored stays sharp.' },
  { pointer: '/width', label: 'Width', group: 'Picture', unit: 'px', kind: 'number', min: 1, max: 16384, step: 1, help: 'Columns of the frame.' },
  { pointer: '/height', label: 'Height', group: 'Picture', unit: 'px', kind: 'number', min: 1, max: 16384, step: 1, help: 'Rows of the frame.' },
  { pointer: '/neutral', label: 'Neutral material', group: 'Picture', unit: '', kind: 'choice', choices: ['off', 'neutral', 'neutral-occlusion'], help: 'One grey, matt material over the whole scene, times ambient occlusion if wanted: shows light and shape alone.' },
  { pointer: '/mostSubdivision', label: 'Most subdivision', group: 'Picture', unit: 'levels', kind: 'number', min: 0, max: 8, step: 1, none: 'any', help: 'Levels of subdivision that an object gets at most: a preview may do with fewer. Each level has four times the faces of the one before.' },
  { pointer: '/precision', label: 'World positions', group: 'Picture', unit: '', kind: 'choice', choices: ['double', 'single'], help: 'Precision of positions. Single is what many renderers have: far from the origin edges shake, 4 mm at 40 km.' },
  { pointer: '/filter/kind', label: 'Pixel filter', group: 'Filter', unit: '', kind: 'choice', choices: FILTER_KINDS, help: 'How samples around a pixel count for it. Mitchell and Lanczos are sharp and can leave negative pixels beside bright ones.' },
  { pointer: '/filter/width', label: 'Filter width', group: 'Filter', unit: 'px', kind: 'number', min: 0.1, max: 8, step: 0.1, digits: 2, help: 'Full width. Wider is softer and less jagged.' },
  { pointer: '/motion/samples', label: 'Motion samples', group: 'Motion', unit: 'places', kind: 'number', min: 1, max: 16, step: 1, help: 'Places of a moving object within the shutter, straight lines between them. 1 does not blur; 2 are the least that do; arcs need more.' },
  { pointer: '/motion/shutter', label: 'Shutter', group: 'Motion', unit: 'frames', kind: 'number', min: 0, max: 1, step: 0.05, digits: 3, help: 'Part of a frame that the shutter is open, from the frame on.' },
  { pointer: '/occlusion/distance', label: 'Occlusion distance', group: 'Occlusion', unit: 'm', kind: 'number', min: 1e-6, max: 1e9, step: 0.1, digits: 6, none: 'any', help: 'What is further does not occlude. In a closed room any distance is black: everything is behind something.' },
  { pointer: '/occlusion/falloff', label: 'Occlusion falloff', group: 'Occlusion', unit: '', kind: 'choice', choices: FALLOFFS, help: 'How occlusion fades with how far its occluder is: none is all or nothing up to the distance, the others fade to nothing there, square-root soonest. Without a distance nothing fades.' },
  { pointer: '/occlusion/cone', label: 'Occlusion cone', group: 'Occlusion', unit: '°', kind: 'number', min: 1, max: 90, step: 5, digits: 1, help: 'Half angle of the cone of rays around the normal.' },
  { pointer: '/occlusion/direction', label: 'Occlusion direction', group: 'Occlusion', unit: '', kind: 'choice', choices: ['outward', 'inward'], help: 'Outward measures how open a place is; inward how thick the body behind it.' },
  { pointer: '/occlusion/seeThrough', label: 'See-through occlusion', group: 'Occlusion', unit: '', kind: 'switch', help: 'Glass and cut-out surfaces occlude by what they hold back only, so that what stands behind a pane is not black.' },
  { pointer: '/occlusion/strength', label: 'Occlusion strength', group: 'Occlusion', unit: '', kind: 'number', min: 0, max: 1, step: 0.05, digits: 2, help: 'How much of the light at the first hit occlusion takes where all is shut. 0 leaves it a pass. Light that is traced reaches corners less by itself, so that much of it counts twice.' },
  { pointer: '/occlusion/contrast', label: 'Occlusion contrast', group: 'Occlusion', unit: '', kind: 'number', min: 0.1, max: 10, step: 0.1, digits: 2, help: 'Power of the openness that dims light: above 1 darkens what is half open, below 1 what is nearly shut alone. Other than 1 it takes at least 16 occlusion rays at the first hit. The pass stays as it is.' },
  { pointer: '/occlusion/colour', label: 'Occlusion colour', group: 'Occlusion', unit: '', kind: 'colour', min: 0, max: 1, help: 'What is left of the light where all is shut: black takes all of it, a dark brown keeps corners warm.' },
  { pointer: '/lines/over', label: 'Lines over the beauty', group: 'Lines', unit: '', kind: 'switch', help: 'Draws ink lines over the picture. They count as emission, so that the passes still add up to the beauty.' },
  { pointer: '/lines/width', label: 'Line width', group: 'Lines', unit: 'px', kind: 'number', min: 0.5, max: 64, step: 0.25, digits: 2, help: 'Width of ink lines, half of it on either side of the edge.' },
  { pointer: '/lines/colour', label: 'Line colour', group: 'Lines', unit: '', kind: 'colour', min: 0, max: 1, help: 'Colour of the ink.' },
  { pointer: '/lines/objects', label: 'Lines of objects', group: 'Lines', unit: '', kind: 'switch', help: 'Where one object ends and another, or nothing, begins.' },
  { pointer: '/lines/materials', label: 'Lines of materials', group: 'Lines', unit: '', kind: 'switch', help: 'Where one material ends and another begins.' },
  { pointer: '/lines/normal', label: 'Line angle', group: 'Lines', unit: '°', kind: 'number', min: 1, max: 180, step: 5, digits: 1, none: 'never', help: 'A line runs where the surface turns by more from one place to the next, a quarter of a pixel on: creases. Maps turn nothing here. Lower draws more.' },
  { pointer: '/lines/depth', label: 'Line depth', group: 'Lines', unit: 'of depth', kind: 'number', min: 1e-6, max: 1, step: 0.005, digits: 4, none: 'never', help: 'A line runs where depth jumps by more, as a share of it, than the slope of the faces explains: folds and edges of one object before itself. Lower draws more.' },
  { pointer: '/lines/overshoot', label: 'Line overshoot', group: 'Lines', unit: 'px', kind: 'number', min: 0, max: 64, step: 1, digits: 1, help: 'How far straight lines run past the corner they meet in, as a draughtsman’s do.' },
  { pointer: '/passes/lines', label: 'Line pass', group: 'Passes', unit: '', kind: 'switch', help: 'Keeps ink lines as a pass: the share of each pixel that they cover.' },
  { pointer: '/passes/occlusion', label: 'Occlusion pass', group: 'Passes', unit: '', kind: 'switch', help: 'Keeps ambient occlusion as a pass.' },
  { pointer: '/passes/shadows', label: 'Shadow passes', group: 'Passes', unit: '', kind: 'switch', help: 'Keeps one pass a light: the share of it that arrives, 1 in the light and 0 in the shadow.' },
  { pointer: '/passes/groups', label: 'Passes of light groups', group: 'Passes', unit: '', kind: 'switch', help: 'Keeps every light pass of each light group, not its beauty alone.' },
  { pointer: '/seed', label: 'Seed', group: 'Samples', unit: '', kind: 'number', min: 0, max: 4294967295, step: 1, help: 'Another seed gives other noise and the same picture behind it.' },
  { pointer: '/grainTarget', label: 'Target noise', group: 'Target', unit: 'of 255', kind: 'number', min: 0.1, max: 50, step: 0.5, digits: 1, help: 'Noise that is good enough: of 255 with shadows boosted (+2 stops, gamma 1.25).' },
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
