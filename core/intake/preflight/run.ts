/**
 * Preflight: every check on a scene, against what the show expects.
 *
 * @example
 * const results = runPreflight(scene, defaultProfile(), null);
 */
import type { ShotDocument } from '../../document/schema.ts';
import type { SourceScene } from '../../formats/source-scene.ts';
import type { Check, CheckResult, CheckState } from './check.ts';
import type { Profile, Threshold } from './profile.ts';
import { CHECKS } from './registry.ts';
import { Scene } from './scene.ts';

/**
 * @param document where the scene is a shot of ours
 * @param tell called before each check with its number and how many there are
 */
export function runPreflight(
  source: SourceScene,
  profile: Profile,
  document: ShotDocument | null,
  tell: (done: number, all: number) => void = () => {},
): CheckResult[] {
  const scene = new Scene(source, profile, document);
  return CHECKS.map((check, i) => {
    tell(i, CHECKS.length);
    return resultOf(check, scene);
  });
}

function resultOf(check: Check, scene: Scene): CheckResult {
  const { id, group, title, why } = check;
  const base = { id, group, title, why, offenders: [], repair: null };
  if (scene.profile.off.includes(id))
    return { ...base, state: 'not-run', expected: '', found: 'the profile does without it' };
  const found = check.run(scene);
  if (typeof found === 'string') return { ...base, state: 'not-run', expected: '', found };
  const { threshold = check.threshold } = { threshold: scene.profile.thresholds[id] };
  const state = stateOf(found.amount ?? found.offenders.length, threshold);
  return {
    ...base,
    state,
    expected: found.expected,
    found: found.found,
    offenders: state === 'clear' ? [] : found.offenders,
    repair: state === 'clear' ? null : (found.repair ?? null),
  };
}

function stateOf(amount: number, { caution, stop }: Threshold): CheckState {
  if (stop !== null && amount >= stop) return 'stop';
  return caution !== null && amount >= caution ? 'caution' : 'clear';
}

/** The worst of them. */
export const overall = (results: CheckResult[]): 'clear' | 'caution' | 'stop' =>
  results.some(({ state }) => state === 'stop')
    ? 'stop'
    : results.some(({ state }) => state === 'caution')
      ? 'caution'
      : 'clear';
