/** Displaced objects that are moved too far, too little, all to one side, through themselves, or by a mesh that cannot carry the map. */
import { channel } from '../../data/picture.ts';
import { KeptParts } from '../../geometry/kept-parts.ts';
import { objectIds, objectNumber } from '../../document/object-names.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { studyRelief, type ReliefStudy } from '../../relief/study.ts';
import { viewOf } from '../../render/scene/view.ts';
import { wornShapes } from '../../seams/worn-shapes.ts';
import type { CauseId } from '../catalogue.ts';
import type { Case, RenderInput } from '../family.ts';
import { levelFor, scaleFor, scaleUp } from './proposed.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface ReliefCase extends Case {
  cause: CauseId;
  document: ShotDocument;
  id: string;
  name: string;
  material: string;
  study: ReliefStudy;
  /** Of the sheet: levels that objects have at most. */
  most: number | null;
  /** What its figure comes to, by cause: a scale, a level of the map, a level of subdivision. */
  proposed: number;
}

/** Pixels of an object below which it is no matter. */
const FEWEST = 40;
/** Times its area, and parts of its size, from which on an object is blown up by its map. */
const [STRETCHED, BLOWN] = [4, 0.5];
/** Share of what moves most that goes through the object. */
const THROUGH = 0.1;
/** Pixels, and parts of the size, below which a relief does nothing. */
const [UNSEEN, TINY] = [0.25, 1 / 2000];
/** Of the amplitude, and pixels, by which all of a surface is off. */
const [SHIFTED, PIXEL] = [0.1, 1];
/** Shares of a relief: less is lost, more is all of it. */
const [LOST, ALL] = [0.5, 0.95];
/** Times the farthest that a bound is proposed. */
const ROOM = 1.1;
/** Share of a relief that a bound cuts off, and pixels of what it cuts, from which on it is seen. */
const [CUT, STEP] = [0.01, 0.5];
/** Pixels of an edge from which on its facets are seen, and below which nobody sees any. */
const [SEEN, FINER] = [1.5, 0.5];
/** Triangles from which on too many are a matter. */
const MANY = 200_000;
/** Pixels of a bump map’s depth from which on its outline is missed. */
const DEEP = 3;
/** Of the size: deeper ones are no relief but a bump map that is too strong. */
const TOO_DEEP = 0.3;
export function reliefCases(rendered: RenderInput): ReliefCase[] {
  const { document, assets, sheet, scene } = rendered;
  const view = viewOf(scene, sheet);
  const kept = new KeptParts();
  const study = (of: ShotDocument, isWanted: (id: string) => boolean) =>
    wornShapes({ document: of, assets, sheet, kept }, isWanted).flatMap((shape) => (shape.relief.kind === 'height' ? (studyRelief(shape, of, assets, view) ?? []) : [])); // prettier-ignore
  const isFirst = oneOfEach(rendered);
  const moved = study(document, isFirst);
  const bumped = withBumpsRaised(document);
  const bumps = bumped.ids.length ? study(bumped.document, (id) => bumped.ids.includes(id) && isFirst(id)) : [];
  return [
    ...moved.flatMap((one) => faultsOf(rendered, one)),
    ...bumps.filter(({ amplitude, pixel, size }) => amplitude >= DEEP * pixel && amplitude <= TOO_DEEP * size).map((one) => caseOf(rendered, one, 'displacement.bump-in-its-place', levelFor(one))), // prettier-ignore
  ];
}

/** Objects that are seen; of those that have mesh, material and subdivision alike the one that fills most of the picture. */
function oneOfEach({ document, picture }: RenderInput): (id: string) => boolean {
  const pixels = new Map<number, number>();
  for (const object of channel(picture, 'object')) pixels.set(object, (pixels.get(object) ?? 0) + 1);
  const best = new Map<string, { id: string; pixels: number }>();
  objectIds(document).forEach((id, n) => {
    const { mesh, material, subdivision } = document.objects[id];
    const key = JSON.stringify([mesh, material, subdivision]);
    const own = pixels.get(n + 1) ?? 0;
    if (own >= FEWEST && own > (best.get(key)?.pixels ?? 0)) best.set(key, { id, pixels: own });
  });
  const chosen = new Set([...best.values()].map(({ id }) => id));
  return (id) => chosen.has(id);
}

function faultsOf(rendered: RenderInput, study: ReliefStudy): ReliefCase[] {
  const { map, amplitude, beyond, size, stretch, through, pixel, shape, level, levels } = study;
  const told = (cause: CauseId, proposed: number) => [caseOf(rendered, study, cause, proposed)];
  const { rest, scale, bound } = shape.relief;
  if (map.high === map.low) return [];
  const isOff = map.flat !== null && Math.abs(map.flat.value - rest) * Math.abs(scale) >= Math.max(SHIFTED * amplitude, PIXEL * pixel);
  if (stretch >= STRETCHED || amplitude >= BLOWN * size) return told('displacement.scale-too-large', scaleFor(study));
  if (beyond.share >= CUT && beyond.farthest - bound >= STEP * pixel && beyond.farthest < BLOWN * size) return told('displacement.bounds-too-small', +(beyond.farthest * ROOM).toPrecision(2));
  const rests = isOff ? told('displacement.rest-level', map.rest) : [];
  if (through.share >= THROUGH && !isOff) return told('displacement.self-intersecting', scaleFor(study));
  if (amplitude < UNSEEN * pixel && amplitude < TINY * size) return [...rests, ...told('displacement.scale-too-small', scaleUp(study))];
  const now = levels[level] as (typeof levels)[number] | undefined;
  const clipped = study.cut ? told('displacement.clipped-range', 0) : [];
  if (!now || now.carried === null) return [...rests, ...clipped];
  // Shaded as a bump, it is missed at outlines alone.
  const missed = shape.relief.detail ? DEEP : PIXEL;
  if (now.carried < LOST && now.pixels >= SEEN && amplitude >= missed * pixel) return [...rests, ...clipped, ...told('displacement.too-little-geometry', levelFor(study))];
  const isMore = level > 0 && now.triangles >= MANY && now.pixels < FINER && (levels[level - 1].carried ?? 0) >= ALL;
  return [...rests, ...clipped, ...(isMore ? told('displacement.too-much-geometry', levelFor(study)) : [])];
} // prettier-ignore

function caseOf({ document, picture, sheet }: RenderInput, study: ReliefStudy, cause: CauseId, proposed: number): ReliefCase {
  const { id } = study.shape;
  const number = objectNumber(document, id);
  const objects = channel(picture, 'object');
  const mask = maskOf(picture, [...objects.keys()].filter((i) => objects[i] === number));
  return {
    key: `${cause} ${id}`,
    severity: cause === 'displacement.too-much-geometry' || cause === 'displacement.clipped-range' ? 'note' : 'caution',
    region: regionOf(picture, mask),
    mask,
    passes: ['beauty', 'normal'],
    objects: [document.objects[id].name || id],
    cause,
    document,
    id,
    name: document.objects[id].name || id,
    material: document.objects[id].material,
    study,
    most: sheet.mostSubdivision,
    proposed,
  };
} // prettier-ignore

/** The shot with bump maps as displacement, where nothing else moves the surface. */
function withBumpsRaised(document: ShotDocument): { document: ShotDocument; ids: string[] } {
  const raised = Object.entries(document.materials).flatMap(([id, material]) =>
    material.bumpMap !== null && material.displacementMap === null && material.bumpDepth !== 0
      ? [[id, { ...material, displacementMap: material.bumpMap, displacementScale: material.bumpDepth, displacementRest: 0 }] as const]
      : [],
  );
  const materials = { ...document.materials, ...Object.fromEntries(raised) };
  const ids = Object.entries(document.objects).flatMap(([id, { material }]) => (raised.some(([own]) => own === material) ? [id] : []));
  return { document: { ...document, materials }, ids };
} // prettier-ignore
