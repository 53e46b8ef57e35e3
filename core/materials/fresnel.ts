/**
 * Reflectance of a smooth dielectric for unpolarised light.
 * Source: Hecht, Optics, section 4.6 (Fresnel equations).
 * @param cosine of the angle of incidence, 0–1
 * @param eta index of refraction of the far side over that of the near side
 * @returns 0–1; 1 beyond the critical angle
 */
export function fresnelDielectric(cosine: number, eta: number): number {
  const sine2 = (1 - cosine * cosine) / (eta * eta);
  if (sine2 >= 1) return 1;
  const far = Math.sqrt(1 - sine2);
  const s = (cosine - eta * far) / (cosine + eta * far);
  const p = (eta * cosine - far) / (eta * cosine + far);
  return 0.5 * (s * s + p * p);
}

/** Schlick's weight (1 − cosine)⁵ between reflectance at normal and at grazing incidence. Source: Schlick 1994. */
export function schlickWeight(cosine: number): number {
  const m = 1 - cosine;
  const m2 = m * m;
  return m2 * m2 * m;
}
