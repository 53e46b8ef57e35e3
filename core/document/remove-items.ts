/**
 * Items taken out of a document, and with them what refers to them: links no longer name an object that is gone, and its mesh
 * light goes along. What cannot be without them keeps them there.
 *
 * @example
 * usersOf(document, '/objects/jar-4');        // [{ pointer: '/lights/sun/shadowsOf', told: 'sun no longer links it' }]
 * const patch = removalPatch(document, ['/objects/jar-4']);
 */
import type { JsonPatch } from './patch.ts';
import { valueAt } from './patch.ts';
import { MAP_SLOTS } from './check-references.ts';
import { InvalidInput } from './problem.ts';
import type { ShotDocument } from './schema.ts';

/** What can be added to a document and taken out of it, by the word for one. */
export const REMOVABLE = {
  cameras: 'camera',
  lights: 'light',
  objects: 'object',
  groups: 'group',
  materials: 'material',
  maps: 'map',
  textures: 'texture',
  coats: 'coat',
} as const;
type Part = keyof typeof REMOVABLE;

export interface User {
  /** Where the reference stands. */
  pointer: string;
  /** What becomes of it, or, where it holds the item in place, why. */
  told: string;
  /** It cannot do without. */
  holds: boolean;
}

interface Linked {
  pointer: string;
  name: string;
  objects: string[];
}

function linksOf(document: ShotDocument): Linked[] {
  const emitters = [
    ...Object.entries(document.lights).map(([id, light]) => ({ at: `/lights/${id}`, name: light.name || id, light })),
    { at: '/environment', name: 'the environment', light: document.environment },
  ];
  return emitters.flatMap(({ at, name, light }) =>
    (['lights', 'shadowsOf'] as const).map((key) => ({ pointer: `${at}/${key}/objects`, name, objects: light[key].objects })),
  ); // prettier-ignore
}

/** What refers to an item, in words. Empty: it can go without anything else changing. */
export function usersOf(document: ShotDocument, pointer: string): User[] {
  const [, part, id] = pointer.split('/') as [string, Part, string];
  const users: User[] = [];
  const tell = (at: string, told: string, holds = false) => users.push({ pointer: at, told, holds });
  if (part === 'cameras') {
    if (Object.keys(document.cameras).length === 1) tell('/camera', 'the shot has no other camera', true);
    else if (document.camera === id) tell('/camera', `the shot looks through ${nextCamera(document, id)} then`);
  }
  if (part === 'objects') {
    for (const [light, spec] of Object.entries(document.lights))
      if (spec.kind === 'mesh' && spec.object === id) tell(`/lights/${light}`, `its light ${spec.name || light} goes along`);
    for (const { pointer: at, name, objects } of linksOf(document))
      if (objects.includes(id)) tell(at, `${name} no longer links it`);
    for (const [group, { name, objects }] of Object.entries(document.groups))
      if (objects.includes(id)) tell(`/groups/${group}/objects`, `group ${name || group} no longer has it`);
  } // prettier-ignore
  if (part === 'materials')
    for (const [object, spec] of Object.entries(document.objects))
      if (spec.material === id) tell(`/objects/${object}/material`, `${spec.name || object} is made of it`, true);
  if (part === 'maps' || part === 'coats')
    for (const [material, spec] of Object.entries(document.materials))
      for (const slot of part === 'coats' ? (['coat'] as const) : MAP_SLOTS)
        if (spec[slot] === id) tell(`/materials/${material}/${slot}`, `${spec.name || material} does without it`);
  if (part === 'textures') {
    for (const [map, spec] of Object.entries(document.maps))
      if (spec.kind === 'image' && spec.texture === id) tell(`/maps/${map}/texture`, `map ${spec.name || map} shows it`, true);
    for (const sky of ['environment', 'background'] as const)
      if (document[sky]?.texture === id) tell(`/${sky}/texture`, `the ${sky} shows it`, document[sky].kind === 'image');
  } // prettier-ignore
  return users;
}

const nextCamera = ({ cameras }: ShotDocument, gone: string): string => Object.keys(cameras).find((id) => id !== gone)!;

/**
 * The patch that takes items out, and what refers to them with them.
 * @throws InvalidInput naming what an item is needed by, or an item that is not there
 */
export function removalPatch(document: ShotDocument, pointers: string[]): JsonPatch {
  const patch: JsonPatch = [];
  const gone = new Set(pointers);
  const replaced = new Map<string, unknown>();
  for (const pointer of pointers) {
    const [, part] = pointer.split('/');
    if (!(part in REMOVABLE))
      throw new InvalidInput('patch', [{ path: pointer, value: pointer, expected: `one of ${Object.keys(REMOVABLE).join(', ')}` }]); // prettier-ignore
    const item = valueAt(document, pointer);
    for (const user of usersOf(document, pointer)) {
      if (user.holds && ![...gone].some((other) => user.pointer.startsWith(`${other}/`)))
        throw new InvalidInput('patch', [{ path: pointer, value: pointer.split('/')[2], expected: `nothing that needs it: ${user.told}` }]); // prettier-ignore
      if (user.pointer === '/camera') replaced.set('/camera', nextCamera(document, pointer.split('/')[2]));
      else if (/^\/lights\/[^/]+$/.test(user.pointer)) gone.add(user.pointer);
      else if (user.pointer.endsWith('/objects')) {
        const list = (replaced.get(user.pointer) ?? valueAt(document, user.pointer)) as string[];
        replaced.set(user.pointer, list.filter((one) => one !== pointer.split('/')[2])); // prettier-ignore
      } else if (!user.holds) replaced.set(user.pointer, null);
    }
    patch.push({ op: 'test', path: pointer, value: item }, { op: 'remove', path: pointer });
  }
  for (const light of gone)
    if (!pointers.includes(light)) patch.push({ op: 'test', path: light, value: valueAt(document, light) }, { op: 'remove', path: light }); // prettier-ignore
  const changed = [...replaced].filter(([at]) => ![...gone].some((item) => at.startsWith(`${item}/`)));
  return [
    ...changed.flatMap(([path, value]): JsonPatch => [
      { op: 'test', path, value: valueAt(document, path) },
      { op: 'replace', path, value },
    ]),
    ...patch,
  ];
}
