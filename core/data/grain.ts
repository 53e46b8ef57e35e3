/**
 * Visible grain: how far noise moves a pixel on the display after the trade's shadow check, two stops
 * up and gamma 1.25, in display steps of 255.
 */
import { srgbFromLinear } from './colour.ts';

/** Display value, 0–255, of luminance `y` with shadows boosted. */
export function boostedDisplay(y: number): number {
  return 255 * srgbFromLinear(Math.min(1, 4 * Math.max(0, y))) ** (1 / 1.25);
}

/** Display value, 0–255, of luminance `y` as it is, for what the boost blows out. */
export function plainDisplay(y: number): number {
  return 255 * srgbFromLinear(Math.min(1, Math.max(0, y)));
}

/** Visible grain of a pixel of luminance `y` whose standard error is `sigma`, display steps. */
export function visibleGrain(y: number, sigma: number, display = boostedDisplay): number {
  return (display(y + sigma) - display(y - sigma)) / 2;
}

/** Root mean square of visible grain over pixels; `scale` multiplies every standard error. */
export function grainOf(
  luminances: ArrayLike<number>,
  errors: ArrayLike<number>,
  scale = 1,
  display = boostedDisplay,
): number {
  let sum = 0;
  for (let i = 0; i < luminances.length; i++) sum += visibleGrain(luminances[i], errors[i] * scale, display) ** 2;
  return luminances.length ? Math.sqrt(sum / luminances.length) : 0;
}

/**
 * Weight of a pixel's variance in visible grain: (grain / σ)², so that Σ weight·variance is the squared
 * grain. Taken at the pixel's own noise, where the display curve is far from straight in the shadows.
 */
export function grainWeight(y: number, sigma: number, display = boostedDisplay): number {
  const s = Math.max(sigma, 1e-6);
  return (visibleGrain(y, s, display) / s) ** 2;
}
