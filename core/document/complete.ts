/**
 * Writes out what a document leaves unsaid, so that what is stored is complete and every control has a
 * JSON pointer that a patch can test.
 *
 * @example
 * completeDocument({ materials: { tin: { metallic: 1 } } });   // … roughness 0.5, ior 1.5 and so on
 */
import {
  defaultBackground,
  defaultCamera,
  defaultCoat,
  defaultEnvironment,
  defaultFog,
  defaultLight,
  defaultMap,
  defaultMaterial,
  defaultObject,
  defaultPreviewShadows,
  defaultSheet,
  LIGHT_KINDS,
  MAP_KINDS,
} from './defaults.ts';
import type { LightSpec, MapSpec } from './schema.ts';

type Plain = Record<string, unknown>;

/** Leaves what is not an object of the expected kind as it is: validation tells what is wrong with it. */
export function completeDocument(value: unknown): unknown {
  if (!isPlain(value)) return value;
  const sheets = value.sheets;
  return {
    maps: {},
    coats: {},
    meshes: {},
    textures: {},
    materials: {},
    objects: {},
    groups: {},
    lights: {},
    frame: 1,
    ...value,
    ...each(value, 'cameras', (item) => fill(defaultCamera(), item)),
    ...each(value, 'maps', completeMap),
    ...each(value, 'coats', completeCoat),
    ...each(value, 'materials', (item) => fill(defaultMaterial(), item)),
    ...each(value, 'objects', (item) => fill(defaultObject(), item)),
    ...each(value, 'groups', (item) => fill({ name: '', objects: [] }, item)),
    ...each(value, 'lights', completeLight),
    environment: value.environment === undefined ? defaultEnvironment() : fill(defaultEnvironment(), value.environment),
    background: value.background === undefined ? null : fill(defaultBackground(), value.background),
    fog: value.fog === undefined ? null : fill(defaultFog(), value.fog),
    previewShadows: value.previewShadows === undefined ? null : fill(defaultPreviewShadows(), value.previewShadows),
    ...(isPlain(sheets)
      ? {
          sheets: Object.fromEntries(
            Object.entries(sheets).map(([name, sheet]) => [name, fill(defaultSheet(), sheet)]),
          ),
        }
      : {}),
  };
}

/** The same for a file of shared fragments. */
export function completeFragments(value: unknown): unknown {
  if (!isPlain(value)) return value;
  return {
    textures: {},
    maps: {},
    coats: {},
    ...value,
    ...each(value, 'maps', completeMap),
    ...each(value, 'coats', completeCoat),
  };
}

export function completeMap(item: unknown): unknown {
  if (!isPlain(item)) return item;
  if (item.kind === 'shared') return fill({ override: {} }, item);
  return MAP_KINDS.includes(item.kind as MapSpec['kind']) ? fill(defaultMap(item.kind as MapSpec['kind']), item) : item;
}

export function completeCoat(item: unknown): unknown {
  if (!isPlain(item)) return item;
  return item.kind === 'shared' ? fill({ override: {} }, item) : fill(defaultCoat(), item);
}

function completeLight(item: unknown): unknown {
  if (!isPlain(item) || !LIGHT_KINDS.includes(item.kind as LightSpec['kind'])) return item;
  return fill(defaultLight(item.kind as LightSpec['kind']), item);
}

function each(document: Plain, key: string, complete: (item: unknown) => unknown): Plain {
  const map = document[key];
  if (!isPlain(map)) return {};
  return { [key]: Object.fromEntries(Object.entries(map).map(([id, item]) => [id, complete(item)])) };
}

/** `value` over `defaults`, group by group. */
function fill(defaults: object, value: unknown): unknown {
  if (!isPlain(value)) return value;
  const out: Plain = { ...(defaults as Plain) };
  for (const [key, own] of Object.entries(value)) {
    const unsaid = (defaults as Plain)[key];
    out[key] = isPlain(unsaid) && isPlain(own) ? fill(unsaid, own) : own;
  }
  return out;
}

const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
