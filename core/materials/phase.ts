/**
 * The phase function of fog. Source: Henyey & Greenstein, "Diffuse Radiation in the Galaxy", 1941.
 * Sampled exactly, so its value is also the density of its samples.
 */

/** 1/sr; `cosine` between the way of flight before and after, `g` the mean cosine. */
export function henyeyGreenstein(cosine: number, g: number): number {
  const d = 1 + g * g - 2 * g * cosine;
  return (1 - g * g) / (4 * Math.PI * d * Math.sqrt(d));
}

/** Cosine of a sampled deflection. */
export function sampleHenyeyGreenstein(u: number, g: number): number {
  if (Math.abs(g) < 1e-3) return 1 - 2 * u;
  const s = (1 - g * g) / (1 - g + 2 * g * u);
  return (1 + g * g - s * s) / (2 * g);
}
