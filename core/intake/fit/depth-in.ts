/** Our depth limits in a target's counting. */
import type { Sheet } from '../../document/schema.ts';
import type { Target } from './target.ts';

export interface DepthThere {
  /** As the target would call it. */
  name: string;
  /** Our limits it stands for. */
  ours: (keyof Sheet['limits'])[];
  /** What to set there, before its most. */
  value: number;
  /** Our limits as they come out when the target goes no further; null where it goes far enough. */
  cutTo: Partial<Sheet['limits']> | null;
}

/** @example depthIn(heron, { diffuse: 4, transmission: 20, … }); // diffuse 3 (direct light is 0), transmission 10 (bodies) */
export function depthIn({ depth, integrator }: Target, limits: Sheet['limits']): DepthThere[] {
  const { direct, glass, limits: sort, most } = depth;
  const there = (name: string, ours: DepthThere['ours'], value: number, back: (n: number) => number): DepthThere => ({
    name,
    ours,
    value,
    cutTo: value > most ? Object.fromEntries(ours.map((kind) => [kind, Math.min(limits[kind], back(most))])) : null,
  });
  // Where all bounces count as one, a limit that holds for all kinds must be the largest.
  if (sort === 'one') {
    const kinds = ['diffuse', 'specular', 'transmission', 'volume'] as const;
    const largest = Math.min(limits.overall, Math.max(...kinds.map((kind) => limits[kind])));
    return [there('depth', ['overall'], largest - 1 + direct, (n) => n + 1 - direct)];
  }
  const faces = glass === 'faces';
  return [
    ...(integrator === 'all bounces'
      ? [there('diffuse', ['diffuse'] as const as DepthThere['ours'], Math.max(0, limits.diffuse - 1 + direct), (n) => n + 1 - direct)]
      : []),
    there('specular', ['specular'], limits.specular, (n) => n),
    there('transmission', ['transmission'], faces ? limits.transmission : Math.ceil(limits.transmission / 2), (n) => (faces ? n : n * 2)),
    there('volume', ['volume'], limits.volume, (n) => n),
  ]; // prettier-ignore
}
