/**
 * Upstream first: where light ends at a limit or glass is black, noise and fireflies of the same place are others once that is
 * put right. Proved by the counterfactual: the place is rendered small with the upstream finding's first remedy, and what
 * remains is told. Source of the reasoning: Pearl, "Causality", 2009, chapter 7.
 */
import type { FindingWithMask } from '../contracts/finding.ts';
import { valueIn, tellFigure } from '../figures/effect.ts';
import { predictChanges } from '../predict/predict-change.ts';
import type { AnyReading, Family, RenderInput } from './family.ts';
import { changesOf } from './forecast.ts';
import { lower } from './words.ts';

interface Found extends FindingWithMask {
  isUpstream: boolean;
  isIndependent: boolean;
  /** Null for what is no family's reading of a render. */
  reading: AnyReading<RenderInput> | null;
}

/** Share of a finding's place that must lie in the place of what explains it. */
const SHARED = 0.25;
/** What goes with the upstream cause before nothing is left worth dealing with first. */
const GONE = 0.9;

/** Findings that others explain say so, with what remains without those. */
export function upstreamFirst(
  input: RenderInput,
  findings: FindingWithMask[],
  families: readonly Family[],
): FindingWithMask[] {
  const found = findings.map((one) => withReading(one, families));
  const causes = found.filter(
    ({ isUpstream, finding }) => isUpstream && finding.remedies[0]?.change?.kind === 'values',
  );
  return found
    .map((one) => {
      if (one.isUpstream || one.isIndependent || !one.reading) return one;
      const above = causes.filter((cause) => sharedPlace(one, cause, input.picture.width) >= SHARED);
      return above.reduce((so, cause) => explainedBy(input, so, cause), one);
    })
    .map(({ finding, mask }) => ({ finding, mask }));
}

function withReading({ finding, mask }: FindingWithMask, families: readonly Family[]): Found {
  const reading = families.find(({ id }) => id === finding.family)?.render;
  const cause = finding.of === 'render' ? reading?.causes.find(({ id }) => id === finding.cause) : undefined;
  return {
    finding,
    mask,
    isUpstream: cause?.isUpstream === true,
    isIndependent: cause?.isIndependent === true,
    reading: (cause && reading) ?? null,
  };
}

function explainedBy(input: RenderInput, one: Found, { finding: cause }: Found): Found {
  const { finding, reading, mask } = one;
  const [remedy] = cause.remedies;
  if (remedy.change?.kind !== 'values') return one;
  const of = { region: finding.where.region!, mask, isElsewhereNext: finding.isElsewhereNext };
  const [effect] = predictChanges(changesOf(input, of), [input.vary(remedy.change.values)]);
  const figure = reading!.figure ? valueIn(effect, reading!.figure) : undefined;
  const share = reading!.goesWith?.(effect) ?? 0;
  const remains = figure ? `: with “${lower(remedy.title)}”, ${tellFigure(figure)}` : '';
  const why = `${finding.why} Check it again after “${lower(cause.headline)}”${remains}.`;
  const after = [...(finding.after ?? []), cause.key];
  return { ...one, finding: { ...finding, why, after, ...(share >= GONE ? { severity: 'note' as const } : {}) } };
}

/** Share of what one finding marks, inside its region, that another marks as well. */
function sharedPlace(one: Found, other: Found, width: number): number {
  const region = one.finding.where.region;
  if (!region || !other.mask) return 0;
  let [own, both] = [0, 0];
  for (let y = region.y; y < region.y + region.height; y++)
    for (let x = region.x; x < region.x + region.width; x++) {
      const i = y * width + x;
      if (one.mask && !one.mask[i]) continue;
      own += 1;
      both += other.mask[i];
    }
  return own > 0 ? both / own : 0;
}
