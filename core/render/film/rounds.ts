/** In which steps a render's tiles reach their samples: doubling, so that a whole rough picture comes first. */
import { GROUP } from './random.ts';

/** Groups after the next round, from `done` towards `target`. */
export function nextRound(done: number, target: number): number {
  return Math.min(target, Math.max(1, done * 2));
}

export const groupsOf = (samples: number): number => samples / GROUP;
export const samplesOf = (groups: number): number => groups * GROUP;
