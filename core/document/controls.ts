/**
 * The controls of everything in a document but its sheets, read off its schema: what stands in a material, an
 * object or a light, with range, unit and help. A key that is added to the schema is a control at once.
 *
 * @example
 * for (const item of itemsOf(document)) for (const control of controlsOf(document, item)) show(control);
 */
import type { ShotDocument } from './schema.ts';
import { Background, Environment, Fog, Light } from './schema/light.ts';
import { MapSchemas, Material, OwnCoat } from './schema/surface.ts';
import { SceneObject } from './schema/things.ts';

/** The parts of JSON schema that our schemas are made of. */
interface Node {
  type?: string;
  const?: unknown;
  anyOf?: Node[];
  properties?: Record<string, Node>;
  items?: Node;
  minItems?: number;
  maxItems?: number;
  minimum?: number;
  maximum?: number;
  pattern?: string;
  maxLength?: number;
  description?: string;
}

export interface Control {
  /** JSON pointer in the document. */
  pointer: string;
  label: string;
  /** `numbers`: a few of them; `colour`: linear Rec.709; `list`: ids; `text`: JSON that is checked as a whole. */
  kind: 'number' | 'choice' | 'switch' | 'numbers' | 'colour' | 'list' | 'name' | 'text';
  min?: number;
  max?: number;
  whole?: boolean;
  /** The value may be absent. */
  optional: boolean;
  choices?: string[];
  /** Read off the help, which begins with or names it; empty for plain numbers. */
  unit: string;
  help: string;
  value: unknown;
}

export interface Item {
  /** JSON pointer of the item. */
  pointer: string;
  group: 'Lights' | 'Environment' | 'Materials' | 'Maps' | 'Coats' | 'Objects';
  id: string;
  name: string;
}

export function itemsOf(document: ShotDocument): Item[] {
  const named = (group: Item['group'], part: 'lights' | 'materials' | 'maps' | 'coats' | 'objects'): Item[] =>
    Object.entries(document[part]).map(([id, item]) => ({
      pointer: `/${part}/${id}`,
      group,
      id,
      name: ('name' in item && item.name) || id,
    }));
  const single = (id: 'environment' | 'background' | 'fog', name: string): Item => ({
    pointer: `/${id}`,
    group: 'Environment',
    id,
    name,
  });
  return [
    ...named('Lights', 'lights'),
    single('environment', 'environment'),
    ...(document.background ? [single('background', 'view background')] : []),
    ...(document.fog ? [single('fog', 'fog')] : []),
    ...named('Materials', 'materials'),
    ...named('Maps', 'maps'),
    ...named('Coats', 'coats'),
    ...named('Objects', 'objects'),
  ];
}

export function controlsOf(document: ShotDocument, { pointer }: Pick<Item, 'pointer'>): Control[] {
  const [, part, id] = pointer.split('/');
  const value = (id === undefined ? document[part as 'fog'] : document[part as 'lights'][id]) as Record<
    string,
    unknown
  >;
  const schema = schemaOf(part, value);
  return schema ? walk(document, schema, value, pointer, '') : [];
}

function schemaOf(part: string, value: Record<string, unknown>): Node | null {
  switch (part) {
    case 'lights':
      return variant(Light as Node, value);
    case 'maps':
      return variant({ anyOf: [...MapSchemas] as unknown as Node[] }, value);
    case 'coats':
      return value.kind === 'shared' ? null : (OwnCoat as Node);
    case 'materials':
      return Material as Node;
    case 'objects':
      return SceneObject as Node;
    case 'environment':
      return Environment as Node;
    case 'background':
      return Background as Node;
    default:
      return Fog as Node;
  }
}

const variant = ({ anyOf }: Node, { kind }: Record<string, unknown>): Node | null =>
  anyOf!.find((node) => node.properties?.kind?.const === kind) ?? null;

/** Keys that are not set by hand: what something is, and where a scene program put it. */
const FIXED = new Set(['kind', 'transform', 'keys', 'mesh', 'object', 'file', 'item', 'override', 'box']);

/** Names of the trade where the words of the keys make none, by keys from the item on. */
const LABELS: Record<string, string> = {
  ior: 'Index of refraction',
  uvSet: 'UV set',
  stops: 'Gradient stops',
  'lights/mode': 'Light linking',
  'lights/objects': 'Linked objects',
  'shadowsOf/mode': 'Shadow linking',
  'shadowsOf/objects': 'Shadow-linked objects',
  'visibility/camera': 'Visible to camera',
  'visibility/shadow': 'Visible to shadow rays',
  'visibility/diffuse': 'Visible to diffuse rays',
  'visibility/specular': 'Visible to specular rays',
  'visibility/transmission': 'Visible to transmission rays',
  'visibility/occlusion': 'Visible to occlusion rays',
  'reach/distance': 'Reach',
  'reach/bounces': 'Reach in bounces',
};

/** @param prefix keys from the item to `schema`, with slashes between */
function walk(
  document: ShotDocument,
  schema: Node,
  value: Record<string, unknown>,
  pointer: string,
  prefix: string,
): Control[] {
  return Object.entries(schema.properties ?? {}).flatMap(([key, node]): Control[] => {
    // The kind of sky is a choice, unlike that of a light.
    if (FIXED.has(key) && node.anyOf === undefined) return [];
    if (FIXED.has(key) && key !== 'kind') return [];
    const at = `${pointer}/${key}`;
    const path = prefix === '' ? key : `${prefix}/${key}`;
    if (node.properties) return walk(document, node, value[key] as Record<string, unknown>, at, path);
    const label = LABELS[path] ?? path.split('/').map(wordsOf).join(' ').replace(/ [A-Z]/g, (one) => one.toLowerCase()); // prettier-ignore
    const control = controlOf(document, node, key);
    return control ? [{ ...control, pointer: at, label, ...helpOf(node), value: value[key] }] : [];
  });
}

/** Keys whose three numbers are a colour. */
const COLOURS = /colour$|^emission$/i;

type Shape = Pick<Control, 'kind' | 'min' | 'max' | 'whole' | 'optional' | 'choices'>;

function controlOf(document: ShotDocument, node: Node, key: string): Shape | null {
  if (node.anyOf) {
    const some = node.anyOf.filter((n) => n.type !== 'null');
    if (some.every((n) => n.const !== undefined))
      return { kind: 'choice', optional: false, choices: some.map((n) => String(n.const)) };
    const inner = some.length === 1 ? controlOf(document, some[0], key) : null;
    return inner && { ...inner, optional: true };
  }
  const { minimum: min, maximum: max } = node;
  switch (node.type) {
    case 'number':
    case 'integer':
      return { kind: 'number', optional: false, min, max, whole: node.type === 'integer' };
    case 'boolean':
      return { kind: 'switch', optional: false };
    case 'string': {
      const part = REFERENCES[key];
      if (part) return { kind: 'choice', optional: false, choices: Object.keys(document[part]) };
      return { kind: 'name', optional: false };
    }
    case 'array':
      if (node.items?.type === 'number')
        return {
          kind: COLOURS.test(key) ? 'colour' : 'numbers',
          optional: false,
          min: node.items.minimum,
          max: node.items.maximum,
        };
      if (node.items?.type === 'string')
        return { kind: 'list', optional: false, choices: Object.keys(document.objects) };
      return { kind: 'text', optional: false };
    default:
      return null;
  }
}

const UNITS = /W\/\(sr m²\)|W\/sr|W\/m²|1\/m|metres|degrees|pixels/;

function helpOf({ description = '' }: Node): { unit: string; help: string } {
  const unit = UNITS.exec(description)?.[0] ?? '';
  return { unit: unit === 'metres' ? 'm' : unit === 'degrees' ? '°' : unit, help: description };
}

/** Keys that name an item, and the part of the document it stands in. */
const REFERENCES: Record<string, 'maps' | 'coats' | 'materials' | 'textures'> = {
  baseColourMap: 'maps',
  metallicMap: 'maps',
  roughnessMap: 'maps',
  normalMap: 'maps',
  bumpMap: 'maps',
  alphaMap: 'maps',
  emissionMap: 'maps',
  coat: 'coats',
  material: 'materials',
  texture: 'textures',
};

/** "castsShadows" → "Casts shadows". */
function wordsOf(key: string): string {
  const words = key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
  return words[0].toUpperCase() + words.slice(1);
}
