/**
 * A clear daylight sky and its sun, by turbidity and where the sun stands.
 *
 * Sources: the sky's luminance and chromaticity, and the sun's spectral radiance and what the air takes of it, are those of
 * Preetham, Shirley & Smits, "A Practical Analytic Model for Daylight", SIGGRAPH 1999 (appendices A.1, A.2), without the mixed
 * gases and vapour, which take next to nothing of visible light; relative optical mass by Kasten (1966), as quoted there;
 * colour matching functions by Wyman, Sloan & Shirley, "Simple Analytic Approximations to the CIE XYZ Color Matching
 * Functions", JCGT 2013.
 *
 * Luminances become radiances of linear Rec.709 by 179 lm/W, the efficacy of white light (Ward, "The RADIANCE Lighting
 * Simulation and Rendering System", SIGGRAPH 1994). Below the horizon stands ground of one albedo, lit by sky and sun.
 *
 * @example
 * const sky = new Daylight({ elevation: 32, azimuth: 140, turbidity: 3, groundAlbedo: 0.2 });
 * sky.radiance(0, 1, 0, out);        // of the zenith, W/(sr m²)
 * sky.sun;                           // its irradiance at normal incidence, W/m²
 */
import { sunDirection, type Triple } from '../data/placement.ts';
import type { Texture } from '../data/texture.ts';

export interface DaylightSpec {
  /** Of the sun; degrees above the horizon, and from north (−Z) towards east (+X). */
  elevation: number;
  azimuth: number;
  /** Haze: 2 is very clear, 3 clear, 6 light haze; the model was made for 2 to 10. */
  turbidity: number;
  /** Share of the light on it that the ground below the horizon sends back, 0–1. */
  groundAlbedo: number;
}

/** lm/W. */
const EFFICACY = 179;
const KILO = 1000;
/** Cosine of the angle to the zenith, least: at the horizon itself the model has no value. */
const LEAST_COSINE = 1e-3;

/** Perez coefficients A to E, each slope × turbidity + offset: of luminance, and of chromaticity x and y. */
const PEREZ_Y = [[0.1787, -1.463], [-0.3554, 0.4275], [-0.0227, 5.3251], [0.1206, -2.5771], [-0.067, 0.3703]]; // prettier-ignore
const PEREZ_x = [[-0.0193, -0.2592], [-0.0665, 0.0008], [-0.0004, 0.2125], [-0.0641, -0.8989], [-0.0033, 0.0452]]; // prettier-ignore
const PEREZ_y = [[-0.0167, -0.2608], [-0.095, 0.0092], [-0.0079, 0.2102], [-0.0441, -1.6537], [-0.0109, 0.0529]]; // prettier-ignore
/** Chromaticity of the zenith: rows by T², T, 1; columns by θ³, θ², θ, 1. */
const ZENITH_x = [[0.00166, -0.00375, 0.00209, 0], [-0.02903, 0.06377, -0.03202, 0.00394], [0.11693, -0.21196, 0.06052, 0.25886]]; // prettier-ignore
const ZENITH_y = [[0.00275, -0.0061, 0.00317, 0], [-0.04214, 0.0897, -0.04153, 0.00516], [0.15346, -0.26756, 0.0667, 0.26688]]; // prettier-ignore

/** The sun's spectral radiance outside the air, W/(m² sr nm), from 380 nm in steps of 10. */
const SUN = [16559, 16233.7, 21127.5, 25888.2, 25829.1, 24232.3, 26760.5, 29658.3, 30545.4, 30057.5, 30663.7, 28830.4, 28712.1, 27825, 27100.6, 27233.6, 26361.3, 25503.8, 25060.2, 25311.6, 25355.9, 25134.2, 24631.5, 24173.2, 23685.3, 23212.1, 22827.7, 22339.8, 21970.2, 21526.7, 21097.9, 20728.3, 20240.4, 19870.8, 19427.2, 19072.4, 18628.9, 18259.2]; // prettier-ignore
/** Ozone's absorption, 1/cm, from 450 nm in steps of 10, and centimetres of it. */
const OZONE = [0.003, 0.006, 0.009, 0.014, 0.021, 0.03, 0.04, 0.048, 0.063, 0.075, 0.085, 0.103, 0.12, 0.12, 0.115, 0.125, 0.12, 0.105, 0.09, 0.079, 0.067, 0.057, 0.048, 0.036, 0.028, 0.023, 0.018, 0.014, 0.011, 0.01, 0.009]; // prettier-ignore
const OZONE_FROM = 450;
const OZONE_CM = 0.35;
const SPECTRUM_FROM = 380;
const SPECTRUM_STEP = 10;
/** Degrees that the sun is wide. */
export const SUN_SIZE = 0.53;

/** Rows and columns of the grid that its irradiance is summed over. */
const IRRADIANCE_ROWS = 64;
const IRRADIANCE_COLUMNS = 128;

type Coefficients = number[];
const at = (table: number[][], turbidity: number): Coefficients => table.map(([slope, offset]) => slope * turbidity + offset); // prettier-ignore

/** @param cosine of the angle to the zenith. @param gamma radians to the sun */
const perez = ([a, b, c, d, e]: Coefficients, cosine: number, gamma: number): number =>
  (1 + a * Math.exp(b / Math.max(LEAST_COSINE, cosine))) * (1 + c * Math.exp(d * gamma) + e * Math.cos(gamma) ** 2);

/** kcd/m². @param theta radians of the sun from the zenith */
export const zenithLuminance = (turbidity: number, theta: number): number =>
  (4.0453 * turbidity - 4.971) * Math.tan((4 / 9 - turbidity / 120) * (Math.PI - 2 * theta)) - 0.2155 * turbidity + 2.4192; // prettier-ignore

function zenithChromaticity(table: number[][], t: number, theta: number): number {
  const powers = [theta ** 3, theta ** 2, theta, 1];
  const [p, q, r] = table.map((row) => row.reduce((sum, value, i) => sum + value * powers[i], 0));
  return t * t * p + t * q + r;
}

const lobe = (l: number, mean: number, below: number, above: number): number =>
  Math.exp(-0.5 * ((l - mean) / (l < mean ? below : above)) ** 2);
/** X, Y and Z of a wavelength, nm. */
function matching(l: number): Triple {
  return [
    1.056 * lobe(l, 599.8, 37.9, 31) + 0.362 * lobe(l, 442, 16, 26.7) - 0.065 * lobe(l, 501.1, 20.4, 26.2),
    0.821 * lobe(l, 568.8, 46.9, 40.5) + 0.286 * lobe(l, 530.9, 16.3, 31.1),
    1.217 * lobe(l, 437, 11.8, 36) + 0.681 * lobe(l, 459, 26, 13.8),
  ];
}

/** Linear Rec.709 (D65), with what lies outside of it brought to its edge. */
function rec709(x: number, y: number, z: number, out: Float64Array | number[]): void {
  out[0] = Math.max(0, 3.2404542 * x - 1.5371385 * y - 0.4985314 * z);
  out[1] = Math.max(0, -0.969266 * x + 1.8760108 * y + 0.041556 * z);
  out[2] = Math.max(0, 0.0556434 * x - 0.2040259 * y + 1.0572252 * z);
}

/** Air that light passes from a height, in thicknesses of the atmosphere. @param elevation degrees, 0 or more */
export const opticalMass = (elevation: number): number =>
  1 / (Math.sin((elevation * Math.PI) / 180) + 0.15 * (3.885 + elevation) ** -1.253);

/** The sun's irradiance at normal incidence, linear Rec.709, W/m². @param elevation degrees */
export function sunIrradiance({ elevation, turbidity }: Pick<DaylightSpec, 'elevation' | 'turbidity'>): Triple {
  if (elevation < 0) return [0, 0, 0];
  const mass = opticalMass(elevation);
  const beta = Math.max(0, 0.04608365822050653 * turbidity - 0.04586025928522026);
  const sum = [0, 0, 0];
  SUN.forEach((radiance, i) => {
    const l = SPECTRUM_FROM + i * SPECTRUM_STEP;
    const micron = l / 1000;
    const rayleigh = Math.exp(-0.008735 * micron ** -4.08 * mass);
    const aerosol = Math.exp(-beta * micron ** -1.3 * mass);
    const ozone = Math.exp(-(OZONE[(l - OZONE_FROM) / SPECTRUM_STEP] ?? 0) * OZONE_CM * mass);
    const arrives = radiance * SPECTRUM_STEP * rayleigh * aerosol * ozone;
    matching(l).forEach((share, a) => (sum[a] += arrives * share));
  });
  const solidAngle = 2 * Math.PI * (1 - Math.cos((SUN_SIZE * Math.PI) / 360));
  const [x, y, z] = sum.map((value) => (value * solidAngle * 683) / EFFICACY);
  const out: Triple = [0, 0, 0];
  rec709(x, y, z, out);
  return out;
}

export class Daylight {
  /** Unit direction to the sun. */
  readonly direction: Triple;
  /** The sun's irradiance at normal incidence, W/m². */
  readonly sun: Triple;
  /** Of the ground below the horizon, W/(sr m²). */
  readonly ground: Triple = [0, 0, 0];
  private readonly isDay: boolean;
  private readonly y: Coefficients;
  private readonly cx: Coefficients;
  private readonly cy: Coefficients;
  /** Of the zenith over what the formula has there: luminance in kcd/m², chromaticity. */
  private readonly luminance: number;
  private readonly x0: number;
  private readonly y0: number;

  constructor(spec: DaylightSpec) {
    const { elevation, turbidity: t, groundAlbedo } = spec;
    this.direction = sunDirection(spec);
    this.isDay = elevation >= 0;
    const theta = ((90 - elevation) * Math.PI) / 180;
    [this.y, this.cx, this.cy] = [PEREZ_Y, PEREZ_x, PEREZ_y].map((table) => at(table, t));
    const cosine = Math.cos(theta);
    const [one, two, three] = [this.y, this.cx, this.cy].map((coefficients) => perez(coefficients, 1, theta));
    this.luminance = Math.max(0, zenithLuminance(t, theta)) / one;
    this.x0 = zenithChromaticity(ZENITH_x, t, theta) / two;
    this.y0 = zenithChromaticity(ZENITH_y, t, theta) / three;
    this.sun = sunIrradiance(spec);
    const sky = this.skyIrradiance();
    for (let a = 0; a < 3; a++) this.ground[a] = (groundAlbedo * (sky[a] + Math.max(0, cosine) * this.sun[a])) / Math.PI;
  } // prettier-ignore

  /** Writes the sky's radiance in a unit direction, the sun itself left out, to `out[0..2]`; black at night. */
  radiance(x: number, y: number, z: number, out: Float64Array | number[]): void {
    if (!this.isDay || y < 0) {
      for (let a = 0; a < 3; a++) out[a] = this.ground[a];
      return;
    }
    const [sx, sy, sz] = this.direction;
    const gamma = Math.acos(Math.min(1, Math.max(-1, x * sx + y * sy + z * sz)));
    const bright = (this.luminance * perez(this.y, y, gamma) * KILO) / EFFICACY;
    const cx = this.x0 * perez(this.cx, y, gamma);
    const cy = this.y0 * perez(this.cy, y, gamma);
    rec709((cx / cy) * bright, bright, ((1 - cx - cy) / cy) * bright, out);
  }

  /** What the sky alone gives to level ground, W/m². */
  skyIrradiance(): Triple {
    const sum: Triple = [0, 0, 0];
    const out = [0, 0, 0];
    for (let row = 0; row < IRRADIANCE_ROWS; row++) {
      // Even in cosine squared, so that each direction counts the same.
      const cosine = Math.sqrt((row + 0.5) / IRRADIANCE_ROWS);
      const sine = Math.sqrt(1 - cosine * cosine);
      for (let column = 0; column < IRRADIANCE_COLUMNS; column++) {
        const a = (2 * Math.PI * (column + 0.5)) / IRRADIANCE_COLUMNS;
        this.radiance(sine * Math.sin(a), cosine, sine * Math.cos(a), out);
        for (let c = 0; c < 3; c++) sum[c] += out[c];
      }
    }
    return sum.map((value) => (Math.PI * value) / (IRRADIANCE_ROWS * IRRADIANCE_COLUMNS)) as Triple;
  }

  /**
   * A factor by which matt white on level ground is as bright as a display’s white.
   * @returns 1 at night, when nothing is lit
   */
  exposure(): number {
    const sky = this.skyIrradiance();
    const lit = sky.map((value, a) => value + Math.max(0, this.direction[1]) * this.sun[a]);
    const bright = 0.2126 * lit[0] + 0.7152 * lit[1] + 0.0722 * lit[2];
    return bright > 0 ? Math.PI / bright : 1;
  }
}

/** Rows of the sky as an image: texels of a third of a degree are finer than anything in it but the sun. */
export const DAYLIGHT_ROWS = 256;

/** The sky as a lat-long image, see `sky.ts` for how it lies; without the sun, which is a light of its own. */
export function daylightTexture(spec: DaylightSpec, rows = DAYLIGHT_ROWS): Texture {
  const sky = new Daylight(spec);
  const [width, height] = [rows * 2, rows];
  const texels = new Float32Array(width * height * 3);
  const out = [0, 0, 0];
  for (let row = 0; row < height; row++) {
    const latitude = Math.PI * (0.5 - (row + 0.5) / height);
    const [level, up] = [Math.cos(latitude), Math.sin(latitude)];
    for (let column = 0; column < width; column++) {
      const longitude = Math.PI * (1 - (2 * (column + 0.5)) / width);
      sky.radiance(level * Math.sin(longitude), up, level * Math.cos(longitude), out);
      texels.set(out, (row * width + column) * 3);
    }
  }
  return { width, height, texels, alpha: null };
}
