/**
 * What is wrong with an occlusion pass: from one trace of every distance, what the pass tells as it is set and what it could.
 * Where the render has neither the pass nor occlusion in its light, nothing is looked at.
 */
import type { Sheet } from '../../document/schema.ts';
import { objectNames } from '../../document/object-names.ts';
import { errorBy, figuresOf, occlusionCurve, type OcclusionAt, type OcclusionCurve } from '../../occlusion/curve.ts';
import type { Place } from '../../place/surface-walk.ts';
import { OCCLUSION_RAYS, OcclusionWalk, opennessAt, traceDistances, type TracedDistances } from '../../occlusion/distances.ts'; // prettier-ignore
import { luminance } from '../../data/colour.ts';
import { channel } from '../../data/picture.ts';
import type { Triple } from '../../data/placement.ts';
import { luminancePlane, percentile } from '../../picture/measured.ts';
import { cornerOf, maskOfBlocks, placesOver } from '../../place/grid.ts';
import type { CauseId } from '../catalogue.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionOf } from '../regions.ts';

export type OcclusionFault = 'closed' | 'long' | 'short' | 'inward' | 'opaque' | 'few' | 'twice' | 'itself' | 'faceted';

export const CAUSE_OF_FAULT: Record<OcclusionFault, CauseId> = {
  closed: 'occlusion.closed-room',
  long: 'occlusion.distance-too-long',
  short: 'occlusion.distance-too-short',
  inward: 'occlusion.inward-outward',
  opaque: 'occlusion.ignores-transparency',
  few: 'occlusion.too-few-samples',
  twice: 'occlusion.counted-twice',
  itself: 'occlusion.self-occluded',
  faceted: 'occlusion.faceted',
};

export interface OcclusionCase extends Case {
  kind: OcclusionFault;
  occlusion: Sheet['occlusion'];
  /** The pass as it is set, and at every distance; outward for a pass that looks inward. */
  now: OcclusionAt;
  curve: OcclusionCurve;
  /** Share of the places that it is about, and openness there: as it is and as it would be. */
  share: number;
  from: number;
  to: number;
  /** Occlusion samples of the sheet, rays per pixel by them, standard error by them in display steps, and samples at the first hit that are enough. */
  samples: number;
  rays: number;
  error: number;
  enough: number;
  /** Half angle of a cone that no smooth normal takes below its face, degrees. */
  cone: number;
  /** Keys of the objects. */
  ids: string[];
  /** One grey material stands over all. */
  isNeutral: boolean;
}

const PLACES = 2500;
/** Bits that a pass can have for it to be worth a word, and share of them below which it says too little. */
const WORTH = 1;
const LITTLE = 0.5;
/** Of a closed room, what stays open at any distance. */
const CLOSED = 0.03;
/** Openness by which glass makes another pass of a place, and share of the places where it must. */
const [CHANGED, PLACES_CHANGED] = [0.1, 0.02];
/** Display steps of noise that are plain, and that are hard to see. */
const [PLAIN, CLEAN] = [10, 5];
const MOST_SAMPLES = 256;
/** Of an object's rays, share that itself stops next to the surface; next to it: this part of the scene's middle distance. */
const [MOSTLY, NEXT] = [0.8, 0.002];
/** Share of a place's rays below its own face from which on steps are seen, five display steps; and the narrowest cone that is proposed, degrees. */
const [STEPPED, LEAST_CONE] = [0.02, 30];
/** Places of an object that tell. */
const FEWEST = 8;
/** Share of a place's light that is plain to see when it is gone: a sixth of a stop. */
const DIMMED = 0.1;
/** Share of the light below the surface that bounced or came from all around. */
const AMBIENT = 0.1;

export function occlusionCases(input: RenderInput): OcclusionCase[] {
  const { sheet, scene, picture, document } = input;
  const isNeutral = sheet.neutral === 'neutral-occlusion';
  const isShading = isNeutral || sheet.occlusion.strength > 0;
  if (!sheet.passes.occlusion && !isShading) return [];
  const { occlusion } = sheet;
  const walk = new OcclusionWalk(scene, sheet);
  const { step, places } = placesOver(walk, picture, PLACES, !occlusion.seeThrough);
  if (places.length === 0) return [];
  const metres = occlusion.distance ?? Infinity;
  const traced = traceDistances(walk, occlusion, places);
  const values = opennessAt(traced, metres, occlusion, new Float32Array(places.length));
  const now = figuresOf(values, metres);
  const isInward = occlusion.direction === 'inward';
  const outward = isInward ? traceDistances(walk, { ...occlusion, direction: 'outward' }, places) : traced;
  const curve = occlusionCurve(outward, occlusion);
  const rays = sheet.samples * sheet.extraSamples.occlusion;
  const all = places.map((_, k) => k);
  const byObject = new Map<number, number[]>();
  for (const k of all) {
    const { object } = places[k].place;
    const own = byObject.get(object) ?? [];
    byObject.set(object, own);
    own.push(k);
  }
  /** Of the light of a place, what occlusion leaves of it. */
  const [strength, darkest] = [isNeutral ? 1 : occlusion.strength, luminance(...(occlusion.colour as Triple))];
  const leaves = (open: number) => 1 - strength * (1 - open ** occlusion.contrast) * (1 - darkest);

  return [...ofDistance(), ...ofGlass(), ...ofItself(), ...ofFacets(), ...ofSamples(), ...ofLight()];

  function caseOf(kind: OcclusionFault, severity: Case['severity'], of: number[], rest: Partial<OcclusionCase> = {}): OcclusionCase {
    const mask = maskOfBlocks(picture, step, of.map((k) => cornerOf(places[k], step)));
    const passes = sheet.passes.occlusion ? ['occlusion', 'beauty'] : ['beauty'];
    return { key: `occlusion.${kind}`, kind, severity, region: regionOf(picture, mask), mask, passes, occlusion, now, curve, share: of.length / places.length, from: now.mean, to: now.mean, samples: sheet.extraSamples.occlusion, rays, error: 0, enough: 0, cone: occlusion.cone, ids: [], isNeutral, ...rest };
  }

  /** The pass says little at its distance and much at another. */
  function ofDistance(): OcclusionCase[] {
    const most = Math.max(0, ...curve.points.map(({ information }) => information));
    if (!curve.best || most < WORTH || now.information >= LITTLE * most) return [];
    const there = curve.points.reduce((best, one) => (Math.abs(one.metres - curve.best!.metres) < Math.abs(best.metres - curve.best!.metres) ? one : best));
    const rest = { from: now.mean, to: there.mean };
    if (isInward) return [caseOf('inward', 'caution', all, rest)];
    if (metres > curve.best.to) return [caseOf(metres === Infinity && curve.unlimited.mean < CLOSED ? 'closed' : 'long', 'caution', all, rest)];
    return metres < curve.best.from ? [caseOf('short', 'caution', all, rest)] : [];
  }

  /** What stands behind or beside glass is as dark as behind a wall. */
  function ofGlass(): OcclusionCase[] {
    if (occlusion.seeThrough || isInward) return [];
    const through = placesOver(walk, picture, PLACES, false).places;
    const at = new Map(through.map((place, k) => [`${place.x} ${place.y}`, k]));
    const seen = opennessAt(traceDistances(walk, occlusion, through), metres, { ...occlusion, seeThrough: true }, new Float32Array(through.length));
    const other = places.map(({ x, y }) => { const k = at.get(`${x} ${y}`); return k === undefined ? NaN : seen[k]; });
    const changed = all.filter((k) => Math.abs(other[k] - values[k]) > CHANGED);
    if (changed.length < Math.max(FEWEST, PLACES_CHANGED * places.length)) return [];
    const mean = (of: ArrayLike<number>) => changed.reduce((sum, k) => sum + of[k], 0) / changed.length;
    return [caseOf('opaque', 'caution', changed, { from: mean(values), to: mean(other) })];
  }

  /** A thing that stops nearly all rays of its own right at its surface: two shells, one in the other. */
  function ofItself(): OcclusionCase[] {
    const near = NEXT * (curve.best?.metres ?? 0);
    return [...byObject].flatMap(([object, of]) => {
      const stopped = of.filter((k) => stoppedBy(traced, k, object, near) >= MOSTLY);
      if (stopped.length < FEWEST || stopped.length < of.length / 2) return [];
      const id = scene.objectIds[object];
      return [caseOf('itself', 'caution', stopped, { key: `occlusion.itself ${id}`, ids: [id], objects: [objectNames(document)[object]], from: 0, to: 1 })];
    });
  }

  /** Smooth normals that lean so far over coarse faces that rays begin below them: the pass is stepped along the faces, clean or not. */
  function ofFacets(): OcclusionCase[] {
    if (isInward) return [];
    const leans = places.map(({ place }) => leanOf(place));
    const stepped = [...byObject].filter(([, of]) => of.length >= FEWEST && percentile(of.map((k) => lostBy(leans[k], occlusion.cone)), 0.9) >= STEPPED);
    if (stepped.length === 0) return [];
    const of = stepped.flatMap(([, own]) => own);
    const most = percentile(of.map((k) => leans[k]), 0.98);
    const objects = stepped.map(([object]) => objectNames(document)[object]);
    const lost = percentile(of.map((k) => lostBy(leans[k], occlusion.cone)), 0.9);
    return [caseOf('faceted', 'note', of, { objects, ids: stepped.map(([object]) => scene.objectIds[object]), error: 255 * lost, cone: Math.max(LEAST_CONE, Math.floor(90 - (most * 180) / Math.PI)) })];
  }

  /** Noise that is plain in the greys, by the binomial. */
  function ofSamples(): OcclusionCase[] {
    if (!sheet.passes.occlusion || isInward) return [];
    const grey = all.filter((k) => values[k] > 0.1 && values[k] < 0.9);
    if (grey.length < FEWEST || now.information < WORTH) return [];
    const open = percentile(grey.map((k) => Math.min(values[k], 1 - values[k])), 0.5);
    const error = 255 * errorBy(open, rays);
    if (error < PLAIN) return [];
    const enough = Math.min(MOST_SAMPLES, Math.ceil((sheet.extraSamples.occlusion * (error / CLEAN) ** 2)));
    return enough <= sheet.extraSamples.occlusion ? [] : [caseOf('few', 'note', grey, { error, enough })];
  }

  /** Light from all around is traced, and dimmed by the same occlusion once more. */
  function ofLight(): OcclusionCase[] {
    if (!isShading || sheet.limits.diffuse === 0) return [];
    const [direct, indirect] = ['diffuse.direct', 'diffuse.indirect'].map((pass) => luminancePlane(picture, pass));
    const covered = channel(picture, 'coverage');
    let [bounced, sum] = [0, 0];
    for (let i = 0; i < covered.length; i++) if (covered[i] > 0) [bounced, sum] = [bounced + indirect[i], sum + direct[i] + indirect[i]];
    const dimmed = all.filter((k) => leaves(values[k]) < 1 - DIMMED);
    const isAmbient = document.environment.intensity > 0 || bounced > AMBIENT * sum;
    return isAmbient && dimmed.length >= PLACES_CHANGED * places.length ? [caseOf('twice', 'note', dimmed, { isNeutral, from: dimmed.reduce((mean, k) => mean + leaves(values[k]) / dimmed.length, 0), to: 1 })] : [];
  }
} // prettier-ignore

/** Angle between a place's face and its smooth normal, radians. */
const leanOf = ({ normal, shadingNormal }: Place): number =>
  Math.acos(
    Math.min(
      1,
      Math.max(-1, normal[0] * shadingNormal[0] + normal[1] * shadingNormal[1] + normal[2] * shadingNormal[2]),
    ),
  );

/** Share of a cosine-weighted cone that a normal which leans so far takes below the face: of the whole hemisphere (1 − cos θ)/2, of a narrow cone none. */
const lostBy = (lean: number, cone: number): number =>
  lean + (cone * Math.PI) / 180 > Math.PI / 2 ? (1 - Math.cos(lean)) / 2 : 0;

/** Share of a place's rays that one object stops within some metres. */
function stoppedBy({ first, object }: TracedDistances, k: number, own: number, metres: number): number {
  let stopped = 0;
  for (let i = k * OCCLUSION_RAYS; i < (k + 1) * OCCLUSION_RAYS; i++)
    if (first[i] > 0 && first[i] < metres && object[i] === own) stopped++;
  return stopped / OCCLUSION_RAYS;
}
