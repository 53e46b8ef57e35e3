/** Where light goes that a path has found: its pass, its light group and the beauty, clamped if the sheet says so. */
import type { i32 } from '../../data/numbers.ts';
import { luminance } from '../../data/colour.ts';
import { BACKGROUND, BEAUTY, EMISSION, BRIGHTEST, MEAN_CLAMPED, MEANS } from '../film/passes.ts';
import type { PathState } from './path-state.ts';
import type { Recorder } from './recorder.ts';
import type { PathSettings } from '../scene/path-settings.ts';

/** What rays are sent for. */
export const RAY_NAMES = ['camera', 'diffuse', 'specular', 'transmission', 'volume', 'shadow', 'occlusion'] as const;
export const SHADOW = 5;
export const OCCLUSION = 6;
const RAY_KINDS = RAY_NAMES.length;

export class Collector {
  /** What samples add to: sums and not means; the layout is told in `passes.ts`. */
  readonly sums: Float64Array;
  /** The brightest contribution since it was last cleared, see `BRIGHTEST`. */
  readonly brightest = new Float64Array(BRIGHTEST);

  /** Rays traced so far, by `RAY_NAMES`. */
  readonly rays = new Float64Array(RAY_KINDS);

  private readonly clampDirect: number;
  private readonly clampIndirect: number;
  private readonly clampBounced: number;
  private readonly isClamped: boolean;
  private readonly groupFloats: i32;
  private readonly groupPasses: boolean;

  constructor(
    { sums, clamps }: PathSettings,
    private readonly recorder: Recorder | null,
  ) {
    this.sums = new Float64Array(sums.size);
    this.clampDirect = clamps.direct;
    this.clampIndirect = clamps.indirect;
    this.clampBounced = clamps.bounced;
    this.isClamped = Math.min(clamps.direct, Math.min(clamps.indirect, clamps.bounced)) < Infinity;
    this.groupFloats = sums.groupFloats;
    this.groupPasses = sums.groupPasses;
  }

  clear(): void {
    this.sums.fill(0);
    this.brightest.fill(0);
  }

  /**
   * Adds radiance, all weights included.
   * @param group light group, 0 for none
   * @param light row of the light's table, −1 for none
   * @param share of the camera sample that this is one of: what clamps are measured by
   * @param scattered events before the last one that spread
   * @param path as it is with the last event: who needs to know which events it took reads them there
   */
  add(
    pass: i32,
    group: i32,
    light: i32,
    r: number,
    g: number,
    b: number,
    share: number,
    scattered: i32,
    stage: i32,
    signature: i32,
    path: PathState,
  ): void {
    const { sums, brightest } = this;
    let y = luminance(r, g, b);
    if (this.isClamped) {
      const isDirect = pass >= EMISSION ? pass <= BACKGROUND : (pass & 1) === 1;
      let least = isDirect ? this.clampDirect : this.clampIndirect;
      if (this.clampBounced < least && scattered > 0) least = this.clampBounced;
      const most = least * Math.abs(share);
      if (Math.abs(y) > most) {
        const scale = most / Math.abs(y);
        sums[MEAN_CLAMPED] += y * (1 - scale);
        r *= scale;
        g *= scale;
        b *= scale;
        y *= scale;
      }
    }
    sums[BEAUTY] += r;
    sums[BEAUTY + 1] += g;
    sums[BEAUTY + 2] += b;
    const o = pass * 3;
    sums[o] += r;
    sums[o + 1] += g;
    sums[o + 2] += b;
    if (group > 0) {
      const k = MEANS + (group - 1) * this.groupFloats;
      sums[k] += r;
      sums[k + 1] += g;
      sums[k + 2] += b;
      if (this.groupPasses) {
        sums[k + o] += r;
        sums[k + o + 1] += g;
        sums[k + o + 2] += b;
      }
    }
    if (y > brightest[0]) {
      brightest[0] = y;
      brightest[1] = signature;
      brightest[2] = light + 1;
      brightest[3] = path.firstObject + 1;
      brightest[4] = path.secondObject + 1;
    }
    if (this.recorder !== null) this.recorder.contribution(stage, path, y, light);
  }
}
