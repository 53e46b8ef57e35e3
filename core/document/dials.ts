/** The dials of a sheet, as a person meets them: label, unit, range, step, and what each decides. */
import type { Sheet } from './schema.ts';

export interface Dial {
  /** JSON pointer inside a sheet. */
  pointer: string;
  label: string;
  group: 'Picture' | 'Samples' | 'Limits' | 'Filter' | 'Target';
  unit: string;
  kind: 'number' | 'choice' | 'switch';
  min?: number;
  max?: number;
  step?: number;
  digits?: number;
  choices?: string[];
  help: string;
  /** The pass that shows what this dial takes away. */
  cut?: string;
}

const limit = (kind: string, max: number, help: string): Dial => ({
  pointer: `/limits/${kind}`,
  label: `${kind[0].toUpperCase()}${kind.slice(1)} limit`,
  group: 'Limits',
  unit: 'events',
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

export const DIALS: Dial[] = [
  { pointer: '/samples', label: 'Samples', group: 'Samples', unit: 'per pixel', kind: 'number', min: 4, max: 65536, step: 4, help: 'Camera samples of every pixel, in fours. Four times as many halve the noise and cost four times the rays.' },
  extra('light', 'Light samples', 'Samples of every light at the first hit; 1 means none extra. Lowers grain in direct light and soft shadows.'),
  extra('diffuse', 'Diffuse samples', 'Diffuse directions at the first hit. Lowers grain in indirect diffuse light.'),
  extra('specular', 'Specular samples', 'Reflections at the first hit. Lowers grain in rough and blurred reflections.'),
  extra('transmission', 'Transmission samples', 'Transmissions at the first hit. Lowers grain behind glass.'),
  limit('diffuse', 64, 'Diffuse events on a path. 1 is direct light only, 0 is emission only.'),
  limit('specular', 64, 'Reflections on a path, internal ones too.'),
  limit('transmission', 64, 'Glass faces a path may pass. Each wall of a vessel has two.'),
  limit('overall', 200, 'Events of all kinds together. It decides before the others where it is lower.'),
  { pointer: '/roulette', label: 'Roulette', group: 'Limits', unit: '', kind: 'switch', help: 'Ends weak paths by chance and strengthens those that go on: faster, without bias.' },
  { pointer: '/width', label: 'Width', group: 'Picture', unit: 'px', kind: 'number', min: 1, max: 16384, step: 1, help: 'Columns of the frame.' },
  { pointer: '/height', label: 'Height', group: 'Picture', unit: 'px', kind: 'number', min: 1, max: 16384, step: 1, help: 'Rows of the frame.' },
  { pointer: '/filter/kind', label: 'Pixel filter', group: 'Filter', unit: '', kind: 'choice', choices: ['box', 'triangle', 'gaussian'], help: 'How samples around a pixel count for it.' },
  { pointer: '/filter/width', label: 'Filter width', group: 'Filter', unit: 'px', kind: 'number', min: 0.1, max: 8, step: 0.1, digits: 2, help: 'Full width. Wider is softer and less jagged.' },
  { pointer: '/seed', label: 'Seed', group: 'Samples', unit: '', kind: 'number', min: 0, max: 4294967295, step: 1, help: 'Another seed gives other grain and the same picture behind it.' },
  { pointer: '/grainTarget', label: 'Grain target', group: 'Target', unit: 'steps', kind: 'number', min: 0.1, max: 50, step: 0.5, digits: 1, help: 'Visible grain that is good enough: display steps of 255 after the shadow lift (+2 stops, gamma 1.25).' },
]; // prettier-ignore

/** @throws RangeError when no dial has that pointer */
export function dialAt(pointer: string): Dial {
  const dial = DIALS.find((d) => d.pointer === pointer);
  if (!dial) throw new RangeError(`no dial stands at ${pointer}`);
  return dial;
}

export function dialValue(sheet: Sheet, pointer: string): number | string | boolean {
  let value: unknown = sheet;
  for (const key of pointer.slice(1).split('/')) value = (value as Record<string, unknown>)[key];
  return value as number | string | boolean;
}

/**
 * What stands in a dial's way in its own sheet, said where it stands: the overall limit hides what is
 * above it. Null when the dial is obeyed as it is.
 */
export function overriddenBy(sheet: Sheet, pointer: string): string | null {
  const kind = /^\/limits\/(diffuse|specular|transmission)$/.exec(pointer)?.[1] as keyof Sheet['limits'] | undefined;
  if (!kind || sheet.limits[kind] <= sheet.limits.overall) return null;
  return `overall ${sheet.limits.overall} decides first`;
}
