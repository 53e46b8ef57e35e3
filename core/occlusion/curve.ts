/**
 * What an occlusion pass tells at each distance: shares open, shut and in between, and the information in it, as the entropy of
 * its values (Shannon, "A Mathematical Theory of Communication", 1948). Where all is open or all is shut there is none.
 */
import { opennessAt, type OcclusionRule, type TracedDistances } from './distances.ts';

export interface OcclusionAt {
  metres: number;
  /** Mean openness, 0–1; shares of the places that are open, shut and in between. */
  mean: number;
  open: number;
  shut: number;
  between: number;
  /** Bits a place, 0 to 4. */
  information: number;
}

export interface OcclusionCurve {
  /** From the nearest that occludes anything to beyond the farthest, logarithmically. */
  points: OcclusionAt[];
  /** Without a distance. */
  unlimited: OcclusionAt;
  /** Metres between which the pass tells most, and the middle of them, as people would set it; null: nothing occludes anything. */
  best: { from: number; to: number; metres: number } | null;
}

const [OPEN, SHUT] = [0.95, 0.05];
/** Values that a pass is told by: half a stop in the middle greys. */
const BINS = 16;
const POINTS = 48;
/** Of the most information, what still tells nearly as much. */
const NEAR = 0.85;

export function occlusionCurve(traced: TracedDistances, rule: OcclusionRule): OcclusionCurve {
  const out = new Float32Array(traced.places.length);
  const at = (metres: number) => figuresOf(opennessAt(traced, metres, rule, out), metres);
  const unlimited = at(Infinity);
  const [from, to] = spanOf(traced.first);
  if (!(to > 0)) return { points: [], unlimited, best: null };
  const points = Array.from({ length: POINTS }, (_, k) => at(from * (to / from) ** (k / (POINTS - 1))));
  const peak = points.reduce((best, one, k) => (one.information > points[best].information ? k : best), 0);
  const isNear = (k: number) => points[k]?.information >= NEAR * points[peak].information;
  let [low, high] = [peak, peak];
  while (isNear(low - 1)) low--;
  while (isNear(high + 1)) high++;
  const metres = +Math.sqrt(points[low].metres * points[high].metres).toPrecision(2);
  return { points, unlimited, best: { from: points[low].metres, to: points[high].metres, metres } };
}

/** Figures of a pass. @param values 0 shut to 1 open */
export function figuresOf(values: Float32Array, metres: number): OcclusionAt {
  const bins = new Float64Array(BINS);
  let [sum, open, shut] = [0, 0, 0];
  for (const value of values) {
    sum += value;
    if (value >= OPEN) open++;
    else if (value <= SHUT) shut++;
    bins[Math.min(BINS - 1, Math.floor(value * BINS))]++;
  }
  const n = Math.max(1, values.length);
  let information = 0;
  for (const count of bins) if (count > 0) information -= (count / n) * Math.log2(count / n);
  return { metres, mean: sum / n, open: open / n, shut: shut / n, between: 1 - (open + shut) / n, information };
}

/** Metres from the nearest hundredth of what occludes to just beyond the farthest; zeros where nothing does. */
function spanOf(first: Float32Array): [number, number] {
  const met = first.filter((metres) => metres > 0 && metres < Infinity).sort();
  if (met.length === 0) return [0, 0];
  return [Math.max(1e-6, met[Math.floor(met.length / 200)] / 2), met[met.length - 1] * 1.2];
}

/** Standard error of a pass's place by so many rays, the binomial's (Wilson, "Probable Inference …", 1927, without its continuity). */
export const errorBy = (openness: number, rays: number): number => Math.sqrt((openness * (1 - openness)) / rays);
