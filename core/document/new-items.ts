/**
 * New lights and cameras, and copies of what is there: each with an id that is free, and where it does something at once.
 *
 * @example
 * const { pointer, item } = newLight(document, 'rectangle', { point, normal, eye });
 * valuesPatch(document, ['preview'], { [pointer]: item });
 */
import { placedAt, type SeenPoint } from '../data/aim.ts';
import { placementOf, sunDirection, type Triple } from '../data/placement.ts';
import { defaultCamera, defaultLight } from './defaults.ts';
import { valueAt } from './patch.ts';
import type { CameraSpec, GroupSpec, LightSpec, ShotDocument } from './schema.ts';

export interface NewItem<T> {
  pointer: string;
  item: T;
}

export const NEW_LIGHTS = ['point', 'spot', 'rectangle', 'disc', 'distant'] as const;
export type NewLightKind = (typeof NEW_LIGHTS)[number];

/** Irradiance that a new light gives to what it is aimed at, W/m²: matt white looks half as bright as a display's. */
const IRRADIANCE = 1.5;
/** How far over a picked point it stands, and how wide it is, as shares of the distances to the eye and to the point. */
const OVER = 0.3;
const WIDE = 0.25;
/** Metres to what it lights, where no point was picked. */
const AHEAD = 2;
const millimetre = (value: number): number => Math.round(value * 1000) / 1000;
/** Three digits, as people would set it. */
const round = (value: number): number => Number(value.toPrecision(3));
const MORNING = { elevation: 35, azimuth: 120 };

/** "key" where nothing is called so, otherwise "key-2", "key-3" … */
export function freeId(items: Record<string, unknown>, wanted: string): string {
  const base = wanted.replace(/[^A-Za-z0-9_.-]+/g, '-').replace(/-\d+$/, '').slice(0, 90) || 'item'; // prettier-ignore
  if (!Object.hasOwn(items, base)) return base;
  let n = 2;
  while (Object.hasOwn(items, `${base}-${n}`)) n++;
  return `${base}-${n}`;
}

/** @param seen over this point; null: beside the camera, and aimed as it looks */
export function newLight(document: ShotDocument, kind: NewLightKind, seen: SeenPoint | null): NewItem<LightSpec> {
  const camera = document.cameras[document.camera].transform;
  const id = freeId(document.lights, kind === 'distant' ? 'sun' : `${kind}-light`);
  const name = id.replaceAll('-', ' ');
  if (kind === 'distant') {
    const item = { ...defaultLight(kind), name, intensity: IRRADIANCE };
    return { pointer: `/lights/${id}`, item: { ...item, transform: placedAt(sunDirection(MORNING), [0, 0, 0]) } };
  }
  const { position } = placementOf(camera);
  const ahead = [0, 1, 2].map((a) => position[a] - AHEAD * camera[8 + a]) as Triple;
  const distance = seen ? OVER * Math.hypot(...[0, 1, 2].map((a) => seen.eye[a] - seen.point[a])) : AHEAD;
  const from = seen
    ? ([0, 1, 2].map((a) => millimetre(seen.point[a] + distance * seen.normal[a])) as Triple)
    : position;
  const transform = placedAt(from, seen?.point ?? ahead);
  const size = round(WIDE * distance);
  const intensity = round(IRRADIANCE * distance ** 2);
  const own = { name, transform };
  switch (kind) {
    case 'rectangle':
      return { pointer: `/lights/${id}`, item: { ...defaultLight(kind), ...own, width: size, height: size, intensity: round(intensity / size ** 2) } }; // prettier-ignore
    case 'disc':
      return { pointer: `/lights/${id}`, item: { ...defaultLight(kind), ...own, radius: size / 2, intensity: round(intensity / (Math.PI * (size / 2) ** 2)) } }; // prettier-ignore
    case 'point':
      return { pointer: `/lights/${id}`, item: { ...defaultLight(kind), ...own, radius: round(size / 10), intensity } };
    case 'spot':
      return { pointer: `/lights/${id}`, item: { ...defaultLight(kind), ...own, radius: round(size / 10), intensity } };
  }
}

/** A camera where the shot's own stands. */
export function newCamera(document: ShotDocument): NewItem<CameraSpec> {
  const id = freeId(document.cameras, 'camera');
  const { transform, fieldOfView } = document.cameras[document.camera];
  return { pointer: `/cameras/${id}`, item: { ...defaultCamera(), name: id.replaceAll('-', ' '), transform: [...transform], fieldOfView } }; // prettier-ignore
}

/** A group of some objects, or of none yet. */
export function newGroup(document: ShotDocument, objects: readonly string[]): NewItem<GroupSpec> {
  const id = freeId(document.groups, 'group');
  return { pointer: `/groups/${id}`, item: { name: id.replaceAll('-', ' '), objects: [...objects] } };
}

/** The same item once more, under another id and name. */
export function copyOf(document: ShotDocument, pointer: string): NewItem<object> {
  const [, part, id] = pointer.split('/') as [string, 'lights', string];
  const item = JSON.parse(JSON.stringify(valueAt(document, pointer))) as { name?: string };
  const fresh = freeId(document[part], id);
  return { pointer: `/${part}/${fresh}`, item: item.name === undefined ? item : { ...item, name: `${item.name || id} copy`.slice(0, 200) } }; // prettier-ignore
}
