/**
 * Cut short: a depth limit, or the overall limit behind it, ends paths that still carry light. Black
 * glass (transmission), black reflections (specular) and rooms that stay dark (diffuse) are its cases.
 *
 * Where: pixels that lose a tenth of their path weight or more, by the kind that loses most.
 * How much: read off one pilot with lifted limits. Remedy: the least numbers that let 99 % through.
 */
import type { EvidenceChart, FindingWithMask, Remedy, Severity } from '../../contracts/finding.ts';
import { channel, type Region } from '../../data/picture.ts';
import { boxMean, cropPlane, luminancePlane, percentile, strongestWindow } from '../../picture/measured.ts';
import { grainOf } from '../../data/grain.ts';
import { LIFTED, runLimitPilot, type LimitPilot, type Limits } from '../../predict/limit-pilot.ts';
import { stopsBetween } from '../../predict/stops-between.ts';
import { comparePilots, measurePilot } from '../../predict/paired-pilot.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Diagnosis, DiagnosisInput } from '../diagnosis.ts';
import { pilotPixels, pilotStride } from '../../predict/pilot-pixels.ts';
import { countBodies, tellBodies } from './faces.ts';

type Kind = 'transmission' | 'specular' | 'diffuse';
const KINDS: Kind[] = ['transmission', 'specular', 'diffuse'];

/** Path weight a pixel must lose to be counted. */
const WEIGHT = 0.1;
/** Share of the picture's pixels below which a case is not worth a sentence. */
const AREA = 0.002;
/** Share of the light below which nobody would see it. */
const LOSS = 0.02;
const ENOUGH = 0.99;
/** What the kind's own limit is held to, so that the overall limit can still bring the whole to `ENOUGH`. */
const ENOUGH_OF_KIND = 0.994;
const GROUPS = 2;

const PLACE: Record<Kind, string> = {
  transmission: 'Glass is dark inside',
  specular: 'Reflections are black',
  diffuse: 'Indirect light stops early',
};

export const cutShort: Diagnosis = {
  id: 'cut-short',
  title: 'Cut short by a limit',
  needs: [
    'beauty',
    'error.beauty',
    'crossings',
    ...['diffuse', 'specular', 'transmission', 'any'].map((cut) => `cut.${cut}`),
  ],
  examine(input) {
    const masks = classify(input);
    return KINDS.flatMap((kind) => examineKind(input, kind, masks[kind]) ?? []);
  },
};

/**
 * Per kind, the weight that pixels of this kind lose; a pixel belongs to the kind that loses most there.
 * Read as means over 3 × 3 pixels, so that single unlucky paths do not make a case.
 */
function classify({ picture }: DiagnosisInput): Record<Kind, Float32Array> {
  const cut = (name: string) => boxMean(channel(picture, `cut.${name}`), picture.width, picture.height, 1);
  const [diffuse, specular, transmission, any] = ['diffuse', 'specular', 'transmission', 'any'].map(cut);
  const crossings = channel(picture, 'crossings');
  const out = {
    transmission: new Float32Array(any.length),
    specular: new Float32Array(any.length),
    diffuse: new Float32Array(any.length),
  };
  for (let i = 0; i < any.length; i++) {
    if (any[i] < WEIGHT) continue;
    const [t, s, d] = [transmission[i], specular[i], diffuse[i]];
    const own = Math.max(t, s, d);
    // What only the overall limit ended belongs to the glass that is looked through, if there is any.
    const kind =
      own < any[i] / 2 && crossings[i] > 0
        ? 'transmission'
        : own === t
          ? 'transmission'
          : own === s
            ? 'specular'
            : 'diffuse';
    out[kind][i] = any[i];
  }
  return out;
}

function examineKind(input: DiagnosisInput, kind: Kind, weight: Float32Array): FindingWithMask | null {
  const { picture, sheet, scene, pilotSeed } = input;
  const mask = Uint8Array.from(weight, (w) => (w > 0 ? 1 : 0));
  const area = mask.reduce((a, b) => a + b, 0) / mask.length;
  if (area < AREA) return null;
  const region = strongestWindow(picture, weight, Math.ceil(picture.width * 0.3), Math.ceil(picture.height * 0.42));
  const pixels = pilotPixels(region, picture.width, pilotStride(sheet.samples, GROUPS, 6));
  const masked = Uint8Array.from(pixels, (p) => mask[p]);
  const settings = settingsOf(sheet);
  const pilot = runLimitPilot(scene, settings, pixels, masked, GROUPS, pilotSeed);

  const now = sheet.limits;
  const before = pilot.energy(now);
  const all = pilot.energy({ ...now, [kind]: LIFTED[kind], overall: LIFTED.overall });
  const lost = 1 - before / all;
  if (!(lost >= LOSS)) return null;

  const enough = limitsFor(pilot, kind, now, all);
  const knee = kneeLimits(pilot, kind, now, enough);
  const alone = pilot.energy({ ...now, [kind]: enough[kind] }) / all;
  const hidden = enough.overall > now.overall && alone < ENOUGH;
  const grainBefore = grainOf(
    cropPlane(picture, luminancePlane(picture, 'beauty'), region),
    cropPlane(picture, channel(picture, 'error.beauty'), region),
  );
  const measure = (limits: Limits) =>
    measurePilot(
      { scene, settings: { ...settings, limits }, samples: sheet.samples },
      pixels,
      masked,
      GROUPS,
      pilotSeed,
    );
  const present = measure(now);
  const remedy = (id: string, title: string, limits: Limits): Remedy => {
    const { grainAfter } = comparePilots(present, measure(limits), grainBefore);
    return {
      id,
      title,
      values: changed(now, limits),
      predicted: {
        stops: stopsBetween(before, pilot.energy(limits)),
        cost: pilot.rays(limits) / pilot.rays(now),
        grainBefore,
        grainAfter,
      },
    };
  };
  const remedies = [remedy('enough', 'Let 99 % through', enough)];
  if (knee[kind] < enough[kind])
    remedies.push(remedy('knee', `Stop at the knee, ${knee[kind]} and ${knee.overall}`, knee));

  const share = (x: number) => `${Math.round(x * 100)} %`;
  const faces = kind === 'transmission' ? straightLooks(input, region, mask) : null;
  const cause = faces
    ? `A straight look crosses ${faces.most} faces; paths end at ${now.transmission}`
    : `Paths end after ${now[kind]} ${kind} ${now[kind] === 1 ? 'event' : 'events'}; the light needs ${enough[kind]}`;
  const why = [
    faces ? `${faces.told}; 95 % of looks here cross at most ${faces.usual}.` : '',
    hidden
      ? `Behind ${kind} ${now[kind]} stands the overall limit ${now.overall}: raising the first alone lets ${share(alone)} through, both let ${share(pilot.energy(enough) / all)}.`
      : `Now ${share(before / all)} gets through; ${enough[kind]} let ${share(pilot.energy(enough) / all)}.`,
  ];
  const severity: Severity = lost >= 0.25 ? 'stop' : lost >= 0.06 ? 'caution' : 'note';
  return {
    mask,
    finding: {
      family: 'cut-short',
      key: `cut-short.${kind}`,
      severity,
      sentence: `${PLACE[kind]}: ${share(lost)} of the light ends at the ${kind} limit (${now[kind]})${hidden ? ` and the overall (${now.overall})` : ''}.`,
      cause,
      why: why.filter(Boolean).join(' '),
      region,
      passes: [`cut.${kind}`, 'cut.overall', ...(faces ? ['crossings'] : [])],
      dials: [
        { pointer: `/limits/${kind}`, needs: enough[kind], note: null },
        {
          pointer: '/limits/overall',
          needs: enough.overall,
          note: hidden ? `decides at ${now.overall}` : null,
        },
      ],
      chart: chartOf(pilot, kind, now, enough, knee, all),
      remedies,
    },
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

/**
 * Where the curve of light against the limit bends most: the point furthest above the straight line
 * between now and enough. Source: Satopää et al., "Finding a Kneedle in a Haystack", 2011.
 */
function kneeLimits(pilot: LimitPilot, kind: Kind, now: Limits, enough: Limits): Limits {
  const [a, b] = [now[kind], enough[kind]];
  const light = (n: number) => pilot.energy({ ...now, [kind]: n, overall: LIFTED.overall });
  const [low, high] = [light(a), light(b)];
  let best = 0;
  let knee = b;
  for (let n = a + 1; n < b; n++) {
    const above = (light(n) - low) / (high - low) - (n - a) / (b - a);
    if (above > best) {
      best = above;
      knee = n;
    }
  }
  const limits = { ...now, [kind]: knee };
  const bends = (n: number) => pilot.energy({ ...limits, overall: n }) >= ENOUGH * light(knee);
  return { ...limits, overall: least(now.overall, enough.overall, bends) };
}

function changed(now: Limits, limits: Limits): Record<string, number> {
  const entries = Object.entries(limits).filter(([k, v]) => now[k as keyof Limits] !== v);
  return Object.fromEntries(entries.map(([k, v]) => [`/limits/${k}`, v]));
}

function chartOf(pilot: LimitPilot, kind: Kind, now: Limits, enough: Limits, knee: Limits, all: number): EvidenceChart {
  const top = Math.min(LIFTED[kind], enough[kind] + 4);
  const through = (n: number) => (100 * pilot.energy({ ...now, [kind]: n, overall: LIFTED.overall })) / all;
  return {
    title: `Light let through at each ${kind} limit, the overall lifted`,
    xLabel: `${kind} limit`,
    yLabel: '% of the light',
    yMax: 100,
    points: Array.from({ length: top + 1 }, (_, n) => [n, through(n)]),
    marks: [
      { x: now[kind], label: `now ${now[kind]}`, kind: 'now' },
      ...(now.overall < enough.overall && now.overall <= top
        ? [{ x: now.overall, label: `overall ${now.overall}`, kind: 'override' as const }]
        : []),
      ...(knee[kind] < enough[kind] ? [{ x: knee[kind], label: `knee ${knee[kind]}`, kind: 'knee' as const }] : []),
      { x: enough[kind], label: `${enough[kind]}`, kind: 'enough' },
    ],
  };
}

/** The most and the usual number of faces that straight looks cross in the masked region, told by bodies. */
function straightLooks({ picture, document, scene, sheet }: DiagnosisInput, region: Region, mask: Uint8Array) {
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
  return { most: crossings[at], usual: percentile(counts, 0.95), told: tellBodies(bodies) };
}
