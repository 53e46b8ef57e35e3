/** What changes of a case would do: its region rendered small, each change once, on the same random numbers. */
import type { Effect } from '../contracts/figures.ts';
import type { Picture } from '../data/picture.ts';
import { canonicalText } from '../document/canonical.ts';
import { objectNames } from '../document/object-names.ts';
import type { ControlValues } from '../document/set-values.ts';
import { valueIn } from '../figures/effect.ts';
import { FIGURES } from '../figures/registry.ts';
import { predictChanges, type Changes } from '../predict/predict-change.ts';
import type { Assets } from '../render/compile/assets.ts';
import type { Variation } from '../predict/small-render.ts';
import type { Case, RenderInput } from './family.ts';
import { varyAlone } from './vary.ts';

export interface Forecast {
  effect: Effect;
  small: Picture;
  side: Variation;
}

/** Values to set, for all or for chosen objects alone, or files in place of the document's own. */
export interface Forecastable {
  values: ControlValues;
  /** Ids of objects that get the values alone. */
  objects?: string[];
  /** @param id of the proposal that has them made */
  files?: { id: string; assets: Assets };
}

/** What a small render of a case is made of. */
export function changesOf(input: RenderInput, of: Pick<Case, 'region' | 'mask' | 'isElsewhereNext'>): Changes {
  const { scene, sheet, document, picture, pilotSeed, clock } = input;
  return {
    before: { scene, sheet },
    region: of.region,
    mask: of.isElsewhereNext ? null : of.mask,
    isSelected: of.isElsewhereNext,
    picture,
    names: objectNames(document),
    seed: pilotSeed,
    clock,
  };
}

/** Forecasts changes of one case, those asked for together in one go; what was forecast once is known. */
export class Forecaster {
  private readonly known = new Map<string, Forecast>();

  constructor(
    private readonly input: RenderInput,
    private readonly of: Case,
    private readonly passes: readonly string[] = [],
  ) {}

  all(changes: Forecastable[]): Forecast[] {
    const keys = changes.map(({ values, objects, files }) =>
      canonicalText([values, objects ?? null, files?.id ?? null]),
    );
    const fresh = changes.filter((_, k) => !this.known.has(keys[k]) && keys.indexOf(keys[k]) === k);
    if (fresh.length > 0)
      this.render(
        fresh,
        keys.filter((key, k) => !this.known.has(key) && keys.indexOf(key) === k),
      );
    return keys.map((key) => this.known.get(key)!);
  }

  private render(fresh: Forecastable[], keys: string[]): void {
    const sides = fresh.map(({ values, objects, files }) =>
      objects ? varyAlone(this.input, { objects, values }) : this.input.vary(values, files?.assets),
    );
    const smalls: Picture[] = [];
    const changes = { ...changesOf(this.input, this.of), passes: [...this.passes], see: (one: Picture, k: number) => (smalls[k] = one) }; // prettier-ignore
    const effects = predictChanges(changes, sides);
    keys.forEach((key, k) => {
      this.known.set(key, { effect: effects[k], small: smalls[k], side: sides[k] });
    });
  }
}

/** An effect that says of every figure what it is, or why nobody knows. */
export const complete = (effect: Effect, why = 'not forecast'): Effect => ({
  figures: FIGURES.map(({ id }) => valueIn(effect, id) ?? { id, before: null, after: null, why: id === 'time' ? 'no clock ran' : why }), // prettier-ignore
});
