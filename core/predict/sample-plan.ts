/**
 * The cheapest samples that reach a noise target, from measured variances and ray counts.
 *
 * With n_k samples of kind k behind each of N camera samples the variance is V = (V₀ + Σ V_k/n_k + C/max n) / N: diffuse,
 * specular and transmission share the draws that they have in common (the C term). What each is comes from pairs of renders (see
 * `sample-pilot.ts`), and a plan is rendered itself before it is believed.
 * Source: Neyman 1934; Cochran, Sampling Techniques; whole numbers are found by search.
 */
import type { ExtraKind } from '../document/schema.ts';
import { keyOf, type ExtraSamples, type Measured, type MeasureSamples } from './sample-pilot.ts';

export interface SampleModel {
  /** Weighted variance of one group's mean at given extra samples. */
  variance(extra: ExtraSamples): number;
  /** Rays of one group of 4 samples. */
  rays(extra: ExtraSamples): number;
  /** Weighted variance that more samples of each kind would lower; `camera` is what only samples per pixel lower. */
  parts: Record<PlannedKind | 'camera', number>;
  /** Rays of one group that are of each kind, as the sheet stands. */
  cost: Record<PlannedKind | 'camera', number>;
  /** Takes what was measured at some counts in place of what the formula says of them. */
  learn(extra: ExtraSamples): void;
}

/** Kinds that lower noise in the beauty; occlusion samples serve a pass of their own. */
export type PlannedKind = Exclude<ExtraKind, 'occlusion'>;
export const PLANNED_KINDS: readonly PlannedKind[] = ['diffuse', 'specular', 'transmission', 'volume', 'light'];
/** They are drawn together at the first hit. */
const SPLIT: readonly PlannedKind[] = ['diffuse', 'specular', 'transmission'];

/** Samples of a kind that it is held against: four for one, which take three quarters of what more can; one for more than one. */
const heldAgainst = (now: number): number => (now > 1 ? 1 : 4);
/** Differences of measured variances are never quite sure: no plan is believed to leave less than this share. */
const LEAST = 0.004;
/** Share of the rays that must change before a kind is in the picture at all. */
const THERE = 0.002;

/**
 * @param total weighted variance of one group's mean over all pixels that count, at `now`, as a film measured it: the pilot has
 *   fewer, and is held to it
 */
export function sampleModel(measure: MeasureSamples, total: number, now: ExtraSamples): SampleModel {
  const first = measure(now);
  const scale = first.variance > 0 ? total / first.variance : 0;
  const other = (kinds: readonly PlannedKind[]): ExtraSamples => ({ ...now, ...Object.fromEntries(kinds.map((kind) => [kind, heldAgainst(now[kind])])) }); // prettier-ignore
  const change = (kinds: readonly PlannedKind[]) => {
    const then = measure(other(kinds));
    return { rays: then.rays - first.rays, drop: (first.variance - then.variance) * scale };
  };
  const singles = PLANNED_KINDS.map((kind) => ({ kind, ...change([kind]) })).filter(({ rays }) => Math.abs(rays) > THERE * first.rays); // prettier-ignore
  const split = singles.filter(({ kind }) => SPLIT.includes(kind));
  const most = (e: ExtraSamples) => Math.max(1, ...split.map(({ kind }) => e[kind]));

  /** Of 1/n of a kind, and of the greatest count of all: how much of it goes with the other counts. */
  const left = (kind: PlannedKind) => 1 / now[kind] - 1 / heldAgainst(now[kind]);
  const shared = (kinds: readonly PlannedKind[]) => 1 / most(now) - 1 / most(other(kinds));
  let common = 0;
  if (split.length > 1) {
    const kinds = split.map(({ kind }) => kind);
    const apart = split.reduce((sum, { drop }) => sum + drop, 0) - change(kinds).drop;
    const weight = kinds.reduce((sum, kind) => sum + shared([kind]), 0) - shared(kinds);
    if (Math.abs(weight) > 1e-9) common = apart / weight;
  }
  const amount = new Map(
    singles.map(({ kind, drop }) => {
      const own = SPLIT.includes(kind) ? drop - common * shared([kind]) : drop;
      return [kind, own / left(kind)] as const;
    }),
  );
  const within = (e: ExtraSamples) => [...amount].reduce((sum, [kind, v]) => sum + v / e[kind], common / most(e));
  const rest = total - within(now);
  const raysOf = new Map(singles.map(({ kind, rays }) => [kind, rays / (heldAgainst(now[kind]) - now[kind])]));
  const fixed = first.rays - [...raysOf].reduce((sum, [kind, rays]) => sum + rays * now[kind], 0);

  const learned = new Map<string, Measured>([[keyOf(now), { variance: total, rays: first.rays }]]);
  /** What any number of a kind would take, with what it shares with others. */
  const lowers = (kind: PlannedKind) => Math.max(0, within(now) - within({ ...now, [kind]: Infinity }));
  const drops = Object.fromEntries(PLANNED_KINDS.map((kind) => [kind, lowers(kind)])) as Record<PlannedKind, number>;
  const costs = Object.fromEntries(PLANNED_KINDS.map((kind) => [kind, (raysOf.get(kind) ?? 0) * now[kind]])) as Record<PlannedKind, number>; // prettier-ignore
  const explained = Object.values(drops).reduce((a, b) => a + b, 0);
  return {
    variance: (e) => learned.get(keyOf(e))?.variance ?? Math.max(LEAST * total, rest + within(e)),
    rays: (e) =>
      learned.get(keyOf(e))?.rays ?? Math.max(0, fixed) + [...raysOf].reduce((sum, [kind, rays]) => sum + rays * e[kind], 0), // prettier-ignore
    parts: { ...drops, camera: Math.max(0, total - explained) },
    cost: { ...costs, camera: Math.max(0, fixed) },
    learn(extra) {
      const { variance, rays } = measure(extra);
      learned.set(keyOf(extra), { variance: variance * scale, rays });
    },
  };
}

export interface Plan {
  /** Samples per pixel, a multiple of 4. */
  samples: number;
  extra: ExtraSamples;
  /** Rays a pixel. */
  rays: number;
}

const CHOICES = [1, 2, 3, 4, 6, 8, 12, 16];
const MOST_SAMPLES = 65536;
/** One group alone has no spread, so that no trial could tell its noise. */
const LEAST_GROUPS = 2;
/** A mixture must pay for being one. */
const WORTH = 0.98;
/** Plans that are rendered, at most, until the cheapest that is left is one that was. */
const PROOFS = 3;

/** Samples per pixel that bring the variance of the mean to `target`, with these extra samples. */
export function planFor(model: SampleModel, target: number, extra: ExtraSamples): Plan {
  const groups = Math.max(LEAST_GROUPS, Math.ceil(model.variance(extra) / target));
  const samples = Math.min(MOST_SAMPLES, groups * 4);
  return { samples, extra, rays: (samples / 4) * model.rays(extra) };
}

/** The plan with the fewest rays among all mixtures of extra samples, as the model stands. */
export function cheapestPlan(model: SampleModel, target: number, fewest: ExtraSamples): Plan {
  let best = planFor(model, target, fewest);
  const { occlusion } = fewest;
  // What costs nothing is not there.
  const choices = (kind: PlannedKind) => (model.cost[kind] > 0 ? CHOICES : [fewest[kind]]);
  for (const volume of choices('volume'))
    for (const light of choices('light'))
      for (const diffuse of choices('diffuse'))
        for (const specular of choices('specular'))
          for (const transmission of choices('transmission')) {
            const extra = { light, diffuse, specular, transmission, volume, occlusion };
            const plan = planFor(model, target, extra);
            if (plan.rays < best.rays * WORTH) best = plan;
          }
  return best;
}

/** Share by which measured plans are alike: of those the simplest is taken, for the luckiest would be no better. */
const ALIKE = 0.1;

/**
 * The cheapest plan that was rendered: the model proposes, and learns from each that it proposed. One sample of each kind is
 * always among them.
 */
export function provenPlan(model: SampleModel, target: number, now: ExtraSamples): Plan {
  const ones = { ...now, ...Object.fromEntries(PLANNED_KINDS.map((kind) => [kind, model.cost[kind] > 0 ? 1 : now[kind]])) }; // prettier-ignore
  const proven = new Map([[keyOf(now), now]]);
  const prove = (extra: ExtraSamples) => {
    if (proven.has(keyOf(extra))) return false;
    model.learn(extra);
    proven.set(keyOf(extra), extra);
    return true;
  };
  prove(ones);
  let proofs = 0;
  while (proofs < PROOFS && prove(cheapestPlan(model, target, now).extra)) proofs += 1;
  const plans = [...proven.values()].map((extra) => planFor(model, target, extra));
  const least = Math.min(...plans.map(({ rays }) => rays));
  const [plain] = plans;
  if (plain.rays * WORTH <= least) return plain;
  const size = ({ extra }: Plan) => PLANNED_KINDS.reduce((sum, kind) => sum + extra[kind], 0);
  return plans
    .filter(({ rays }) => rays <= least * (1 + ALIKE))
    .sort((p, q) => size(p) - size(q) || p.rays - q.rays)[0];
}
