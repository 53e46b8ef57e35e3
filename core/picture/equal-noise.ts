/**
 * How many samples one picture needs to be as clean as another: the variance of means falls as 1/N. By the typical noise
 * of each brightness, so that a few bright pixels do not decide.
 *
 * @example
 * equalNoise(a, b, 64, 64);   // [{ zone: 'shadows', factor: 4.1, samples: 262 }]
 */
import { ZONES, type PictureNoise, type Zone } from './noise.ts';

export interface EqualNoise {
  zone: Zone;
  /** So many times its own samples. */
  factor: number;
  /** The number that comes to; null where its own is not known. */
  samples: number | null;
}

/** A zone that both have in less than this share of their pixels says nothing. */
const LEAST_SHARE = 0.03;

/** @param samples that B was made with, null where nobody knows. @returns what B needs to have the noise of A */
export function equalNoise(a: PictureNoise, b: PictureNoise, samples: number | null): EqualNoise[] {
  return ZONES.flatMap((zone) => {
    const [p, q] = [a.zones[zone], b.zones[zone]];
    if (Math.min(p.share, q.share) < LEAST_SHARE || p.typical <= 0 || q.typical <= 0) return [];
    const factor = (q.typical / p.typical) ** 2;
    return [{ zone, factor, samples: samples === null ? null : Math.ceil(samples * factor) }];
  });
}

/** @param b what the picture is called. @returns one sentence a zone */
export const tellEqualNoise = ({ zone, factor, samples }: EqualNoise, a: string, b: string): string => {
  const needs = factor >= 10 ? factor.toFixed(0) : factor.toFixed(2);
  const told = samples === null ? '' : ` (${samples})`;
  return Math.abs(Math.log2(factor)) < 0.07
    ? `${b} is as clean as ${a} in the ${zone}.`
    : `${b} needs ${needs} × its samples${told} to be as clean as ${a} in the ${zone}.`;
};
