/**
 * How a surface scatters: glTF 2.0's metallic-roughness model with KHR_materials_transmission and
 * KHR_materials_ior, over GGX microfacets. Three lobes, since limits, passes and extra samples are
 * kept per kind: diffuse, specular (reflection, internal too) and transmission.
 *
 * Radiance is carried divided by the square of the index of refraction ("basic radiance"), so
 * crossing a face needs no factor; emission is stated as it would be measured in air.
 *
 * The diffuse base is dimmed by 1 − F(n·wo), and all that lies below a coat (KHR_materials_clearcoat) by the
 * same of the coat. That keeps energy but is not reciprocal; paths are only ever built from the camera, so
 * nothing depends on reciprocity.
 *
 * A thin wall reflects 2R/(1 + R), both its faces and all that passes between them, and bends nothing.
 *
 * @example
 * const surface = new Surface();
 * surface.set(0.8, 0.8, 0.8, 0, 0.5, 1.5, 0);
 * surface.setCoat(1, 0.05);
 * surface.setOutgoing(0, 0, 1);
 * if (surface.sample(u0, u1, u2)) follow(surface.out, surface.kind);
 */
import type { f64, i32 } from '../data/numbers.ts';
import { turn } from '../data/turns.ts';
import { luminance } from '../data/colour.ts';
import { fresnelDielectric, schlickWeight } from './fresnel.ts';
import { ggxLambda, sampleVisibleNormal, visibleNormalDensity } from './ggx.ts';

export const DIFFUSE = 0;
export const SPECULAR = 1;
export const TRANSMISSION = 2;
/** In fog: no surface has it, but paths count it as a kind like the others. */
export const VOLUME = 3;
export const KINDS = 4;

/** Below this alpha (roughness 0.03) a lobe is a single direction. */
const SHARP = 9e-4;

/** Offsets in `Surface.out`: sampled direction, weight f·cos/density, density in 1/sr (0 for a sharp lobe). */
export const OUT_X = 0;
export const OUT_Y = 1;
export const OUT_Z = 2;
export const OUT_R = 3;
export const OUT_G = 4;
export const OUT_B = 5;
export const OUT_DENSITY = 6;

export class Surface {
  /** Result of `sample`, see the offsets above. Density includes the chance of choosing the lobe. */
  readonly out = new Float64Array(7);
  /** Result of `evaluate`: per lobe f·cos in R, G, B and the density with which `sample` would take it. */
  readonly lobes = new Float64Array(12);
  kind: i32 = DIFFUSE;
  /** Light from any direction but one is worth evaluating: some lobe below or in the coat is not a mirror. */
  get isRough(): boolean {
    return !this.sharp || this.coatRough;
  }

  private sharp = false;
  private coatRough = false;
  private readonly p = new Float64Array(24);
  private readonly h = new Float64Array(3);

  /**
   * @param r g b base colour, linear
   * @param eta index of refraction behind the surface over that in front of it
   * @param specular factor on the reflection of what is neither metal nor glass
   * @param thin whether each face is a thin wall
   */
  set(
    r: number,
    g: number,
    b: number,
    metallic: number,
    roughness: number,
    eta: number,
    transmission: number,
    specular: f64 = 1,
    thin = false,
  ): void {
    const p = this.p;
    p[BASE_R] = r;
    p[BASE_G] = g;
    p[BASE_B] = b;
    p[METALLIC] = metallic;
    p[ALPHA] = roughness * roughness;
    p[ETA] = eta;
    p[GLASS] = (1 - metallic) * transmission;
    p[OPAQUE] = (1 - metallic) * (1 - transmission);
    p[STRENGTH] = transmission > 0 ? 1 : specular;
    p[THIN] = thin ? 1 : 0;
    p[COAT] = 0;
    this.sharp = p[ALPHA] < SHARP;
    this.coatRough = false;
  }

  /** Puts a clear coat of index 1.5 over what was set; strength and perceptual roughness 0–1. */
  setCoat(strength: number, roughness: number): void {
    const p = this.p;
    p[COAT] = strength;
    p[COAT_ALPHA] = roughness * roughness;
    this.coatRough = strength > 0 && p[COAT_ALPHA] >= SHARP;
  }

  /** Reflectance of the wall or face that was set, for a facet seen under `cosine`. */
  private fresnel(cosine: number): number {
    const p = this.p;
    const f = fresnelDielectric(cosine, p[ETA]);
    return p[THIN] > 0 ? (2 * f) / (1 + f) : f * p[STRENGTH];
  }

  /** Takes the unit outgoing direction (towards where the path came from), in the frame of the normal, z > 0. */
  setOutgoing(x: number, y: number, z: number): void {
    const p = this.p;
    p[WO_X] = x;
    p[WO_Y] = y;
    p[WO_Z] = z;
    const f = p[OPAQUE] > 0 ? this.fresnel(z) : 0;
    const base = (1 - f) * luminance(p[BASE_R], p[BASE_G], p[BASE_B]);
    p[FRESNEL] = f;
    p[CHOOSE_SPECULAR] = base > 0 ? (f > 0 ? Math.min(0.9, Math.max(0.1, f / (f + base))) : 0) : 1;
    if (p[COAT] > 0) {
      const c = p[COAT] * fresnelDielectric(z, COAT_INDEX);
      p[BELOW] = 1 - c;
      p[CHOOSE_COAT] = Math.min(0.9, Math.max(0.1, c));
    }
  }

  /** Draws a direction; false when the sample carries nothing. */
  sample(u0: number, u1: number, u2: number): boolean {
    const p = this.p;
    if (p[COAT] === 0) return this.sampleBase(u0, u1, u2);
    const { out } = this;
    const c = p[CHOOSE_COAT];
    if (u0 < c) {
      if (!this.sampleCoat(u1, u2)) return false;
    } else {
      if (!this.sampleBase((u0 - c) / (1 - c), u1, u2)) return false;
      const below = p[BELOW] / (1 - c);
      out[OUT_R] *= below;
      out[OUT_G] *= below;
      out[OUT_B] *= below;
      out[OUT_DENSITY] *= 1 - c;
    }
    if (this.kind === SPECULAR && this.coatRough && !this.sharp) {
      // Coat and base reflect into the same directions: one lobe, drawn by a mixture of both.
      const { lobes } = this;
      this.evaluate(out[OUT_X], out[OUT_Y], out[OUT_Z]);
      if (!(lobes[7] > 0)) return false;
      out[OUT_R] = lobes[4] / lobes[7];
      out[OUT_G] = lobes[5] / lobes[7];
      out[OUT_B] = lobes[6] / lobes[7];
      out[OUT_DENSITY] = lobes[7];
    }
    return true;
  }

  private sampleCoat(u1: number, u2: number): boolean {
    const { p, h, out } = this;
    if (this.coatRough) sampleVisibleNormal(p[WO_X], p[WO_Y], p[WO_Z], p[COAT_ALPHA], u1, u2, h);
    else {
      h[0] = h[1] = 0;
      h[2] = 1;
    }
    const oh = p[WO_X] * h[0] + p[WO_Y] * h[1] + p[WO_Z] * h[2];
    out[OUT_X] = 2 * oh * h[0] - p[WO_X];
    out[OUT_Y] = 2 * oh * h[1] - p[WO_Y];
    const z = (out[OUT_Z] = 2 * oh * h[2] - p[WO_Z]);
    this.kind = SPECULAR;
    if (z <= 0) return false;
    const f = p[COAT] * fresnelDielectric(oh, COAT_INDEX);
    const weight = (f * (this.coatRough ? shadowing(p[WO_Z], z, p[COAT_ALPHA]) : 1)) / p[CHOOSE_COAT];
    out[OUT_R] = out[OUT_G] = out[OUT_B] = weight;
    out[OUT_DENSITY] = this.coatRough
      ? (p[CHOOSE_COAT] * visibleNormalDensity(p[WO_Z], oh, h[2], p[COAT_ALPHA])) / (4 * oh)
      : 0;
    return true;
  }

  private sampleBase(u0: number, u1: number, u2: number): boolean {
    const p = this.p;
    const metallic = p[METALLIC];
    const opaque = p[OPAQUE];
    let u = u0;
    if (u < metallic) return this.reflect(u1, u2);
    u -= metallic;
    if (u < opaque) return u / opaque < p[CHOOSE_SPECULAR] ? this.reflect(u1, u2) : this.scatter(u1, u2);
    return this.glass((u - opaque) / p[GLASS], u1, u2);
  }

  private scatter(u1: number, u2: number): boolean {
    const { p, out } = this;
    const r = Math.sqrt(u1);
    turn(u2, out);
    const z = Math.sqrt(Math.max(0, 1 - u1));
    out[OUT_X] *= r;
    out[OUT_Y] *= r;
    out[OUT_Z] = z;
    const weight = (1 - p[FRESNEL]) / (1 - p[CHOOSE_SPECULAR]);
    out[OUT_R] = weight * p[BASE_R];
    out[OUT_G] = weight * p[BASE_G];
    out[OUT_B] = weight * p[BASE_B];
    out[OUT_DENSITY] = (p[OPAQUE] * (1 - p[CHOOSE_SPECULAR]) * z) / Math.PI;
    this.kind = DIFFUSE;
    return z > 0;
  }

  private facet(u1: number, u2: number): number {
    const { p, h } = this;
    if (this.sharp) {
      h[0] = h[1] = 0;
      h[2] = 1;
    } else sampleVisibleNormal(p[WO_X], p[WO_Y], p[WO_Z], p[ALPHA], u1, u2, h);
    return p[WO_X] * h[0] + p[WO_Y] * h[1] + p[WO_Z] * h[2];
  }

  private glass(choose: number, u1: number, u2: number): boolean {
    const { p, h, out } = this;
    const oh = this.facet(u1, u2);
    if (choose < this.fresnel(oh)) return this.mirror(oh);
    if (p[THIN] > 0) return this.straight();
    const eta = p[ETA];
    const sine2 = (1 - oh * oh) / (eta * eta);
    if (sine2 >= 1) return false;
    const k = oh / eta - Math.sqrt(1 - sine2);
    out[OUT_X] = k * h[0] - p[WO_X] / eta;
    out[OUT_Y] = k * h[1] - p[WO_Y] / eta;
    const z = (out[OUT_Z] = k * h[2] - p[WO_Z] / eta);
    this.kind = TRANSMISSION;
    if (z >= 0) return false;
    const shadowed = this.sharp || eta === 1 ? 1 : shadowing(p[WO_Z], -z, p[ALPHA]);
    out[OUT_R] = shadowed * p[BASE_R];
    out[OUT_G] = shadowed * p[BASE_G];
    out[OUT_B] = shadowed * p[BASE_B];
    // Matched indices bend nothing, however rough: a single direction again.
    const single = this.sharp || eta === 1;
    out[OUT_DENSITY] = single
      ? 0
      : this.transmissionDensity(oh, h[2], out[OUT_X] * h[0] + out[OUT_Y] * h[1] + z * h[2]);
    return true;
  }

  private straight(): boolean {
    const { p, out } = this;
    out[OUT_X] = -p[WO_X];
    out[OUT_Y] = -p[WO_Y];
    out[OUT_Z] = -p[WO_Z];
    out[OUT_R] = p[BASE_R];
    out[OUT_G] = p[BASE_G];
    out[OUT_B] = p[BASE_B];
    out[OUT_DENSITY] = 0;
    this.kind = TRANSMISSION;
    return true;
  }

  private reflect(u1: number, u2: number): boolean {
    return this.mirror(this.facet(u1, u2));
  }

  private mirror(oh: number): boolean {
    const { p, h, out } = this;
    out[OUT_X] = 2 * oh * h[0] - p[WO_X];
    out[OUT_Y] = 2 * oh * h[1] - p[WO_Y];
    const z = (out[OUT_Z] = 2 * oh * h[2] - p[WO_Z]);
    this.kind = SPECULAR;
    if (z <= 0) return false;
    const chance = this.reflectance(oh);
    const weight = (this.sharp ? 1 : shadowing(p[WO_Z], z, p[ALPHA])) / chance;
    out[OUT_R] = weight * this.h[0];
    out[OUT_G] = weight * this.h[1];
    out[OUT_B] = weight * this.h[2];
    out[OUT_DENSITY] = this.sharp ? 0 : chance * p[FACET_DENSITY];
    return true;
  }

  /**
   * Reflectance of a facet seen under `oh`, left in `h` (whose normal is used up by then), with the
   * facet's density of reflected directions in FACET_DENSITY. Returns the chance of reflecting.
   */
  private reflectance(oh: number): number {
    const { p, h } = this;
    const hz = h[2];
    const m = p[METALLIC];
    const s = m > 0 ? schlickWeight(oh) : 0;
    const f = m < 1 ? this.fresnel(oh) : 0;
    p[FACET_DENSITY] = this.sharp ? 0 : visibleNormalDensity(p[WO_Z], oh, hz, p[ALPHA]) / (4 * oh);
    h[0] = m * (p[BASE_R] + (1 - p[BASE_R]) * s) + (1 - m) * f;
    h[1] = m * (p[BASE_G] + (1 - p[BASE_G]) * s) + (1 - m) * f;
    h[2] = m * (p[BASE_B] + (1 - p[BASE_B]) * s) + (1 - m) * f;
    return m + p[OPAQUE] * p[CHOOSE_SPECULAR] + p[GLASS] * f;
  }

  private transmissionDensity(oh: number, hz: number, ih: number): number {
    const p = this.p;
    const eta = p[ETA];
    const d = oh + eta * ih;
    const f = fresnelDielectric(oh, eta);
    const jacobian = (eta * eta * Math.abs(ih)) / (d * d);
    return p[GLASS] * (1 - f) * visibleNormalDensity(p[WO_Z], oh, hz, p[ALPHA]) * jacobian;
  }

  /** Fills `lobes` for the unit direction (x, y, z) towards a light; sharp lobes give nothing. */
  evaluate(x: number, y: number, z: number): void {
    const { p, lobes } = this;
    this.evaluateBase(x, y, z);
    if (p[COAT] === 0) return;
    const c = p[CHOOSE_COAT];
    for (let k = 0; k < 12; k++) lobes[k] *= (k & 3) === 3 ? 1 - c : p[BELOW];
    if (z <= 0 || !this.coatRough) return;
    let hx = p[WO_X] + x;
    let hy = p[WO_Y] + y;
    let hz = p[WO_Z] + z;
    const length = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz);
    hx *= length;
    hy *= length;
    hz *= length;
    const oh = p[WO_X] * hx + p[WO_Y] * hy + p[WO_Z] * hz;
    if (oh <= 0) return;
    const density = visibleNormalDensity(p[WO_Z], oh, hz, p[COAT_ALPHA]) / (4 * oh);
    const value = p[COAT] * fresnelDielectric(oh, COAT_INDEX) * shadowing(p[WO_Z], z, p[COAT_ALPHA]) * density;
    lobes[4] += value;
    lobes[5] += value;
    lobes[6] += value;
    lobes[7] += c * density;
  }

  private evaluateBase(x: number, y: number, z: number): void {
    const { p, lobes, h } = this;
    lobes.fill(0);
    if (z > 0 && p[OPAQUE] > 0) {
      const c = (p[OPAQUE] * (1 - p[FRESNEL]) * z) / Math.PI;
      lobes[0] = c * p[BASE_R];
      lobes[1] = c * p[BASE_G];
      lobes[2] = c * p[BASE_B];
      lobes[3] = (p[OPAQUE] * (1 - p[CHOOSE_SPECULAR]) * z) / Math.PI;
    }
    if (this.sharp || z === 0) return;
    const eta = z > 0 ? 1 : p[ETA];
    if (z < 0 && (p[GLASS] === 0 || eta === 1 || p[THIN] > 0)) return;
    let hx = p[WO_X] + eta * x;
    let hy = p[WO_Y] + eta * y;
    let hz = p[WO_Z] + eta * z;
    const length = (hz < 0 ? -1 : 1) / Math.sqrt(hx * hx + hy * hy + hz * hz);
    hx *= length;
    hy *= length;
    hz *= length;
    const oh = p[WO_X] * hx + p[WO_Y] * hy + p[WO_Z] * hz;
    const ih = x * hx + y * hy + z * hz;
    if (oh <= 0) return;
    if (z > 0) {
      h[2] = hz;
      const chance = this.reflectance(oh);
      const value = shadowing(p[WO_Z], z, p[ALPHA]) * p[FACET_DENSITY];
      lobes[4] = value * h[0];
      lobes[5] = value * h[1];
      lobes[6] = value * h[2];
      lobes[7] = chance * p[FACET_DENSITY];
    } else if (ih < 0) {
      const density = this.transmissionDensity(oh, hz, ih);
      const value = shadowing(p[WO_Z], -z, p[ALPHA]) * density;
      lobes[8] = value * p[BASE_R];
      lobes[9] = value * p[BASE_G];
      lobes[10] = value * p[BASE_B];
      lobes[11] = density;
    }
  }
}

// Slots of the parameter block: everything a query needs, in one flat array.
const BASE_R = 0;
const BASE_G = 1;
const BASE_B = 2;
const METALLIC = 3;
const ALPHA = 4;
const ETA = 5;
const GLASS = 6;
const OPAQUE = 7;
const WO_X = 8;
const WO_Y = 9;
const WO_Z = 10;
const FRESNEL = 11;
const CHOOSE_SPECULAR = 12;
const FACET_DENSITY = 13;
const STRENGTH = 14;
const THIN = 15;
const COAT = 16;
const COAT_ALPHA = 17;
const CHOOSE_COAT = 18;
/** What the coat lets through to all that lies below it. */
const BELOW = 19;

const COAT_INDEX = 1.5;

/** G₂/G₁ of height-correlated Smith shadowing. Source: Heitz 2014, equation 99. */
function shadowing(woZ: number, wiZ: number, alpha: number): number {
  const o = 1 + ggxLambda(woZ, alpha);
  return o / (o + ggxLambda(wiZ, alpha));
}
