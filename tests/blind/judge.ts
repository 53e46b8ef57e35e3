/** Draws cases, has them diagnosed, and says how well the truth was met. */
import { grainWeight, boostedDisplay, plainDisplay, visibleGrain } from '../../core/data/grain.ts';
import { channel } from '../../core/data/picture.ts';
import { boxMean, luminancePlane } from '../../core/picture/measured.ts';
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import { noisiest, noisiestPlace } from '../../core/diagnose/noise/noisiest.ts';
import { samplePilot } from '../../core/predict/sample-pilot.ts';
import { PLANNED_KINDS } from '../../core/predict/sample-plan.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { diagnoseRender } from '../../core/diagnose/run.ts';
import { changeOf, sidesOf } from '../../core/figures/effect.ts';
import type { Effect } from '../../core/contracts/figures.ts';
import { inputOf, renderShot, tryRemedy, type BenchShot } from '../unit/bench-shot.ts';
import type { Fault } from './faults/registry.ts';
import { Draft, Draw } from './shots.ts';

export interface BlindCase {
  seed: number;
  /** Null: nothing is wrong. */
  fault: Fault | null;
  shot: BenchShot;
}

export type Verdict = 'first' | 'later' | 'other' | 'nothing' | 'healthy' | 'false';

export interface Judged {
  of: BlindCase;
  verdict: Verdict;
  found: FindingWithMask[];
}

/** What a healthy shot's target is above its noise, as a factor. */
const ROOM = 1.25;

/** Seeds that are tried until a fault is what its shot suffers from. */
const TRIES = 6;

/** @returns null where no shot of these seeds suffers from the fault, as it was measured */
export function drawCase(seed: number, fault: Fault | null): BlindCase | null {
  for (let k = 0; k < TRIES; k++) {
    const drawn = drawOnce(seed + 7919 * k, fault);
    if (fault?.cause.startsWith('fireflies.')) {
      if (chanceLight(drawn.shot) >= MUCH) return drawn;
      continue;
    }
    if (fault && MISSING.includes(fault.cause)) {
      if (shadowed(drawn) >= SHADED) return drawn;
      continue;
    }
    if (!fault?.cause.startsWith('noise.')) return drawn;
    const noise = worstNoise(drawn.shot);
    if (
      noise > PLAIN * drawn.shot.document.sheets.preview.grainTarget &&
      (!fault.dial || isCheapest(drawn.shot, fault.dial))
    )
      return drawn;
  }
  return null;
}

/** Faults by which a shadow is missing that the shot before had, or is drowned. */
const MISSING: readonly string[] = ['light-casts-none', 'object-casts-none', 'receiver-takes-none', 'not-linked', 'distance-too-short', 'colour-too-light', 'drowned-by-fill'].map((id) => `shadows.${id}`); // prettier-ignore

/** Share of the picture that the shadow in question must make darker, and by what factor its light is held back there. */
const SHADED = 0.012;
const DARKER = { missing: 0.9, drowned: 0.97 };

/**
 * Share of the picture that a shadow darkens, by rendering both: where one is missing, the shot before the fault was planted;
 * where one is drowned, the planted shot, against itself without shadows of its sun.
 */
function shadowed({ seed, fault, shot }: BlindCase): number {
  const isDrowned = fault!.cause === 'shadows.drowned-by-fill';
  const other = isDrowned ? { ...shot, document: structuredClone(shot.document) } : drawOnce(seed, null).shot;
  if (isDrowned) other.document.lights.sun.castsShadows = false;
  const [dark, bright] = (isDrowned ? [shot, other] : [other, shot]).map((one) => {
    const picture = renderShot(one);
    return boxMean(luminancePlane(picture, 'beauty'), picture.width, picture.height, 2);
  });
  const most = isDrowned ? DARKER.drowned : DARKER.missing;
  return dark.reduce((n, y, i) => n + Number(y < most * bright[i]), 0) / dark.length;
}

/** Share of the picture's light that fireflies must hold to be a fault. */
const MUCH = 0.02;
/** Times the samples of the picture that it is held against, by other random numbers. */
const REFERENCE = 16;
/** Times what it is there that a pixel must be, and linear luminance above it. */
const [ABOVE, LEAST] = [4, 0.02];

/** Share of the light that single pixels hold which a picture of many more samples has not. */
function chanceLight({ document, assets }: BlindCase['shot']): number {
  const many = structuredClone(document);
  Object.assign(many.sheets.preview, { samples: REFERENCE * document.sheets.preview.samples, seed: 4711 });
  const [is, truth] = [document, many].map((one) => luminancePlane(renderShot({ document: one, assets }), 'beauty'));
  const all = truth.reduce((sum, y) => sum + y, 0);
  return is.reduce((sum, y, i) => (y > ABOVE * truth[i] && y - truth[i] > LEAST ? sum + y - truth[i] : sum), 0) / all;
}

/** Times its target that noise must be to be a fault. */
const PLAIN = 1.4;
/** Times as many samples of a kind: of each the cheapest. */
const TIMES = [2, 4, 8];
/** Share of the rays at equal noise that must be left for a kind to be the cure, and for none to be one: what lies between is no clear case. */
const [CURED, SPENT] = [0.8, 0.93];

/** Whether more samples of a kind are the cheapest way to lower the noise of the noisiest place, by measuring each. */
function isCheapest({ document, assets }: BenchShot, dial: NonNullable<Fault['dial']>): boolean {
  const { sheet, scene, picture } = inputOf({ document, assets }, renderShot({ document, assets }));
  const [y, sigma] = [luminancePlane(picture, 'beauty'), channel(picture, 'error.beauty')];
  const region = noisiest(
    picture,
    y.map((v, i) => visibleGrain(v, sigma[i])),
  );
  const pixels: number[] = [];
  for (let row = region.y; row < region.y + region.height; row++)
    for (let x = region.x; x < region.x + region.width; x++) pixels.push(row * picture.width + x);
  const weights = pixels.map((i) => grainWeight(y[i], sigma[i]));
  const measure = samplePilot(scene, settingsOf(sheet), pixels, weights, 24, 987_654_321);
  const now = measure(sheet.extraSamples);
  const costs = PLANNED_KINDS.map((kind) => {
    const costs = TIMES.map((times) => {
      const then = measure({ ...sheet.extraSamples, [kind]: sheet.extraSamples[kind] * times });
      return (then.variance * then.rays) / (now.variance * now.rays);
    });
    return { kind: kind as string, cost: Math.min(...costs) };
  });
  const [best] = costs.sort((a, b) => a.cost - b.cost);
  return dial === 'samples' ? best.cost > SPENT : best.kind === dial && best.cost < CURED;
}

function drawOnce(seed: number, fault: Fault | null): BlindCase {
  const draft = new Draft(new Draw(seed));
  // What a healthy shot has is its target, so that nothing but the fault can be told of it.
  draft.sheet.grainTarget = Math.max(0.5, ROOM * worstNoise(draft.shot));
  fault?.plant(draft);
  return { seed, fault, shot: draft.shot };
}

/** Noise of the noisiest place, with shadows boosted or without it, whichever shows more; display steps. */
function worstNoise(shot: BenchShot): number {
  const picture = renderShot(shot);
  return Math.max(...[boostedDisplay, plainDisplay].map((display) => noisiestPlace(picture, display).steps));
}

export const judge = (of: BlindCase): Judged => {
  const found = diagnoseRender(inputOf(of.shot, renderShot(of.shot)));
  return { of, verdict: verdictOf(of, found), found };
};

function verdictOf({ fault }: BlindCase, found: FindingWithMask[]): Verdict {
  const told = found.filter(({ finding }) => finding.cause !== 'noise.more-than-needed');
  if (!fault) return told.length === 0 ? 'healthy' : 'false';
  const names = [fault.cause, ...(fault.also ?? [])];
  const isIt = (id: string) => names.includes(id as never);
  if (told.length === 0) return 'nothing';
  if (isIt(told[0].finding.cause)) return 'first';
  return told.some(({ finding }) => isIt(finding.cause) || finding.causes.some(({ id }) => isIt(id)))
    ? 'later'
    : 'other';
}

/** How a remedy's prediction met a trial of it. Null: one of both does not tell it. */
export interface Tried {
  remedy: string;
  /** Noise afterwards, display steps; rays as factors; brightness in stops of change; openness afterwards, 0–1. */
  noise: Met;
  rays: Met;
  brightness: Met;
  openness: Met;
}
export type Met = { told: number; is: number } | null;

/** What is as near as was asked for, and what no 8-bit display shows: half of one of its steps. */
const NEAR = 0.15;
const HALF_A_STEP = 0.5;
/** Share of places open by which predictions of occlusion may be off. */
const OPEN = 0.05;

/**
 * Whether a trial measured what was predicted, within 15 %: noise (or within half a display step), rays, brightness as a factor (or
 * its stops, where it changes by many), openness within 0.05. Of an occlusion pass the openness is its brightness.
 */
export function isNear({ noise, rays, brightness, openness }: Tried): boolean {
  const off = (of: Met) => (of ? Math.abs(of.is - of.told) : 0);
  const isWithin = (of: Met) => !of || off(of) <= NEAR * of.told;
  if (!isWithin(rays)) return false;
  if (!isWithin(noise) && off(noise) > HALF_A_STEP) return false;
  if (openness) return off(openness) <= OPEN;
  return !brightness || off(brightness) <= Math.max(Math.log2(1 + NEAR), NEAR * Math.abs(brightness.told));
}

/** Tries the first remedy of the first finding. @returns null where there is none that sets values */
export function tryFirst({ of, found }: Judged): Tried | null {
  const [first] = found;
  const remedy = first?.finding.remedies[0];
  if (remedy?.change?.kind !== 'values' || !remedy.predicted) return null;
  const [predicted, measured] = [remedy.predicted, tryRemedy(of.shot, first, remedy)];
  const met = (read: (effect: Effect) => number | null): Met => {
    const [told, is] = [read(predicted), read(measured)];
    return told === null || is === null ? null : { told, is };
  };
  return {
    remedy: remedy.id,
    noise: met((effect) => sidesOf(effect, 'noise').after),
    rays: met((effect) => changeOf(effect, 'rays')),
    brightness: met((effect) => changeOf(effect, 'brightness')),
    openness: met((effect) => sidesOf(effect, 'openness').after),
  };
}
