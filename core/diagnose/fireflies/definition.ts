/**
 * Fireflies of a render: found in the beauty, traced by the brightest sample that each of their pixels kept, grouped by
 * the way the light came. Remedies change how the light is met, or what it may bring; what each would do is told by
 * tracing the guilty samples again and by rendering the region small.
 */
import type { EvidenceChart, Finding, Severity } from '../../contracts/finding.ts';
import { channel, isInRegion, type Picture, type Region } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { luminancePlane, strongestWindow } from '../../picture/measured.ts';
import { FIREFLY_PASSES, singleFireflies } from '../../picture/single-fireflies.ts';
import { EFFECT_PASSES } from '../../predict/effect-of.ts';
import type { Diagnosis, DiagnosisInput } from '../diagnosis.ts';
import { caseOf } from './case.ts';
import { causesOf, TRACED } from './causes.ts';
import { clampCurve, clampKindOf, enoughOf, type ClampKind, type ClampPoint } from './clamp-curve.ts';
import { evaluate } from './evaluate.ts';
import { clampsFor, TOLD_KIND, tellClamp } from './remedies/clamp.ts';
import { samplesNeeded } from './remedies/more-samples.ts';
import { proposers } from './remedies/registry.ts';

/** Fewer of them are taken out by hand. */
const FEWEST = 4;
/** A share of the pixels from which the picture cannot be used. */
const MANY = 5e-4;
/** Sizes of a trial's region, as shares of the frame: the smallest that holds enough of them to count. */
const REGIONS = [[0.25, 0.3], [0.35, 0.42], [0.5, 0.6], [0.7, 0.8], [1, 1]]; // prettier-ignore
const ENOUGH = 40;
const CAUSES_TOLD = 3;
const KINDS: ClampKind[] = ['bounced', 'indirect', 'direct'];
const BRIGHTEST = ['value', 'path', 'light', 'first', 'second'].map((part) => `brightest.${part}`);

export const fireflies: Diagnosis = {
  id: 'fireflies',
  title: 'Fireflies',
  needs: [...new Set([...FIREFLY_PASSES, ...EFFECT_PASSES, ...TRACED, ...BRIGHTEST])],
  examine(input) {
    const { picture } = input;
    const at = singleFireflies(picture);
    if (at.length < FEWEST) return [];
    const mask = new Uint8Array(picture.width * picture.height);
    for (const i of at) mask[i] = 1;
    return [{ mask, finding: explain(input, at, mask) }];
  },
};

function explain(input: DiagnosisInput, at: number[], mask: Uint8Array): Finding {
  const { picture, sheet, document } = input;
  const { width, height } = picture;
  const region = regionOf(picture, mask, Math.min(ENOUGH, 0.75 * at.length));
  const objects = objectNames(document);
  const names = (object: number) => objects[object];
  const causes = causesOf(input, at);
  const [first] = causes;
  const paths = channel(picture, 'brightest.path');
  const kinds = KINDS.map((kind) => ({ kind, own: at.filter((i) => clampKindOf(paths[i]) === kind) }));
  const [{ kind, own }] = kinds.sort((a, b) => b.own.length - a.own.length);
  const curve = clampCurve(picture, kind, own);
  const chosen = enoughOf(curve);
  const of = caseOf(input, at);
  const proposals = [...proposers.flatMap((propose) => propose(of) ?? []), ...clampsFor(picture, kind, own, names)];
  const remedies = evaluate(input, proposals, at, region, names);
  const severity: Severity = at.length > MANY * width * height ? 'caution' : 'note';
  const told = causes.slice(0, CAUSES_TOLD).map(({ told: way, pixels }) => `${pixels} came by ${way}`);
  const more = causes.length > CAUSES_TOLD ? `, the rest in ${causes.length - CAUSES_TOLD} other ways` : '';
  const here = at.filter((i) => isInRegion(region, i % width, Math.floor(i / width))).length;
  const enough = samplesNeeded(here, region, sheet.samples);
  const energy = energyOf(input, at);
  const held = energy >= 0.005 ? `, holding ${share(energy)} of the light` : '';
  return {
    family: 'fireflies',
    key: 'fireflies',
    severity,
    sentence: `${at.length} fireflies${held}: ${first.pixels === at.length ? 'all' : first.pixels} in ${first.pass.replace('.', ' ')}.`,
    cause: `Light met by chance: ${first.told}`,
    why: `${told.join('; ')}${more}. Samples alone would cure them at about ${enough.toLocaleString('en')} a pixel; fewer make each fainter and find more of them. A clamp of ${tellClamp(chosen.clamp)} on ${TOLD_KIND[kind]} leaves ${share(chosen.left)} of the ${own.length} that came so and takes ${share(chosen.taken)} of the picture’s light.`,
    region,
    passes: [first.pass, 'brightest.value', 'brightest.path', 'clamped'],
    dials: [{ pointer: `/clamps/${kind}`, needs: chosen.clamp, note: sheet.clamps[kind] === null ? 'off' : null }],
    chart: chartOf(curve, sheet.clamps[kind], chosen.clamp),
    remedies,
    isElsewhereNext: true,
  };
}

function regionOf(picture: Picture, mask: Uint8Array, least: number): Region {
  const { width, height } = picture;
  const windows = REGIONS.map(([w, h]) => strongestWindow(picture, mask, Math.ceil(width * w), Math.ceil(height * h)));
  const count = (region: Region) => mask.reduce((n, one, i) => n + (one && isInRegion(region, i % width, Math.floor(i / width)) ? 1 : 0), 0); // prettier-ignore
  return windows.find((region) => count(region) >= least) ?? windows.at(-1)!;
}

const share = (x: number): string => `${x >= 0.995 ? 100 : Math.round(x * 100)} %`;

/** Share of the picture's light that stands in these pixels. */
function energyOf({ picture }: DiagnosisInput, at: number[]): number {
  const y = luminancePlane(picture, 'beauty');
  const light = y.reduce((sum, v) => sum + (v - v === 0 ? v : 0), 0);
  return light > 0 ? at.reduce((sum, i) => sum + y[i], 0) / light : 0;
}

function chartOf(curve: ClampPoint[], now: number | null, enough: number): EvidenceChart {
  const [{ clamp: top }] = curve;
  const below = (clamp: number) => Math.max(0, Number(Math.log2(top / clamp).toFixed(2)));
  return {
    title: 'What a clamp leaves and takes',
    xLabel: `stops below the brightest sample, ${tellClamp(top)}`,
    yLabel: '% of the fireflies left',
    yMax: 100,
    points: curve.map(({ clamp, left }) => [below(clamp), 100 * left]),
    more: [{ label: '% of the light taken', points: curve.map(({ clamp, taken }) => [below(clamp), 100 * taken]) }],
    marks: [
      ...(now === null ? [] : [{ x: below(now), label: `now ${now}`, kind: 'now' as const }]),
      { x: below(enough), label: tellClamp(enough), kind: 'enough' },
    ],
  };
}
