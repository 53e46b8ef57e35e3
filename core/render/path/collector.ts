/** Where light goes that a path has found: its pass, its light group and the beauty, clamped if the sheet says so. */
import { luminance } from '../../data/colour.ts';
import { BACKGROUND, BEAUTY, EMISSION, BRIGHTEST, groupWidth, MEAN_CLAMPED, MEANS, meansOf } from '../film/passes.ts';
import type { PathState } from './path-state.ts';
import type { EventCounts, Recorder } from './recorder.ts';
import type { CompiledScene, RenderSettings } from '../scene/scene.ts';

/** What rays are sent for. */
export const RAY_NAMES = ['camera', 'diffuse', 'specular', 'transmission', 'volume', 'shadow', 'occlusion'] as const;
export const SHADOW = 5;
export const OCCLUSION = 6;

export class Collector {
  /** What samples add to: sums and not means; the layout is told in `passes.ts`. */
  readonly sums: Float64Array;
  /** The brightest contribution since it was last cleared, see `BRIGHTEST`. */
  readonly brightest = new Float64Array(BRIGHTEST);

  /** Rays traced so far, by `RAY_NAMES`. */
  readonly rays = new Float64Array(RAY_NAMES.length);

  private readonly clampDirect: number;
  private readonly clampIndirect: number;
  private readonly clampBounced: number;
  private readonly isClamped: boolean;
  private readonly groupFloats: number;
  private readonly groupPasses: boolean;

  constructor(
    { layout }: CompiledScene,
    { clamps }: RenderSettings,
    private readonly recorder: Recorder | null,
  ) {
    this.sums = new Float64Array(meansOf(layout));
    this.clampDirect = clamps.direct ?? Infinity;
    this.clampIndirect = clamps.indirect ?? Infinity;
    this.clampBounced = clamps.bounced ?? Infinity;
    this.isClamped = clamps.direct !== null || clamps.indirect !== null || clamps.bounced !== null;
    this.groupFloats = groupWidth(layout) * 3;
    this.groupPasses = layout.groupPasses;
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
   * @param counts events it needed
   */
  add(
    pass: number,
    group: number,
    light: number,
    r: number,
    g: number,
    b: number,
    share: number,
    scattered: number,
    stage: number,
    counts: EventCounts,
    signature: number,
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
    if (this.recorder !== null) this.recorder.contribution(stage, counts, y, light);
  }
}
