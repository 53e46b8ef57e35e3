/**
 * The controls of everything in a document but its sheets, read off its schema: what stands in a material, an
 * object or a light, with range, unit and help. A key that is added to the schema is a control at once.
 *
 * @example
 * for (const item of itemsOf(document)) for (const control of controlsOf(document, item)) show(control);
 */
import { BOUNDARY_RULES, UV_RULES } from '../data/subdivision-rules.ts';
import { isPlain, partOf, PLACEMENT_PARTS, type PlacementPart } from '../data/placement.ts';
import type { Transform } from '../data/transform.ts';
import type { ShotDocument } from './schema.ts';
import { Background, Environment, Fog, Light } from './schema/light.ts';
import { PreviewShadows } from './schema/preview-shadows.ts';
import { DISPLACEMENT_KINDS, MapSchemas, Material, OwnCoat } from './schema/surface.ts';
import { Camera, Group, SceneObject } from './schema/things.ts';

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
  exclusiveMinimum?: number;
  exclusiveMaximum?: number;
  pattern?: string;
  maxLength?: number;
  description?: string;
}

export interface Control {
  /** What tells it from all others: its pointer, and the part of a transform that it sets. */
  key: string;
  /** JSON pointer in the document. */
  pointer: string;
  /** Which part of the transform at `pointer` it sets, see `data/placement.ts`; null: the value itself. */
  part: PlacementPart | null;
  label: string;
  /** `numbers`: a few of them; `colour`: linear Rec.709; `list`: ids; `text`: JSON that is checked as a whole. */
  kind: 'number' | 'choice' | 'switch' | 'numbers' | 'colour' | 'list' | 'name' | 'text';
  min?: number;
  max?: number;
  whole?: boolean;
  /** What the arrow keys change it by. */
  step?: number;
  /** Digits after the point that are worth showing. */
  digits?: number;
  /** What the numbers are called, where they are axes. */
  axes?: readonly string[];
  /** The value may be absent. */
  optional: boolean;
  choices?: string[];
  /** What each choice means, where its name is a token of a standard. */
  told?: Readonly<Record<string, string>>;
  /** It decides something only where another control stands at one of these. */
  when?: { pointer: string; is: readonly string[] };
  /** Read off the help, which begins with or names it; empty for plain numbers. */
  unit: string;
  help: string;
  value: unknown;
}

export interface Item {
  /** JSON pointer of the item. */
  pointer: string;
  group: 'Shot' | 'Cameras' | 'Lights' | 'Environment' | 'Materials' | 'Maps' | 'Coats' | 'Groups' | 'Objects';
  id: string;
  name: string;
}

export function itemsOf(document: ShotDocument): Item[] {
  const named = (
    group: Item['group'],
    part: 'cameras' | 'lights' | 'materials' | 'maps' | 'coats' | 'groups' | 'objects',
  ): Item[] =>
    Object.entries(document[part]).map(([id, item]) => ({
      pointer: `/${part}/${id}`,
      group,
      id,
      name: ('name' in item && item.name) || id,
    }));
  const single = (id: 'environment' | 'background' | 'fog' | 'previewShadows', name: string): Item => ({
    pointer: `/${id}`,
    group: id === 'previewShadows' ? 'Shot' : 'Environment',
    id,
    name,
  });
  return [
    { pointer: '/frame', group: 'Shot', id: 'frame', name: 'frame and camera' },
    ...(document.previewShadows ? [single('previewShadows', 'preview shadows')] : []),
    ...named('Cameras', 'cameras'),
    ...named('Lights', 'lights'),
    single('environment', 'environment'),
    ...(document.background ? [single('background', 'view background')] : []),
    ...(document.fog ? [single('fog', 'fog')] : []),
    ...named('Materials', 'materials'),
    ...named('Maps', 'maps'),
    ...named('Coats', 'coats'),
    ...named('Groups', 'groups'),
    ...named('Objects', 'objects'),
  ];
}

export function controlsOf(document: ShotDocument, { pointer }: Pick<Item, 'pointer'>): Control[] {
  const [, part, id] = pointer.split('/');
  if (part === 'frame' || part === 'camera') return shotControls(document);
  const value = (id === undefined ? document[part as 'fog'] : document[part as 'lights'][id]) as Record<
    string,
    unknown
  >;
  const schema = schemaOf(part, value);
  return schema ? walk(document, schema, value, pointer, '') : [];
}

/** The control of a pointer and the item that it is of; null where the document has none such. */
export function controlAt(document: ShotDocument, pointer: string): { item: Item; control: Control } | null {
  for (const item of itemsOf(document)) {
    if (!pointer.startsWith(item.pointer)) continue;
    const control = controlsOf(document, item).find((one) => one.pointer === pointer && one.part === null);
    if (control) return { item, control };
  }
  return null;
}

/** Which frame is rendered, and through which camera. */
function shotControls(document: ShotDocument): Control[] {
  const { frame, camera, cameras } = document;
  return [
    {
      key: '/frame', pointer: '/frame', part: null, label: 'Frame', kind: 'number', min: -1e6, max: 1e7, whole: true, step: 1,
      optional: false, unit: '', help: 'frame number; what moves stands where its keys put it then', value: frame,
    },
    {
      key: '/camera', pointer: '/camera', part: null, label: 'Camera', kind: 'choice', choices: Object.keys(cameras),
      optional: false, unit: '', help: 'the camera that is rendered', value: camera,
    },
  ]; // prettier-ignore
}

function schemaOf(part: string, value: Record<string, unknown>): Node | null {
  switch (part) {
    case 'cameras':
      return Camera as Node;
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
    case 'groups':
      return Group as Node;
    case 'environment':
      return Environment as Node;
    case 'background':
      return Background as Node;
    case 'previewShadows':
      return PreviewShadows as Node;
    default:
      return Fog as Node;
  }
}

const variant = ({ anyOf }: Node, { kind }: Record<string, unknown>): Node | null =>
  anyOf!.find((node) => node.properties?.kind?.const === kind) ?? null;

/** Keys that are not set by hand: what something is, and where a scene program put it. */
const FIXED = new Set(['kind', 'keys', 'mesh', 'object', 'file', 'item', 'override', 'box']);

/** Names of the trade where the words of the keys make none, by keys from the item on. */
const LABELS: Record<string, string> = {
  ior: 'Index of refraction',
  fieldOfView: 'Angle of view',
  near: 'Near plane',
  far: 'Far plane',
  fStop: 'F-number',
  uvSet: 'UV set',
  stops: 'Gradient stops',
  'daylight/elevation': 'Sun elevation',
  'daylight/azimuth': 'Sun azimuth',
  'daylight/turbidity': 'Turbidity',
  'daylight/groundAlbedo': 'Ground albedo',
  'daylight/sun': 'Sun disc',
  'lights/mode': 'Light linking',
  'lights/objects': 'Linked objects',
  'shadowsOf/mode': 'Shadow linking',
  'shadowsOf/objects': 'Shadow-linked objects',
  'subdivision/level': 'Subdivision levels',
  'subdivision/edgePixels': 'Longest edge',
  'subdivision/boundary': 'Subdivided boundary',
  'subdivision/uvs': 'UV interpolation',
  camera: 'Visible to camera',
  'visibility/camera': 'Visible to camera',
  'visibility/shadow': 'Visible to shadow rays',
  'visibility/diffuse': 'Visible to diffuse rays',
  'visibility/specular': 'Visible to specular rays',
  'visibility/transmission': 'Visible to transmission rays',
  'visibility/occlusion': 'Visible to occlusion rays',
  'reach/distance': 'Reach',
  'reach/bounces': 'Reach in bounces',
};

/** What tokens of standards mean, by keys from the item on. */
const TOLD: Record<string, Readonly<Record<string, string>>> = {
  displacementKind: DISPLACEMENT_KINDS,
  'subdivision/boundary': BOUNDARY_RULES,
  'subdivision/uvs': UV_RULES,
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
    if (key === 'transform') return placementControls(at, value);
    if (node.properties) return walk(document, node, value[key] as Record<string, unknown>, at, path);
    const label = LABELS[path] ?? path.split('/').map(wordsOf).join(' ').replace(/ [A-Z]/g, (one) => one.toLowerCase()); // prettier-ignore
    const control = controlOf(document, node, key);
    return control
      ? [
          {
            ...control,
            ...whenOf(path, pointer),
            ...(TOLD[path] ? { told: TOLD[path] } : {}),
            key: at,
            pointer: at,
            part: null,
            label,
            ...helpOf(node),
            value: value[key],
          },
        ]
      : [];
  });
}

/** Kinds of sky that a control of it means anything for, by its keys. */
const SKIES: Record<string, readonly string[]> = {
  stops: ['gradient'],
  texture: ['image'],
  rotation: ['image', 'daylight'],
};

/** Filters of depth maps that a setting of them means anything for. */
const MAP_FILTERS: Record<string, readonly string[]> = {
  softness: ['percentage-closer', 'variance', 'exponential'],
  exponent: ['exponential'],
  leakCut: ['variance'],
};

function whenOf(path: string, pointer: string): Pick<Control, 'when'> {
  if (pointer === '/previewShadows')
    return MAP_FILTERS[path] ? { when: { pointer: '/previewShadows/filter', is: MAP_FILTERS[path] } } : {};
  if (path === 'displacementDetail') return { when: { pointer: `${pointer}/displacementKind`, is: ['height'] } };
  const [, sky] = /^\/(environment|background)(\/|$)/.exec(pointer) ?? [];
  const is = sky && (path.startsWith('daylight/') ? ['daylight'] : SKIES[path]);
  return is ? { when: { pointer: `/${sky}/kind`, is } } : {};
}

const AXES = ['X', 'Y', 'Z'] as const;
const BOUND = 1e9;
/** How parts of a transform are set; angles about axes and where a sun stands turn round and round. */
const PLACEMENTS: Record<PlacementPart, Pick<Control, 'label' | 'kind' | 'min' | 'max' | 'step' | 'digits' | 'unit' | 'help'>> = {
  elevation: { label: 'Elevation', kind: 'number', min: -90, max: 90, step: 1, digits: 3, unit: '°', help: 'height of the sun above the horizon, degrees' },
  azimuth: { label: 'Azimuth', kind: 'number', min: 0, max: 360, step: 1, digits: 3, unit: '°', help: 'direction of the sun, degrees from north (−Z) towards east (+X)' },
  position: { label: 'Position', kind: 'numbers', min: -BOUND, max: BOUND, step: 0.1, unit: 'm', help: 'metres in the world' },
  rotation: { label: 'Rotation', kind: 'numbers', min: -360, max: 360, step: 1, unit: '°', help: 'degrees about X, Y and Z, applied Z first, then X, then Y' },
  scale: { label: 'Scale', kind: 'numbers', min: -BOUND, max: BOUND, step: 0.05, unit: '', help: 'scale factors along its own axes; a negative one mirrors' },
}; // prettier-ignore

/** What of a transform means anything for the item it is of: a sun stands nowhere, and lights and cameras have no scale. */
function placementParts({ kind, cone, fieldOfView }: Record<string, unknown>): readonly PlacementPart[] {
  if (kind === 'distant') return ['elevation', 'azimuth'];
  if (kind === 'mesh') return [];
  if (kind === 'point' && cone === undefined) return ['position'];
  return fieldOfView !== undefined || kind !== undefined ? ['position', 'rotation'] : ['position', 'rotation', 'scale'];
}

/** Controls of a transform; of one that is sheared the position alone, for it has no rotation and scale that make it. */
function placementControls(pointer: string, item: Record<string, unknown>): Control[] {
  const transform = item.transform as Transform;
  const parts = placementParts(item);
  return PLACEMENT_PARTS.filter((part) => parts.includes(part) && (part === 'position' || isPlain(transform))).map((part) => ({
    ...PLACEMENTS[part],
    key: `${pointer}#${part}`,
    pointer,
    part,
    ...(PLACEMENTS[part].kind === 'numbers' ? { axes: AXES } : {}),
    optional: false,
    value: partOf(transform, part),
  })); // prettier-ignore
}

/** Keys whose three numbers are a colour. */
const COLOURS = /colour$|^emission$/i;

/** How far inside of a bound that it may not reach a number is kept. */
const INSIDE = 1e-3;

type Shape = Pick<Control, 'kind' | 'min' | 'max' | 'whole' | 'optional' | 'choices'>;

function controlOf(document: ShotDocument, node: Node, key: string): Shape | null {
  if (node.anyOf) {
    const some = node.anyOf.filter((n) => n.type !== 'null');
    if (some.every((n) => n.const !== undefined))
      return { kind: 'choice', optional: false, choices: some.map((n) => String(n.const)) };
    const inner = some.length === 1 ? controlOf(document, some[0], key) : null;
    return inner && { ...inner, optional: true };
  }
  const { exclusiveMinimum: above, exclusiveMaximum: below } = node;
  const {
    minimum: min = above === undefined ? above : above + INSIDE,
    maximum: max = below === undefined ? below : below - INSIDE,
  } = node;
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

const UNITS = /millimetres|W\/\(sr m²\)|W\/sr|W\/m²|1\/m|metres|degrees|pixels/;

const UNIT_SIGNS: Record<string, string> = { millimetres: 'mm', metres: 'm', degrees: '°' };

/** Angles are turned degree by degree, wherever they stand. */
function helpOf({ description = '' }: Node): Pick<Control, 'unit' | 'help' | 'step' | 'digits'> {
  const found = UNITS.exec(description)?.[0] ?? '';
  const unit = UNIT_SIGNS[found] ?? found;
  return { unit, help: description, ...(unit === '°' ? { step: 1, digits: 3 } : {}) };
}

/** Keys that name an item, and the part of the document it stands in. */
const REFERENCES: Record<string, 'maps' | 'coats' | 'materials' | 'textures'> = {
  baseColourMap: 'maps',
  metallicMap: 'maps',
  roughnessMap: 'maps',
  normalMap: 'maps',
  bumpMap: 'maps',
  displacementMap: 'maps',
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
