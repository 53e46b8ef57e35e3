/**
 * Where depth limits end light, and how much: pixels that lose a tenth of their path weight or more, by the kind that loses
 * most there; the amount is read off one pilot with the limits lifted, exactly.
 */
import type { Severity } from '../../contracts/finding.ts';
import { channel, type Region } from '../../data/picture.ts';
import { boxMean, percentile, strongestWindow } from '../../picture/measured.ts';
import { LIFTED, runLimitPilot, type LimitPilot, type Limits } from '../../predict/limit-pilot.ts';
import { pilotPixels, pilotStride } from '../../predict/pilot-pixels.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { kneeOf } from '../knee.ts';
import { countBodies, tellBodies } from './faces.ts';

/** In the order in which they go where they lose as much. */
export const KINDS = ['transmission', 'specular', 'diffuse', 'volume', 'alpha'] as const;
export type Kind = (typeof KINDS)[number];

export interface LimitCase extends Case {
  kind: Kind;
  now: Limits;
  pilot: LimitPilot;
  /** Light that gets through now, with the kind's limit raised enough but not the overall one, and with both; of what comes with both lifted, 0–1. */
  through: { now: number; alone: number; enough: number };
  /** The least limits that let 99 % through, and those at the knee of the curve. */
  enough: Limits;
  knee: Limits;
  /** The overall limit stands behind the kind's own and decides first. */
  isHidden: boolean;
  /** Light with the kind's limit and the overall one lifted, in the pilot's measure. */
  all: number;
  /** Faces that straight paths cross here, where it is glass. */
  faces: { most: number; usual: number; told: string; counts: number[] } | null;
}

/** Path weight a pixel must lose to be counted. */
const WEIGHT = 0.1;
/** Share of the picture's pixels below which a case is not worth a sentence. */
const AREA = 0.002;
/** Share of the light below which nobody would see it. */
const LOSS = 0.02;
/** Shares of the light from which on it is more than a note, and nothing can be rendered so. */
const [CAUTION, STOP] = [0.06, 0.25];
const ENOUGH = 0.99;
/** What the kind's own limit is held to, so that the overall limit can still bring the whole to `ENOUGH`. */
const ENOUGH_OF_KIND = 0.994;
const GROUPS = 2;
/** Of the frame, where a trial shows it. */
const REGION = { width: 0.3, height: 0.42 };

export function casesOf(input: RenderInput): LimitCase[] {
  const weights = classify(input);
  return KINDS.flatMap((kind) => caseOf(input, kind, weights[kind]) ?? []);
}

/**
 * Per kind, the weight that pixels of this kind lose; a pixel belongs to the kind that loses most there.
 * Read as means over 3 × 3 pixels, so that single unlucky paths do not make a case.
 */
function classify({ picture }: RenderInput): Record<Kind, Float32Array> {
  const cut = (name: string) => boxMean(channel(picture, `cut.${name}`), picture.width, picture.height, 1);
  const own = KINDS.map(cut);
  const any = cut('any');
  const crossings = channel(picture, 'crossings');
  const out = Object.fromEntries(KINDS.map((kind) => [kind, new Float32Array(any.length)])) as Record<Kind, Float32Array>; // prettier-ignore
  for (let i = 0; i < any.length; i++) {
    if (any[i] < WEIGHT) continue;
    const most = Math.max(...own.map((weights) => weights[i]));
    // What only the overall limit ended belongs to the glass that is looked through, if there is any.
    const isThrough = most < any[i] / 2 && crossings[i] > 0;
    const kind = isThrough ? 'transmission' : KINDS[own.findIndex((weights) => weights[i] === most)];
    out[kind][i] = any[i];
  }
  return out;
}

function caseOf(input: RenderInput, kind: Kind, weight: Float32Array): LimitCase | null {
  const { picture, sheet, scene, pilotSeed } = input;
  const mask = Uint8Array.from(weight, (w) => (w > 0 ? 1 : 0));
  if (mask.reduce((a, b) => a + b, 0) < AREA * mask.length) return null;
  const size = [Math.ceil(picture.width * REGION.width), Math.ceil(picture.height * REGION.height)] as const;
  const region = strongestWindow(picture, weight, ...size);
  const pixels = pilotPixels(region, picture.width, pilotStride(sheet.samples, GROUPS, 6));
  const masked = Uint8Array.from(pixels, (p) => mask[p]);
  const pilot = runLimitPilot(scene, settingsOf(sheet), pixels, masked, GROUPS, pilotSeed);

  const now = sheet.limits;
  const all = pilot.energy({ ...now, [kind]: LIFTED[kind], overall: LIFTED.overall });
  const lost = 1 - pilot.energy(now) / all;
  if (!(lost >= LOSS)) return null;
  const enough = limitsFor(pilot, kind, now, all);
  const knee = kneeLimits(pilot, kind, now, enough);
  const alone = pilot.energy({ ...now, [kind]: enough[kind] }) / all;
  const faces = kind === 'transmission' ? straightPaths(input, region, mask) : null;
  const severity: Severity = lost >= STOP ? 'stop' : lost >= CAUTION ? 'caution' : 'note';
  return {
    key: `limits.${kind}`,
    severity,
    region,
    mask,
    passes: [`cut.${kind}`, 'cut.overall', ...(faces ? ['crossings'] : [])],
    kind,
    now,
    pilot,
    through: { now: 1 - lost, alone, enough: pilot.energy(enough) / all },
    enough,
    knee,
    isHidden: enough.overall > now.overall && alone < ENOUGH,
    all,
    faces,
  };
}

/** The least limit of this kind, and the least overall limit, that bring the light to `ENOUGH` of `all`. */
function limitsFor(pilot: LimitPilot, kind: Kind, now: Limits, all: number): Limits {
  const light = (own: number, overall: number) => pilot.energy({ ...now, [kind]: own, overall });
  const generous = least(now[kind], LIFTED[kind], (n) => light(n, LIFTED.overall) >= ENOUGH_OF_KIND * all);
  const overall = least(now.overall, LIFTED.overall, (n) => light(generous, n) >= ENOUGH * all);
  // With the overall limit known, the kind's own may need less than its share was.
  const own = least(now[kind], generous, (n) => light(n, overall) >= ENOUGH * all);
  return { ...now, [kind]: own, overall };
}

function least(from: number, to: number, holds: (n: number) => boolean): number {
  for (let n = from; n < to; n++) if (holds(n)) return n;
  return to;
}

/** Where the curve of light against the limit bends, between now and enough. */
function kneeLimits(pilot: LimitPilot, kind: Kind, now: Limits, enough: Limits): Limits {
  const [a, b] = [now[kind], enough[kind]];
  const light = (n: number) => pilot.energy({ ...now, [kind]: n, overall: LIFTED.overall });
  const curve = Array.from({ length: b - a + 1 }, (_, k): [number, number] => [a + k, light(a + k)]);
  const at = b > a ? kneeOf(curve) : 0;
  const knee = at > 0 ? a + at : b;
  const limits = { ...now, [kind]: knee };
  const bends = (n: number) => pilot.energy({ ...limits, overall: n }) >= ENOUGH * light(knee);
  return { ...limits, overall: least(now.overall, enough.overall, bends) };
}

/** The most and the usual number of faces that straight paths cross in the masked region, told by bodies. */
function straightPaths({ picture, document, scene, sheet }: RenderInput, region: Region, mask: Uint8Array) {
  const crossings = channel(picture, 'crossings');
  const counts: number[] = [];
  let at = -1;
  for (let y = region.y; y < region.y + region.height; y++)
    for (let x = region.x; x < region.x + region.width; x++) {
      const i = y * picture.width + x;
      if (!mask[i] || crossings[i] === 0) continue;
      counts.push(crossings[i]);
      if (at < 0 || crossings[i] > crossings[at]) at = i;
    }
  if (at < 0) return null;
  const bodies = countBodies(document, scene, sheet, at % picture.width, Math.floor(at / picture.width));
  return { most: crossings[at], usual: percentile(counts, 0.95), told: tellBodies(bodies), counts };
}
