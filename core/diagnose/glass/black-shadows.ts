/**
 * Glass that stops shadow rays of lights without a size: what they send through it could be met by no path, so that its shadow
 * is as black as a wall's and its contacts are dark. Light of a size is met by chance, and comes through as caustics.
 */
import { LIGHT_FLAGS, LIGHT_STRIDE, POINT_LIKE } from '../../lights/table.ts';
import { objectNames } from '../../document/object-names.ts';
import { toInt } from '../../data/numbers.ts';
import { lightName } from '../../place/light-name.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { cornerOf, maskOfBlocks, placesOver } from '../../place/grid.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionOf } from '../regions.ts';

export interface BlackShadowCase extends Case {
  kind: 'black-shadow';
  /** Keys and names of the glass, and names of the lights. */
  ids: string[];
  names: string[];
  lights: string[];
  /** Share of the picture that lies in such shadows, and of the light there that is stopped. */
  share: number;
  stopped: number;
}

const PLACES = 1500;
const GLASS = 0.5;
/** Share of a place's light from which on it is dark for want of it, and of the places. */
const [MUCH, WIDE] = [0.3, 0.01];
/** Share of the picture, and of the light there, from which on it is plain. */
const PLAIN = { share: 0.03, stopped: 0.6 };

export function blackShadowCases({ document, scene, sheet, picture }: RenderInput): BlackShadowCase[] {
  const isGlass = scene.objectIds.map((id) => document.materials[document.objects[id].material].transmission >= GLASS);
  const rows = Array.from({ length: scene.lightCount }, (_, row) => row);
  const points = rows.filter((row) => (toInt(scene.lights[row * LIGHT_STRIDE + LIGHT_FLAGS]) & POINT_LIKE) !== 0);
  if (points.length === 0 || !isGlass.includes(true)) return [];
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const { step, places } = placesOver(walk, picture, PLACES);
  const blockers = new Map<number, number>();
  const guilty = new Set<number>();
  const dark: { x: number; y: number }[] = [];
  let stopped = 0;
  for (const at of places) {
    if (isGlass[at.place.object]) continue;
    let [through, all] = [0, 0];
    const own = new Set<number>();
    for (const row of points)
      for (const { light, share, hits } of walk.towards(at.place, row, 1).rays) {
        all += light;
        const holding = hits.filter(({ block, reasons }) => block > 0 && reasons === 0);
        if (share > 0 || holding.length === 0 || !holding.every(({ object }) => isGlass[object])) continue;
        through += light;
        guilty.add(row);
        for (const { object } of holding) own.add(object);
      }
    if (through === 0) continue;
    // What comes from lights of a size is there as well.
    for (const row of rows)
      if (!points.includes(row))
        for (const { light, share } of walk.towards(at.place, row, 4).rays) all += light * share;
    if (through < MUCH * all) continue;
    for (const object of own) blockers.set(object, (blockers.get(object) ?? 0) + 1);
    dark.push(at);
    stopped += through / all;
  }
  if (dark.length < WIDE * places.length) return [];
  const mask = maskOfBlocks(picture, step, dark.map((at) => cornerOf(at, step))); // prettier-ignore
  const names = objectNames(document);
  const objects = [...blockers.keys()].sort((a, b) => blockers.get(b)! - blockers.get(a)!);
  return [
    {
      key: 'glass.black-shadow',
      kind: 'black-shadow',
      severity:
        dark.length >= PLAIN.share * places.length && stopped >= PLAIN.stopped * dark.length ? 'caution' : 'note',
      region: regionOf(picture, mask),
      mask,
      passes: ['diffuse.direct', 'beauty'],
      objects: objects.map((object) => names[object]),
      ids: objects.map((object) => scene.objectIds[object]),
      names: objects.map((object) => names[object]),
      lights: [...guilty].map((row) => lightName({ document, scene }, row)),
      share: dark.length / places.length,
      stopped: stopped / dark.length,
    },
  ];
}
