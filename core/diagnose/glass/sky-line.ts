/**
 * A hard line in the environment that is seen in glass alone: the environment is hidden from the camera, or a background stands
 * before it, and panes show it all the same. It stays whatever the lights are set to, and goes with the environment.
 */
import { luminance } from '../../data/colour.ts';
import { objectIds, objectNames } from '../../document/object-names.ts';
import { skyRadiance } from '../../lights/sky.ts';
import { SkyWalk } from '../../place/sky-walk.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface SkyLineCase extends Case {
  kind: 'sky-line';
  names: string[];
  /** Ids of what these are made of. */
  materials: string[];
  /** Stops across the line, the median. */
  stops: number;
  /** Degrees above the horizon, from and to. */
  elevations: [number, number];
}

/** Pixels across that are looked at, stops between neighbours that make a line, and pixels of it. */
const ACROSS = 320;
const HARD = 1;
const LONG = 0.06;
const DARK = 1e-3;
/** Degrees between neighbouring rays beyond which glass bent one of them elsewhere. */
const NEAR = 3;

export function skyLineCases({ document, scene, sheet, picture }: RenderInput): SkyLineCase[] {
  const { environment, background } = document;
  if (environment.intensity === 0 || environment.kind === 'constant' || !environment.visibility.transmission) return [];
  if (environment.visibility.camera && background === null) return [];
  const walk = new SkyWalk(scene, document, settingsOf(sheet));
  const step = Math.max(1, Math.round(picture.width / ACROSS));
  const out = new Float64Array(3);
  let above: (Seen | null)[] = [];
  const line: { pixel: number; stops: number; elevation: number }[] = [];
  const shown = new Set<number>();
  const columns = new Set<number>();
  const rows = new Set<number>();
  for (let y = 0; y < picture.height; y += step) {
    const row: (Seen | null)[] = [];
    for (let x = 0; x < picture.width; x += step) {
      const sky = walk.skyAt(x, y);
      let seen: Seen | null = null;
      if (sky && sky.by.length > 0) {
        const [dx, dy, dz] = sky.direction;
        skyRadiance(scene.sky, scene.chains, dx, dy, dz, out);
        seen = { level: Math.log2(DARK + Math.max(0, luminance(out[0], out[1], out[2]))), direction: sky.direction, by: sky.by }; // prettier-ignore
      }
      for (const other of [row.at(-1), above[row.length]]) {
        if (!seen || !other || other.by.join() !== seen.by.join() || degreesBetween(seen.direction, other.direction) > NEAR) continue; // prettier-ignore
        const stops = Math.abs(seen.level - other.level);
        if (stops < HARD) continue;
        line.push({ pixel: y * picture.width + x, stops, elevation: (Math.asin(seen.direction[1]) * 180) / Math.PI });
        for (const object of seen.by) shown.add(object);
        columns.add(x);
        rows.add(y);
      }
      row.push(seen);
    }
    above = row;
  }
  if (Math.max(columns.size * step, rows.size * step) < LONG * picture.width) return [];
  const mask = maskOf(picture, line.map(({ pixel }) => pixel)); // prettier-ignore
  const names = objectNames(document);
  const ids = objectIds(document);
  const steps = line.map(({ stops }) => stops).sort((a, b) => a - b);
  const elevations = line.map(({ elevation }) => elevation).sort((a, b) => a - b);
  return [
    {
      key: 'glass.sky-line',
      kind: 'sky-line',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['transmission.direct', 'beauty'],
      objects: [...shown].map((object) => names[object]),
      names: [...shown].map((object) => names[object]),
      materials: [...new Set([...shown].flatMap((object) => document.objects[ids[object]].material ?? []))],
      stops: steps[steps.length >> 1],
      elevations: [elevations[0], elevations.at(-1)!],
    },
  ];
}

interface Seen {
  level: number;
  direction: readonly number[];
  by: number[];
}

const degreesBetween = (a: readonly number[], b: readonly number[]): number =>
  (Math.acos(Math.min(1, a[0] * b[0] + a[1] * b[1] + a[2] * b[2])) * 180) / Math.PI;
