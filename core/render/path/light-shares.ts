/** How many samples each light gets at an event: its own, or of several lights a chosen few. */
import { toInt, type i32 } from '../../data/numbers.ts';
import { LightChoice } from '../../lights/light-choice.ts';
import { EACH_AT_FIRST, EACH_LATER } from '../../lights/light-tree.ts';
import { LIGHT_SAMPLES, LIGHT_STRIDE } from '../../lights/table.ts';
import type { PathSettings } from '../scene/path-settings.ts';
import type { CompiledScene } from '../scene/scene.ts';

export class LightShares {
  readonly choice: LightChoice;
  /** Where the first and the last event were that lights were chosen at, and what was lit. */
  private readonly places = new Float64Array(6);
  private firstLit: i32 = -1;
  private lastLit: i32 = -1;

  constructor(
    private readonly scene: CompiledScene,
    private readonly settings: PathSettings,
  ) {
    this.choice = new LightChoice(scene, scene.lightLinks, scene.objectCount);
  }

  /** Whether lights are chosen at an event, rather than each sampled on its own. */
  chooses(isFirst: boolean): boolean {
    const { count } = this.scene.lightTree;
    return isFirst ? count > EACH_AT_FIRST && this.settings.sums.shadowCount === 0 : count > EACH_LATER;
  }

  /** Lights chosen at an event. */
  picks(isFirst: boolean): i32 {
    return isFirst ? EACH_AT_FIRST * this.settings.extraSamples.light : 1;
  }

  /** Samples that a light may expect at an event. */
  expected(light: i32, isFirst: boolean): number {
    if (!this.chooses(isFirst)) return this.count(light, isFirst);
    const { places: p } = this;
    const o = isFirst ? 0 : 3;
    const object = isFirst ? this.firstLit : this.lastLit;
    return this.picks(isFirst) * this.choice.chanceOf(light, p[o], p[o + 1], p[o + 2], object);
  }

  /** Notes where an event is that lights are chosen at, and what is lit: what chances are told for afterwards. */
  remember(isFirst: boolean, x: number, y: number, z: number, object: i32): void {
    const { places } = this;
    const o = isFirst ? 0 : 3;
    places[o] = x;
    places[o + 1] = y;
    places[o + 2] = z;
    if (isFirst) this.firstLit = object;
    else this.lastLit = object;
  }

  /** Samples of a light that is sampled on its own. */
  count(light: i32, isFirst: boolean): i32 {
    if (!isFirst) return 1;
    return this.settings.extraSamples.light * toInt(this.scene.lights[light * LIGHT_STRIDE + LIGHT_SAMPLES]);
  }
}
