/**
 * Grain: noise that shows after the shadow lift. Which light pass carries it, which dial would cure
 * it, and how many samples reach the sheet's target or, where that is dear, halve it.
 *
 * A pixel's own mean and error are too noisy to be put through the display's curve: both are taken as
 * means over small squares first. Measured on the jar shelf, 32 samples foretell the grain of 512 within
 * 3 to 7 % that way, and 18 to 20 % too low without.
 */
import type { EvidenceChart, FindingWithMask, Remedy } from '../../contracts/finding.ts';
import { channel, type Region } from '../../data/picture.ts';
import { grainOf, grainWeight, visibleGrain } from '../../data/grain.ts';
import { boxMean, cropPlane, luminancePlane, strongestWindow } from '../../picture/measured.ts';
import {
  cheapestPlan,
  planFor,
  sampleModel,
  type ExtraSamples,
  type Plan,
  type SampleModel,
} from '../../predict/sample-plan.ts';
import { runSamplePilot } from '../../predict/sample-pilot.ts';
import { LIGHT_PASSES, type LightPass } from '../../render/passes.ts';
import { settingsOf } from '../../render/scene.ts';
import type { Diagnosis, DiagnosisInput } from '../diagnosis.ts';
import { pilotPixels, pilotStride } from '../../predict/pilot-pixels.ts';

const GROUPS = 2;
/** Squares of 5 × 5 pixels. */
const SMOOTHING = 2;
/** Size of a trial's region, as shares of the frame: what a few hundred samples can be afforded on. */
const REGION = { width: 0.15, height: 0.2 };
/** Beyond this cost the target alone is not advice enough. */
const DEAR = 6;

export const grain: Diagnosis = {
  id: 'grain',
  title: 'Grain after the shadow lift',
  needs: [...LIGHT_PASSES.map((pass) => `error.${pass}`), 'beauty'],
  examine(input) {
    const { picture, sheet } = input;
    const y = luminancePlane(picture, 'beauty');
    const sigma = channel(picture, 'error.beauty');
    const visible = y.map((value, i) => visibleGrain(value, sigma[i]));
    const region = strongestWindow(
      picture,
      visible.map((v) => v * v),
      Math.ceil(picture.width * REGION.width),
      Math.ceil(picture.height * REGION.height),
    );
    const regionGrain = grainOf(cropPlane(picture, y, region), cropPlane(picture, sigma, region));
    if (!(regionGrain > sheet.grainTarget)) return [];
    const mask = Uint8Array.from(visible, (v) => (v > sheet.grainTarget ? 1 : 0));
    return [{ mask, finding: explain(input, region, regionGrain) }];
  },
};

function explain(input: DiagnosisInput, region: Region, now: number): FindingWithMask['finding'] {
  const { picture, sheet, scene, pilotSeed } = input;
  const target = sheet.grainTarget;
  const smooth = (plane: Float32Array) =>
    boxMean(cropPlane(picture, plane, region), region.width, region.height, SMOOTHING);
  const y = smooth(luminancePlane(picture, 'beauty'));
  const variance = smooth(channel(picture, 'error.beauty').map((sigma) => sigma * sigma));
  const sigma = variance.map(Math.sqrt);
  const groups = sheet.samples / 4;
  // Noise shrinks by `scale` until the lifted display shows no more than the target.
  const scale = bisect((s) => grainOf(y, sigma, s) - target, 0, 1);
  const weights = y.map((value, i) => grainWeight(value, sigma[i] * scale));
  const total = (weights.reduce((sum, w, i) => sum + w * variance[i], 0) / y.length) * groups;

  const frameWeights = new Map<number, number>();
  for (let i = 0; i < y.length; i++) {
    const at = (region.y + Math.floor(i / region.width)) * picture.width + region.x + (i % region.width);
    frameWeights.set(at, weights[i]);
  }
  const pixels = pilotPixels(region, picture.width, pilotStride(sheet.samples, GROUPS, 2));
  const pilot = runSamplePilot(
    scene,
    settingsOf(sheet),
    pixels,
    Float64Array.from(pixels, (p) => frameWeights.get(p)!),
    GROUPS,
    pilotSeed,
  );
  const model = sampleModel(pilot, total, sheet.extraSamples);

  const grainAt = (plan: Plan) =>
    grainOf(y, sigma, Math.sqrt((model.variance(plan.extra) * groups) / ((plan.samples / 4) * total)));
  const raysNow = groups * model.rays(sheet.extraSamples);
  const remedy = (id: string, title: string, plan: Plan): Remedy => ({
    id,
    title,
    values: valuesOf(sheet.samples, sheet.extraSamples, plan),
    predicted: { stops: 0, cost: plan.rays / raysNow, grainBefore: now, grainAfter: grainAt(plan) },
  });
  /** The cheapest plan whose noise is `share` of now, and the plain one with samples per pixel alone. */
  const remediesFor = (id: string, share: number): Remedy[] => {
    const allowed = (total / groups) * share * share;
    const plain = planFor(model, allowed, sheet.extraSamples);
    const mixed = cheapestPlan(model, allowed, sheet.extraSamples);
    const out = [remedy(id, `${plain.samples} samples for everything`, plain)];
    if (mixed.rays < plain.rays * 0.95) out.unshift(remedy(`${id}-mixture`, titleOf(sheet.extraSamples, mixed), mixed));
    return out;
  };
  const remedies = remediesFor('target', scale);
  if (remedies[0].predicted.cost > DEAR) {
    const [half] = remediesFor('half', 0.5);
    // Where a few bright samples decide, the smoothed picture is no guide to halves.
    if (half.predicted.grainAfter < now) remedies.push({ ...half, title: `Half the noise: ${half.title}` });
  }
  const plainSamples = planFor(model, (total / groups) * scale * scale, sheet.extraSamples).samples;

  const shares = passShares(input, region, weights);
  const [worst] = shares;
  const dial = Object.entries(model.parts).sort((a, b) => b[1] - a[1])[0][0] as keyof SampleModel['parts'];
  const percent = (x: number) => `${Math.round(100 * x)} %`;
  const first = remedies[0];
  const named = shares.slice(1, 3).filter((s) => s.share >= 0.005);
  const others = named.length ? `${named.map((s) => `${passName(s.pass)} has ${percent(s.share)}`).join(', ')}. ` : '';
  return {
    family: 'grain',
    key: 'grain',
    severity: now > 2 * target ? 'caution' : 'note',
    sentence: `Grain in ${passName(worst.pass)}: ${now.toFixed(1)} steps after the lift, target ${target.toFixed(1)}.`,
    cause: `${percent(worst.share)} of the visible grain here is ${passName(worst.pass)}`,
    why: `${others}${DIAL_TOLD[dial]} would lower most of it. Four times the samples halve the noise; the target asks for ×${(plainSamples / sheet.samples).toFixed(1)}.`,
    region,
    passes: [worst.pass, `error.${worst.pass}`, 'error.beauty'],
    dials: [
      { pointer: '/samples', needs: Number(first.values['/samples'] ?? sheet.samples), note: null },
      ...(['light', 'diffuse', 'specular', 'transmission', 'volume'] as const)
        .filter((kind) => first.values[`/extraSamples/${kind}`] !== undefined)
        .map((kind) => ({
          pointer: `/extraSamples/${kind}`,
          needs: Number(first.values[`/extraSamples/${kind}`]),
          note: null,
        })),
    ],
    chart: chartOf(model, sheet.samples, plainSamples, sheet.extraSamples, grainAt, target),
    remedies,
  };
}

const DIAL_TOLD: Record<keyof SampleModel['parts'], string> = {
  light: 'More samples of each light',
  diffuse: 'More diffuse samples',
  specular: 'More reflection samples',
  transmission: 'More transmission samples',
  volume: 'More fog samples',
  camera: 'More samples per pixel',
};

const passName = (pass: string) => {
  const [kind, way] = pass.split('.');
  return way ? `${way} ${kind}` : kind;
};

/** Each light pass's share of the weighted variance, greatest first. Passes covary, so shares are of their sum. */
function passShares(
  { picture }: DiagnosisInput,
  region: Region,
  weights: Float64Array,
): { pass: LightPass; share: number }[] {
  const sums = LIGHT_PASSES.slice(1).map((pass) => {
    const sigma = cropPlane(picture, channel(picture, `error.${pass}`), region);
    return { pass, share: sigma.reduce((sum, s, i) => sum + weights[i] * s * s, 0) };
  });
  const all = sums.reduce((sum, s) => sum + s.share, 0);
  return sums.map((s) => ({ ...s, share: s.share / all })).sort((a, b) => b.share - a.share);
}

function valuesOf(samples: number, extra: ExtraSamples, plan: Plan): Record<string, number> {
  const values: Record<string, number> = {};
  if (plan.samples !== samples) values['/samples'] = plan.samples;
  for (const [kind, n] of Object.entries(plan.extra))
    if (n !== extra[kind as keyof ExtraSamples]) values[`/extraSamples/${kind}`] = n;
  return values;
}

function titleOf(extra: ExtraSamples, plan: Plan): string {
  const raised = Object.entries(plan.extra).filter(([kind, n]) => n !== extra[kind as keyof ExtraSamples]);
  return `${plan.samples} samples, with ${raised.map(([kind, n]) => `${n} × ${kind}`).join(' and ')}`;
}

function bisect(f: (x: number) => number, low: number, high: number): number {
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (f(middle) > 0) high = middle;
    else low = middle;
  }
  return low;
}

function chartOf(
  model: SampleModel,
  now: number,
  enough: number,
  extra: ExtraSamples,
  grainAt: (plan: Plan) => number,
  target: number,
): EvidenceChart {
  const at = (samples: number) => grainAt({ samples, extra, rays: (samples / 4) * model.rays(extra) });
  const points: [number, number][] = [];
  for (let k = 0; k <= 24; k++) {
    const samples = Math.max(4, 4 * Math.round((now / 4) * ((enough / now) * 1.5) ** (k / 18) * 0.5));
    if (!points.length || samples > points[points.length - 1][0]) points.push([samples, at(samples)]);
  }
  return {
    title: `Visible grain against samples per pixel, target ${target.toFixed(1)}`,
    xLabel: 'samples per pixel',
    yLabel: 'display steps',
    yMax: Math.ceil(points[0][1]),
    points,
    marks: [
      { x: now, label: `now ${now}`, kind: 'now' },
      { x: enough, label: `${enough}`, kind: 'enough' },
    ],
  };
}
