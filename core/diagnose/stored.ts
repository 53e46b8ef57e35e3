/** Findings and effects as earlier builds stored them, in the shape they have now: predictions stay what they were. */
import type { Effect, FigureValue } from '../contracts/figures.ts';
import type { Evidence, Finding, Remedy } from '../contracts/finding.ts';
import type { FindingLine } from '../contracts/events.ts';
import { withFigures } from '../figures/effect.ts';

interface OldEffect {
  stops: number;
  cost: number;
  frameCost?: number;
  grainBefore: number;
  grainAfter: number;
  fireflies?: { before: number; after: number };
  look?: { object: string; stops: number } | null;
}

const isOldEffect = (value: object): value is OldEffect => 'grainBefore' in value;

/** @param stored an effect of any build */
export function upgradeEffect(stored: Effect | OldEffect): Effect {
  if (!isOldEffect(stored)) return stored;
  const { stops, cost, frameCost, grainBefore, grainAfter, fireflies, look } = stored;
  const figures: FigureValue[] = [
    { id: 'brightness', before: 0, after: stops },
    { id: 'rays', before: 1, after: cost, ...(frameCost === undefined ? {} : { frame: frameCost }) },
    { id: 'noise', before: grainBefore, after: grainAfter },
    ...(fireflies ? [{ id: 'fireflies', ...fireflies }] : []),
    ...(look === undefined ? [] : [look ? { id: 'most-changed', of: look.object, before: 0, after: look.stops } : { id: 'most-changed', before: null, after: null }]),
  ]; // prettier-ignore
  return withFigures({ figures: [] }, figures);
}

interface OldFinding extends Pick<Finding, 'key' | 'severity' | 'sentence' | 'cause' | 'why' | 'dials' | 'isElsewhereNext'> {
  family: string;
  region: { x: number; y: number; width: number; height: number };
  passes: string[];
  chart: { title: string; xLabel: string; yLabel: string; yMax: number; points: [number, number][]; more?: { label: string; points: [number, number][] }[]; marks: Extract<Evidence, { kind: 'curve' }>['marks'] } | null;
  bars?: Extract<Evidence, { kind: 'shares' }>['bars'];
  remedies: { id: string; title: string; values: Record<string, unknown>; predicted: OldEffect; note?: string }[];
} // prettier-ignore

/** Keys of earlier builds in those of this one; a cause is what the key tells. */
const KEYS: Record<string, { key: string; cause: string }> = {
  'cut-short.transmission': { key: 'limits.transmission', cause: 'limits.transmission' },
  'cut-short.specular': { key: 'limits.specular', cause: 'limits.specular' },
  'cut-short.diffuse': { key: 'limits.diffuse', cause: 'limits.diffuse' },
  fireflies: { key: 'fireflies', cause: 'fireflies.unclamped-bounce' },
  grain: { key: 'noise', cause: 'noise.pixel-samples' },
  'grain.bright': { key: 'noise.bright', cause: 'noise.bright-parts' },
  'grain.spare': { key: 'noise.spare', cause: 'noise.more-than-needed' },
  'reflections.facets': { key: 'normals.faceted', cause: 'normals.faceted' },
  'reflections.environment': { key: 'lighting.environment-coarse', cause: 'lighting.environment-coarse' },
};

/** @param stored a finding of any build */
export function upgradeFinding(stored: Finding | OldFinding): Finding {
  if ('where' in stored) return stored;
  const { key, cause } = KEYS[stored.key] ?? { key: stored.key, cause: `${stored.family}.unknown` };
  const { region, passes, chart, bars, remedies, dials, severity, sentence, why, isElsewhereNext } = stored;
  const evidence: Evidence[] = [];
  if (bars?.length) evidence.push({ kind: 'shares', title: 'Where it comes from', bars });
  if (chart) {
    const series = [{ label: chart.yLabel, points: chart.points }, ...(chart.more ?? [])];
    evidence.push({ kind: 'curve', title: chart.title, x: { label: chart.xLabel }, y: { label: chart.yLabel, max: chart.yMax }, series, marks: chart.marks }); // prettier-ignore
  }
  return {
    of: 'render',
    family: cause.slice(0, cause.indexOf('.')),
    cause,
    causes: [{ id: cause, share: 1 }],
    key,
    severity,
    sentence,
    headline: stored.cause,
    why,
    where: { region, pixels: 0, objects: [], passes },
    dials,
    evidence,
    remedies: remedies.map(({ id, title, values, predicted, note }): Remedy => ({
      id,
      title,
      change: { kind: 'values', values },
      predicted: upgradeEffect(predicted),
      ...(note ? { note } : {}),
    })),
    ...(isElsewhereNext ? { isElsewhereNext } : {}),
  };
}

/** What lists show of a finding. */
export const lineOf = ({
  of,
  family,
  cause,
  check,
  key,
  severity,
  sentence,
  after,
  remedies,
}: Finding): FindingLine => ({
  of,
  family,
  cause,
  ...(check === undefined ? {} : { check }),
  key,
  severity,
  sentence,
  ...(after === undefined ? {} : { after }),
  firstRemedy: remedies.find(({ change }) => change !== null)?.id ?? null,
});
