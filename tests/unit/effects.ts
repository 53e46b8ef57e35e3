/** Effects as tests read them: the figures they check most, by short names. */
import type { Effect } from '../../core/contracts/figures.ts';
import { changeOf, frameChangeOf, sidesOf, valueIn } from '../../core/figures/effect.ts';

export interface Read {
  /** Change of brightness, stops. */
  stops: number;
  /** Rays after over before, in the region and in the frame. */
  rays: number;
  frameRays: number;
  noiseBefore: number;
  noiseAfter: number;
  fireflies: { before: number | null; after: number | null };
  mostChanged: { object: string; stops: number } | null;
}

/** @throws Error where there is no effect */
export function read(effect: Effect | null): Read {
  if (!effect) throw new Error('nothing was predicted, or measured');
  const noise = sidesOf(effect, 'noise');
  const most = valueIn(effect, 'most-changed');
  const { before, after } = sidesOf(effect, 'fireflies');
  return {
    stops: changeOf(effect, 'brightness')!,
    rays: changeOf(effect, 'rays')!,
    frameRays: frameChangeOf(effect, 'rays')!,
    noiseBefore: noise.before!,
    noiseAfter: noise.after!,
    fireflies: { before, after },
    mostChanged: most?.of ? { object: most.of, stops: changeOf(effect, 'most-changed')! } : null,
  };
}
