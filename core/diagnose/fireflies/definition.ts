/**
 * Fireflies of a render: found in the beauty, traced by the brightest sample that each of their pixels kept, grouped by
 * the way the light came. More samples do not cure what is met by chance; a clamp does, and takes light with it: both
 * are read off the film for every clamp value, since a pixel's brightest sample of value b brings b/N to its mean.
 */
import type { EvidenceChart, Finding, Remedy, Severity } from '../../contracts/finding.ts';
import { grainOf } from '../../data/grain.ts';
import { channel, type Picture, type Region } from '../../data/picture.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { findFireflies, guiltyPass } from '../../picture/fireflies.ts';
import { cropPlane, luminancePlane, strongestWindow } from '../../picture/measured.ts';
import { tellBrightest } from '../../picture/tell-brightest.ts';
import { LIGHT_PASSES } from '../../render/passes.ts';
import type { CompiledScene } from '../../render/scene.ts';
import { isDirect } from '../../render/signature.ts';
import type { Diagnosis, DiagnosisInput } from '../diagnosis.ts';

/** Share of a pixel's light that its brightest sample must have brought alone. */
const SINGLE = 0.5;
/** Fewer of them are taken out by hand. */
const FEWEST = 4;
/** A share of the pixels from which the picture cannot be used. */
const MANY = 5e-4;
/** Size of a trial's region, as shares of the frame. */
const REGION = { width: 0.25, height: 0.3 };
/** Share of them that a clamp is to take. */
const TAKEN = 0.99;
/** Clamp values that are looked at: halves of a stop, over so many stops below the brightest sample. */
const STEPS_A_STOP = 2;
const STOPS = 24;
/** A darker clamp leaves no picture. */
const LEAST_CLAMP = 1e-3;
const CAUSES_TOLD = 3;
const BRIGHTEST = ['value', 'path', 'light', 'first', 'second'].map((part) => `brightest.${part}`);
const TRACED = LIGHT_PASSES.slice(1);

export const fireflies: Diagnosis = {
  id: 'fireflies',
  title: 'Fireflies',
  needs: ['beauty', 'error.beauty', 'albedo', 'samples', ...TRACED, ...BRIGHTEST],
  examine(input) {
    const { picture } = input;
    const { width, height } = picture;
    const y = luminancePlane(picture, 'beauty');
    const albedo = luminancePlane(picture, 'albedo');
    const found = findFireflies({ luminance: y, width, height, albedo });
    const [brightest, samples] = [channel(picture, 'brightest.value'), channel(picture, 'samples')];
    // What stands out by many samples is no light met by chance: more of them cure it, and that is grain.
    const at = found.pixels
      .map((one) => one.y * width + one.x)
      .filter((i) => brightest[i] >= SINGLE * y[i] * Math.max(1, samples[i]));
    if (at.length < FEWEST) return [];
    const mask = new Uint8Array(width * height);
    for (const i of at) mask[i] = 1;
    const light = y.reduce((sum, v) => sum + (v - v === 0 ? v : 0), 0);
    const energy = light > 0 ? at.reduce((sum, i) => sum + y[i], 0) / light : 0;
    return [{ mask, finding: explain(input, y, at, mask, energy) }];
  },
};

function explain(input: DiagnosisInput, y: Float32Array, at: number[], mask: Uint8Array, energy: number): Finding {
  const { picture, sheet } = input;
  const { width, height } = picture;
  const region = strongestWindow(picture, mask, Math.ceil(width * REGION.width), Math.ceil(height * REGION.height));
  const causes = causesOf(input, at);
  const [first] = causes;
  const paths = channel(picture, 'brightest.path');
  const later = at.filter((i) => !isDirect(paths[i]));
  const kind = later.length * 2 >= at.length ? 'indirect' : 'direct';
  // A clamp knows two kinds of light, met at once and later, and so do its figures.
  const own = kind === 'indirect' ? later : at.filter((i) => isDirect(paths[i]));
  const bright = brightestOf(picture, kind);
  const curve = clampCurve(picture, y, bright, own);
  // Where a pixel has several bright samples no clamp that leaves a picture takes it: the best there is counts.
  const least = Math.min(...curve.map(({ left }) => left));
  const chosen = curve.find(({ left }) => left <= least + 1 - TAKEN)!;
  const severity: Severity = at.length > MANY * width * height ? 'caution' : 'note';
  const share = (x: number) => `${x >= 0.995 ? 100 : Math.round(x * 100)} %`;
  const held = energy >= 0.005 ? `, holding ${share(energy)} of the light` : '';
  const told = causes.slice(0, CAUSES_TOLD).map(({ told: way, pixels }) => `${pixels} came by ${way}`);
  const more = causes.length > CAUSES_TOLD ? `, the rest in ${causes.length - CAUSES_TOLD} other ways` : '';
  const pointer = `/clamps/${kind}`;
  return {
    family: 'fireflies',
    key: 'fireflies',
    severity,
    sentence: `${at.length} fireflies${held}: ${first.pixels === at.length ? 'all' : first.pixels} in ${first.pass.replace('.', ' ')}.`,
    cause: `Light met by chance: ${first.told}`,
    why: `${told.join('; ')}${more}. More samples make each fainter and find more of them. A clamp of ${tellValue(chosen.clamp)} on light met ${kind === 'indirect' ? 'later' : 'at once'} leaves ${share(chosen.left)} of the ${own.length} that came so and takes ${share(chosen.taken)} of the picture’s light.`,
    region,
    passes: [first.pass, 'brightest.value', 'brightest.path', 'clamped'],
    dials: [{ pointer, needs: chosen.clamp, note: sheet.clamps[kind] === null ? 'off' : null }],
    chart: chartOf(curve, sheet.clamps[kind], chosen.clamp),
    remedies: [clampRemedy(input, y, bright, mask, region, pointer, chosen)],
  };
}

interface Cause {
  /** The way in words. */
  told: string;
  pass: string;
  pixels: number;
}

/** Ways that the brightest samples of some pixels came, the commonest first. */
function causesOf({ picture, document, scene }: DiagnosisInput, at: number[]): Cause[] {
  const { width, height } = picture;
  const passes = new Map(TRACED.map((pass) => [pass as string, luminancePlane(picture, pass)]));
  const parts = BRIGHTEST.map((name) => channel(picture, name));
  const names = {
    object: (number: number) => objectName(document, scene.objectIds[number - 1]),
    light: (number: number) => lightName(document, scene, number - 1),
  };
  const causes = new Map<string, Cause>();
  for (const i of at) {
    const values = Object.fromEntries(BRIGHTEST.map((name, k) => [name, parts[k][i]]));
    const told = tellBrightest(values, names);
    const pass = guiltyPass({ x: i % width, y: Math.floor(i / width) }, passes, width, height) ?? 'emission';
    const way = told ?? 'a way that is not known';
    const cause = causes.get(`${pass} ${way}`) ?? { told: way, pass, pixels: 0 };
    cause.pixels += 1;
    causes.set(`${pass} ${way}`, cause);
  }
  return [...causes.values()].sort((a, b) => b.pixels - a.pixels);
}

const objectName = (document: ShotDocument, id: string): string => document.objects[id]?.name || id;

/** A light of the document, the environment, or the object that glows, by the row of the table of lights. */
function lightName(document: ShotDocument, scene: CompiledScene, row: number): string {
  const id = scene.lightIds[row];
  if (Object.hasOwn(document.lights, id)) return document.lights[id].name || id;
  if (id === 'environment') return 'the environment';
  const instance = scene.instanceLight.indexOf(row);
  return instance < 0 ? 'a glowing surface' : objectName(document, scene.objectIds[scene.instanceObject[instance]]);
}

interface ClampPoint {
  clamp: number;
  /** Share of the fireflies that is left, 0–1. */
  left: number;
  /** Share of the picture's light that it takes, 0–1. */
  taken: number;
}

/** What is left of a mean y of n samples whose brightest one, b, is cut down to c. */
const clampedMean = (y: number, b: number, n: number, c: number): number => y - Math.max(0, b - c) / Math.max(1, n);

/** Brightest samples of light that a clamp is for; 0 where the brightest is of the other kind. */
function brightestOf(picture: Picture, kind: 'direct' | 'indirect'): Float32Array {
  const paths = channel(picture, 'brightest.path');
  return channel(picture, 'brightest.value').map((v, i) => (isDirect(paths[i]) === (kind === 'direct') ? v : 0));
}

/** From the brightest clamp down to the darkest. @param at fireflies that it is for */
function clampCurve(picture: Picture, y: Float32Array, brightest: Float32Array, at: number[]): ClampPoint[] {
  const { width, height } = picture;
  const samples = channel(picture, 'samples');
  const top = at.reduce((most, i) => Math.max(most, brightest[i]), 0);
  const light = y.reduce((sum, v) => sum + (v - v === 0 ? v : 0), 0);
  const after = new Float32Array(y.length);
  const points: ClampPoint[] = [];
  for (let k = 0; k <= STOPS * STEPS_A_STOP; k++) {
    const clamp = rounded(top * 2 ** (-k / STEPS_A_STOP));
    let taken = 0;
    for (let i = 0; i < y.length; i++) {
      after[i] = clampedMean(y[i], brightest[i], samples[i], clamp);
      if (y[i] - y[i] === 0) taken += y[i] - after[i];
    }
    const { mask } = findFireflies({ luminance: after, width, height });
    const left = at.reduce((sum, i) => sum + mask[i], 0) / at.length;
    points.push({ clamp, left, taken: light > 0 ? taken / light : 0 });
    if (left === 0 || clamp < LEAST_CLAMP) break;
  }
  return points;
}

/** Two digits: nobody sets a clamp finer. */
const rounded = (value: number): number => Number(value.toPrecision(2));
const tellValue = (value: number): string => (value >= 100 ? value.toFixed(0) : String(value));

function clampRemedy(
  { picture }: DiagnosisInput,
  y: Float32Array,
  brightest: Float32Array,
  mask: Uint8Array,
  region: Region,
  pointer: string,
  { clamp, left }: ClampPoint,
): Remedy {
  const [samples, error] = ['samples', 'error.beauty'].map((name) => channel(picture, name));
  const after = y.map((v, i) => clampedMean(v, brightest[i], samples[i], clamp));
  // The brightest sample adds (b/N)² to the squared error of a mean of N.
  const errorAfter = error.map((s, i) => {
    const n = Math.max(1, samples[i]);
    const [b, c] = [brightest[i] / n, Math.min(brightest[i], clamp) / n];
    return Math.sqrt(Math.max(0, s * s - b * b + c * c));
  });
  const crop = (plane: Float32Array) => cropPlane(picture, plane, region);
  const [before, later, inside] = [crop(y), crop(after), cropPlane(picture, Float32Array.from(mask), region)];
  // Fireflies are elsewhere in the next render: what counts is what the clamp takes of the pixels between them.
  const sum = (plane: Float32Array) => plane.reduce((all, v, i) => (inside[i] ? all : all + v), 0);
  return {
    id: 'clamp',
    title: `Clamp at ${tellValue(clamp)}: ${left === 0 ? 'none' : `${Math.round(left * 100)} %`} left`,
    values: { [pointer]: clamp },
    predicted: {
      stops: Math.log2(sum(later) / sum(before)) || 0,
      cost: 1,
      grainBefore: grainOf(before, crop(error)),
      grainAfter: grainOf(later, crop(errorAfter)),
    },
  };
}

function chartOf(curve: ClampPoint[], now: number | null, enough: number): EvidenceChart {
  const [{ clamp: top }] = curve;
  const below = (clamp: number) => Math.max(0, Number(Math.log2(top / clamp).toFixed(2)));
  return {
    title: 'Fireflies left by a clamp',
    xLabel: `stops below the brightest sample, ${tellValue(top)}`,
    yLabel: '% of the fireflies',
    yMax: 100,
    points: curve.map(({ clamp, left }) => [below(clamp), 100 * left]),
    marks: [
      ...(now === null ? [] : [{ x: below(now), label: `now ${now}`, kind: 'now' as const }]),
      { x: below(enough), label: tellValue(enough), kind: 'enough' },
    ],
  };
}
