/** Glass that filters everything away: its colour at each face is black, or next to it, so that nothing is seen through it. */
import { luminance } from '../../data/colour.ts';
import { channel } from '../../data/picture.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface BlackGlassCase extends Case {
  kind: 'black';
  objects: string[];
  /** Keys and names of the materials, and the colour of each. */
  materials: { id: string; name: string; rgb: [number, number, number] }[];
  /** Share of the light that gets through two faces of the clearest of them, 0–1. */
  through: number;
}

/** Light that a face may let through and still be black: after two of them, a hundredth of a stop above nothing on any display. */
const BLACK = 0.02;
/** Share of what is below the surface that must go through before it is glass. */
const GLASS = 0.5;
/** Pixels below which it is no matter. */
const FEWEST = 40;

export function blackGlassCases({ document, scene, picture }: RenderInput): BlackGlassCase[] {
  const isBlack = (id: string) => {
    const { transmission, metallic, baseColour, baseColourMap } = document.materials[id];
    return transmission >= GLASS && metallic < GLASS && baseColourMap === null && brightness(baseColour) <= BLACK;
  };
  const ids = Object.keys(document.materials).filter(isBlack).sort();
  if (ids.length === 0) return [];
  const materialOf = scene.objectIds.map((id) => document.objects[id].material);
  const objects = channel(picture, 'object');
  const pixels: number[] = [];
  const seen = new Set<number>();
  objects.forEach((object, i) => {
    if (object === 0 || !ids.includes(materialOf[object - 1])) return;
    pixels.push(i);
    seen.add(object - 1);
  });
  if (pixels.length < FEWEST) return [];
  const mask = maskOf(picture, pixels);
  const own = ids.filter((id) => [...seen].some((object) => materialOf[object] === id));
  return [
    {
      key: 'glass.black-filter',
      kind: 'black',
      severity: 'stop',
      region: regionOf(picture, mask),
      mask,
      passes: ['transmission.direct', 'transmission.indirect'],
      objects: [...seen].map((object) => document.objects[scene.objectIds[object]].name || scene.objectIds[object]),
      materials: own.map((id) => ({ id, name: document.materials[id].name || id, rgb: document.materials[id].baseColour as [number, number, number] })), // prettier-ignore
      through: Math.max(...own.map((id) => brightness(document.materials[id].baseColour) ** 2)),
    },
  ];
}

const brightness = ([r, g, b]: number[]): number => luminance(r, g, b);
