/**
 * Glass whose tint is somewhere else than in its tint: a coloured map on the opacity, where it takes the glass away instead of
 * colouring it; and a floor that only takes shadows, which is not there behind the glass.
 */
import { channel } from '../../data/picture.ts';
import { objectIds, objectNames } from '../../document/object-names.ts';
import type { AnyMapSpec } from '../../document/schema.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface OpacityCase extends Case {
  kind: 'opacity';
  objects: string[];
  /** Keys and names of the material and of its map. */
  material: { id: string; name: string };
  map: { id: string; name: string };
}

export interface FloorCase extends Case {
  kind: 'floor';
  id: string;
  name: string;
  /** Names of what it is seen through. */
  through: string[];
  /** Share of the picture. */
  share: number;
}

const GLASS = 0.5;
/** Pixels below which it is no matter. */
const FEWEST = 40;
/** Difference between channels from which on a map is coloured: it would not be, were it made for opacity. */
const COLOURED = 0.1;
/** Pixels of glass that are looked through, about, and those that must show the floor. */
const [LOOKED, LEAST] = [4000, 12];

export function opacityCases({ document, picture }: RenderInput): OpacityCase[] {
  const ids = objectIds(document);
  const numbers = channel(picture, 'object');
  return Object.entries(document.materials).flatMap(([id, material]): OpacityCase[] => {
    const { transmission, alphaMap, alphaMode, baseColour, baseColourMap, name } = material;
    if (transmission < GLASS || alphaMap === null || alphaMode === 'opaque' || baseColourMap !== null) return [];
    // A base colour of its own is a tint already: the map may cut the glass out on purpose.
    if (spread(baseColour) > COLOURED || !isColoured(document.maps[alphaMap])) return [];
    const pixels = [...numbers.keys()].filter((i) => numbers[i] > 0 && document.objects[ids[numbers[i] - 1]].material === id); // prettier-ignore
    if (pixels.length < FEWEST) return [];
    const mask = maskOf(picture, pixels);
    const own = new Set(pixels.map((i) => numbers[i] - 1));
    const map = document.maps[alphaMap];
    return [
      {
        key: `glass.opacity ${id}`,
        kind: 'opacity',
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['beauty', 'transmission.indirect'],
        objects: [...own].map((object) => objectNames(document)[object]),
        material: { id, name: name || id },
        map: { id: alphaMap, name: ('name' in map && map.name) || alphaMap },
      },
    ];
  });
}

const spread = (rgb: readonly number[]): number => Math.max(...rgb) - Math.min(...rgb);

function isColoured(map: AnyMapSpec): boolean {
  if ('stops' in map) return map.stops.some(({ colour }) => spread(colour) > COLOURED);
  return 'colours' in map && map.colours.some((colour) => spread(colour) > COLOURED);
}

export function floorCases({ document, scene, sheet, picture }: RenderInput): FloorCase[] {
  const isFloor = (id: string) => document.objects[id].role === 'shadow-only' && !document.objects[id].hidden;
  if (!scene.objectIds.some(isFloor)) return [];
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const names = objectNames(document);
  const step = Math.max(1, Math.round(Math.sqrt((picture.width * picture.height) / LOOKED)));
  const found = new Map<number, { pixels: number[]; through: Set<number> }>();
  let looked = 0;
  for (let y = step >> 1; y < picture.height; y += step)
    for (let x = step >> 1; x < picture.width; x += step) {
      looked++;
      const faces = walk.glassOn(x, y);
      const behind = faces.length > 0 ? walk.surfaceAt(x, y) : null;
      if (!behind || !isFloor(scene.objectIds[behind.object])) continue;
      const own = found.get(behind.object) ?? { pixels: [], through: new Set<number>() };
      found.set(behind.object, own);
      own.pixels.push(y * picture.width + x);
      for (const { object } of faces) own.through.add(object);
    }
  return [...found].flatMap(([object, { pixels, through }]): FloorCase[] => {
    if (pixels.length < LEAST) return [];
    const mask = maskOf(picture, pixels);
    return [
      {
        key: `glass.floor ${scene.objectIds[object]}`,
        kind: 'floor',
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['beauty', 'transmission.indirect'],
        objects: [...through].map((one) => names[one]),
        id: scene.objectIds[object],
        name: names[object],
        through: [...through].map((one) => names[one]),
        share: pixels.length / looked,
      },
    ];
  });
}
