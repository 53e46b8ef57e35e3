/**
 * Glass that is not what it is meant to be, by its mesh and its material: turned inside out, open, thin where it is thick,
 * bending too little or too much, swallowing a channel or everything on the way through. What is seen of it decides whether it
 * is told.
 */
import { luminance } from '../../data/colour.ts';
import { channel } from '../../data/picture.ts';
import type { MaterialSpec, ShotDocument } from '../../document/schema.ts';
import type { CauseId } from '../catalogue.ts';
import type { Case, RenderInput } from '../family.ts';
import { bodyOf, meshShape, type Body, type MeshShape } from '../mesh-shape.ts';
import { maskOf, regionOf } from '../regions.ts';

export type BodyFault = 'inverted' | 'sheet' | 'open' | 'flagged-thin' | 'index' | 'channel' | 'absorption';

export const CAUSE_OF_BODY: Record<BodyFault, CauseId> = {
  inverted: 'glass.normals-inverted',
  sheet: 'glass.thin-as-solid',
  open: 'glass.missing-second-face',
  'flagged-thin': 'glass.solid-as-thin',
  index: 'glass.ior-out-of-range',
  channel: 'glass.pure-channel-filter',
  absorption: 'glass.absorption-too-strong',
};

export interface BodyCase extends Case {
  kind: 'body';
  fault: BodyFault;
  document: ShotDocument;
  objects: string[];
  /** Keys of the objects and of their material. */
  ids: string[];
  material: string;
  /** Metres straight through the body, the mean; and its open edges. */
  thickness: number;
  openEdges: number;
  /** Share of the light that its inside lets through over that distance, luminance. */
  through: number;
}

interface Seen {
  id: string;
  object: number;
  pixels: number[];
  shape: MeshShape;
  body: Body;
  material: MaterialSpec;
}

/** Pixels below which it is no matter, and share of the light below the surface that goes through glass. */
const FEWEST = 40;
const GLASS = 0.5;
/** The mean way through a body that is thick all around, over its longest extent. */
const THICK = 0.3;
/** Indices between which clear solids lie: ice has 1.31, diamond 2.42. */
const [LOWEST, HIGHEST] = [1.2, 2.6];
/** A channel that is swallowed, and one beside it that is not. */
const [NONE, SOME] = [0.02, 0.2];
/** Light that gets through a body below which it reads as black. */
const BLACK = 0.02;

export function bodyCases(input: RenderInput): BodyCase[] {
  const { document, picture } = input;
  const bodies = bodiesOf(input);
  const cases = new Map<string, { fault: BodyFault; own: Seen[] }>();
  for (const body of bodies)
    for (const fault of faultsOf(document, body, bodies)) {
      const key = `${fault} ${document.objects[body.id].material}`;
      const group = cases.get(key) ?? { fault, own: [] };
      group.own.push(body);
      cases.set(key, group);
    }
  return [...cases].map(([key, { fault, own }]): BodyCase => {
    const mask = maskOf(picture, own.flatMap(({ pixels }) => pixels)); // prettier-ignore
    const { material } = document.objects[own[0].id];
    return {
      key: `glass.body ${key}`,
      kind: 'body',
      fault,
      // An index and a flag may be meant.
      severity: fault === 'index' || fault === 'flagged-thin' ? 'note' : 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['transmission.direct', 'transmission.indirect'],
      objects: own.map(({ id }) => document.objects[id].name || id),
      document,
      ids: own.map(({ id }) => id),
      material,
      thickness: Math.max(...own.map(({ body }) => body.chord)),
      openEdges: own.reduce((sum, { shape }) => sum + shape.openEdges, 0),
      through: Math.min(...own.map(throughOf)),
    };
  });
}

/** Glass that is seen. */
function bodiesOf({ document, scene, picture }: RenderInput): Seen[] {
  const pixels = new Map<number, number[]>();
  channel(picture, 'object').forEach((number, i) => {
    if (number === 0) return;
    const { transmission, metallic } = document.materials[document.objects[scene.objectIds[number - 1]].material];
    if (transmission < GLASS || metallic >= GLASS) return;
    if (!pixels.has(number)) pixels.set(number, []);
    pixels.get(number)!.push(i);
  });
  return [...pixels].flatMap(([number, own]) => {
    const id = scene.objectIds[number - 1];
    const shape = own.length < FEWEST ? null : meshShape(scene, number - 1);
    return shape ? [{ id, object: number - 1, pixels: own, shape, body: bodyOf(scene, number - 1), material: document.materials[document.objects[id].material] }] : []; // prettier-ignore
  });
}

function faultsOf({ objects }: ShotDocument, seen: Seen, all: Seen[]): BodyFault[] {
  const { shape, body, material } = seen;
  const { thin } = objects[seen.id];
  const faults: (BodyFault | false)[] = [
    !thin && shape.isInsideOut && !isHollow(seen, all) && 'inverted',
    !thin && !shape.isClosed && (body.isFlat ? 'sheet' : 'open'),
    thin && shape.isClosed && body.chord > THICK * longest(shape) && 'flagged-thin',
    // Air in glass has an index of 1 by right.
    !thin && (material.ior < LOWEST || material.ior > HIGHEST) && !isHollow(seen, all) && 'index',
    swallowsChannel(material) && 'channel',
    !thin && shape.isClosed && throughOf(seen) < BLACK && 'absorption',
  ];
  return faults.filter((fault) => fault !== false);
}

/** Whether it stands inside other glass: what is inside out there is the hollow of a vessel. */
const isHollow = ({ object, shape }: Seen, all: Seen[]): boolean =>
  all.some((other) => other.object !== object && shape.min.every((v, a) => v >= other.shape.min[a]) && shape.max.every((v, a) => v <= other.shape.max[a])); // prettier-ignore

function swallowsChannel({ baseColour, baseColourMap }: MaterialSpec): boolean {
  return baseColourMap === null && Math.min(...baseColour) <= NONE && Math.max(...baseColour) >= SOME;
}

const longest = ({ min, max }: MeshShape): number => Math.max(...min.map((v, a) => max[a] - v));

/** Beer–Lambert over the mean way through: the colour is what is left after the attenuation distance. */
function throughOf({ body, material }: Seen): number {
  const { attenuationColour, attenuationDistance } = material;
  if (attenuationDistance === null) return 1;
  const [r, g, b] = attenuationColour.map((c) => c ** (body.chord / attenuationDistance));
  return luminance(r, g, b);
}
