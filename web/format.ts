/** Figures as people read them: unit, sensible digits. */
import type { PreflightSummary } from '../core/contracts/intake.ts';
import { countSeverities } from './severity-words.ts';

export const number = (value: number, digits = 0): string =>
  value.toLocaleString('en', { minimumFractionDigits: digits, maximumFractionDigits: digits });

export const percent = (share: number): string =>
  share > 0 && share < 0.005 ? '< 1 %' : `${Math.round(share * 100)} %`;

export function stops(value: number): string {
  const shown = Math.abs(value).toFixed(1);
  return shown === '0.0' ? '0.0' : `${value > 0 ? '+' : '−'}${shown}`;
}

export const times = (factor: number): string => `× ${factor >= 10 ? factor.toFixed(0) : factor.toFixed(2)}`;

/** Linear radiance with three significant digits. */
export const radiance = (value: number): string =>
  value === 0 ? '0' : Math.abs(value) < 1e-4 || Math.abs(value) >= 1e4 ? value.toExponential(1) : value.toPrecision(3);

export function duration(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  return `${(seconds / 3600).toFixed(1)} h`;
}

/** Seconds of one row, all in the unit that suits the longest: "0.5 h", "1.6 h". */
export function durations(seconds: number[]): string[] {
  const most = Math.max(...seconds);
  const [unit, size] = most >= 5400 ? ['h', 3600] : most >= 90 ? ['min', 60] : ['s', 1];
  const digits = most / Number(size) >= 100 ? 0 : most / Number(size) >= 10 ? 1 : 2;
  return seconds.map((value) => `${number(value / Number(size), digits)} ${unit}`);
}

export function count(value: number): string {
  if (value >= 1e9) return `${(value / 1e9).toFixed(1)} G`;
  if (value >= 1e6) return `${(value / 1e6).toFixed(1)} M`;
  if (value >= 1e4) return `${(value / 1e3).toFixed(0)} k`;
  return number(value);
}

/** How far noise is seen, in display steps of 255 with shadows boosted. */
export const noiseGrade = (noise: number): string =>
  noise < 1 ? 'unseen' : noise < 2 ? 'hard to see' : noise < 5 ? 'seen' : 'plain';

const PASS_NAMES: Record<string, string> = {
  uv: 'UV',
  beauty: 'Beauty',
  emission: 'Emission',
  background: 'Background',
  samples: 'Samples',
  cost: 'Cost',
  crossings: 'Crossings',
};
/** "cut.transmission" → "Cut: transmission", "diffuse.direct" → "Diffuse direct". */
export function passName(pass: string): string {
  const [family, ...rest] = pass.split('.');
  if (PASS_NAMES[pass]) return PASS_NAMES[pass];
  const name = family[0].toUpperCase() + family.slice(1);
  return family === 'cut' || family === 'error' ? `${name}: ${rest.join(' ')}` : [name, ...rest].join(' ');
}

/** What the checks of a version come to, in a word or two. */
export function tellPreflight(summary: PreflightSummary | null | undefined): string {
  if (!summary || summary.state === 'waiting') return 'checking …';
  if (summary.state === 'failed') return 'not checked';
  return countSeverities(summary) || 'clear';
}
