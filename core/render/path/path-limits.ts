/** The sheet's limits on a path: what may still happen, and the weight that ends where it may not. */
import type { i32 } from '../../data/numbers.ts';
import { luminance } from '../../data/colour.ts';
import { DIFFUSE, SPECULAR, TRANSMISSION } from '../../materials/surface.ts';
import { CUT_ANY, CUT_OVERALL, MEAN_CUT } from '../film/passes.ts';
import type { PathState } from './path-state.ts';
import type { PathSettings } from '../scene/path-settings.ts';

export class PathLimits {
  constructor(
    private readonly settings: PathSettings,
    private readonly path: PathState,
    private readonly sums: Float64Array,
  ) {}

  private of(kind: i32): number {
    const { limits } = this.settings;
    return kind === DIFFUSE
      ? limits.diffuse
      : kind === SPECULAR
        ? limits.specular
        : kind === TRANSMISSION
          ? limits.transmission
          : limits.volume;
  }

  allows(kind: i32): boolean {
    const { path } = this;
    return path.total < this.settings.limits.overall && path.count(kind) < this.of(kind);
  }

  /** Notes the weight that limits end here: once for each limit that forbids the event, and once in all. */
  cut(kind: i32): void {
    const { path, sums } = this;
    const weight = luminance(path.beta[0], path.beta[1], path.beta[2]) * path.weight;
    if (path.count(kind) >= this.of(kind)) sums[MEAN_CUT + kind] += weight;
    if (path.total >= this.settings.limits.overall) sums[MEAN_CUT + CUT_OVERALL] += weight;
    sums[MEAN_CUT + CUT_ANY] += weight;
  }

  /** The same for what is no event: see-through surfaces and the ray's length. */
  cutBy(which: i32): void {
    const { path, sums } = this;
    const weight = luminance(path.beta[0], path.beta[1], path.beta[2]) * path.weight;
    sums[MEAN_CUT + which] += weight;
    sums[MEAN_CUT + CUT_ANY] += weight;
  }
}
