/**
 * A film-like curve with a toe and a long shoulder. Source: Hable, Filmic Tonemapping Operators (2010), with its
 * constants, an exposure bias of 2, white at 11.2 and a display gamma of 2.2.
 */
import type { ViewTransform } from './transform.ts';

const [A, B, C, D, E, F] = [0.15, 0.5, 0.1, 0.2, 0.02, 0.3];
const WHITE = 11.2;
const BIAS = 2;

const curve = (x: number) => (x * (A * x + C * B) + D * E) / (x * (A * x + B) + D * F) - E / F;

export const definition: ViewTransform = {
  name: 'Filmic',
  source: 'Hable, Filmic Tonemapping Operators, 2010',
  display: (linear) => Math.max(0, curve(BIAS * linear) / curve(WHITE)) ** (1 / 2.2),
};
