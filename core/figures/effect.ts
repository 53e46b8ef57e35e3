/** Reading effects: a figure by its id, its change, and the change in words. */
import type { Effect, FigureValue } from '../contracts/figures.ts';
import type { Figure, Unit } from './figure.ts';
import { FIGURES, figureOf } from './registry.ts';
import { BLACK_STOPS } from './stops-between.ts';

/** The figure of that id; undefined where the effect does not have it. */
export const valueIn = (effect: Effect, id: string): FigureValue | undefined =>
  effect.figures.find((one) => one.id === id);

/** What it was and what it becomes; both null where the effect does not have it. */
export const sidesOf = (effect: Effect, id: string): Pick<FigureValue, 'before' | 'after'> =>
  valueIn(effect, id) ?? { before: null, after: null };

/** The change of a figure: a difference in its unit, or a ratio. Null where a side is not known. */
export function change({ id, before, after }: FigureValue): number | null {
  if (before === null || after === null) return null;
  const { change: how, most } = figureOf(id);
  if (how === 'ratio') return before > 0 ? after / before : after > 0 ? null : 1;
  return most === undefined ? after - before : Math.max(-most, Math.min(most, after - before));
}

/** The change of one figure of an effect; null where it has none. */
export function changeOf(effect: Effect, id: string): number | null {
  const value = valueIn(effect, id);
  return value ? change(value) : null;
}

/** The change over the whole frame, where it is known to be another than the region's. */
export const frameChangeOf = (effect: Effect, id: string): number | null => valueIn(effect, id)?.frame ?? changeOf(effect, id); // prettier-ignore

const isKnown = ({ id }: FigureValue): boolean => FIGURES.some((one) => one.id === id);

/** Whether a figure changes by what anybody would call a change; one that a later build stored does not. */
export function isSeen(value: FigureValue): boolean {
  if (!isKnown(value)) return false;
  const { change: how, seen } = figureOf(value.id);
  const by = change(value);
  // What could not be told is no change that anybody sees.
  if (by === null) return value.why === undefined && value.before !== value.after;
  return how === 'ratio' ? by <= 0 || Math.abs(Math.log2(by)) >= seen : Math.abs(by) >= seen;
}

/** Figures worth a word: those that change, and those that are always told. */
export const toldOf = (effect: Effect): FigureValue[] =>
  effect.figures.filter(
    (value) => isKnown(value) && (isSeen(value) || (figureOf(value.id).always && value.before !== null)),
  );

/** An effect with some figures put in the place of its own. */
export const withFigures = (effect: Effect, figures: FigureValue[]): Effect => ({
  figures: FIGURES.flatMap(({ id }) => figures.find((one) => one.id === id) ?? valueIn(effect, id) ?? []),
});

/**
 * An effect whose figures change as a better model has it: from what each is here, by what the model says it changes. Figures
 * that it lacks are taken as they are.
 */
export function withChanges(effect: Effect, model: FigureValue[]): Effect {
  const moved = model.map((value) => {
    const own = valueIn(effect, value.id);
    const by = change(value);
    if (own?.before == null || by === null) return value;
    const after = figureOf(value.id).change === 'ratio' ? own.before * by : own.before + by;
    return { ...value, before: own.before, after };
  });
  return withFigures(effect, moved);
}

const minus = (text: string): string => text.replace('-', '−');
const number = (value: number, digits: number): string =>
  minus(value.toLocaleString('en', { minimumFractionDigits: digits, maximumFractionDigits: digits }));
const scaled = (value: number, names: string[], digits = 3): string => {
  let at = 0;
  while (Math.abs(value) >= 1000 && at < names.length - 1) [value, at] = [value / 1000, at + 1];
  return `${at === 0 && Number.isInteger(value) ? value : Number(value.toPrecision(digits))}${names[at] && ` ${names[at]}`}`;
};

/** An amount of a unit: "7.6 of 255", "1.2 GB", "34 %". */
export function tellAmount(unit: Unit, value: number): string {
  switch (unit) {
    case 'stops':
      return `${number(value, 1)} stops`;
    case 'steps':
      return `${number(value, 1)} of 255`;
    case 'rays':
      return `${scaled(value, ['', 'k', 'M', 'G', 'T'])} rays`;
    case 'count':
      return number(value, 0);
    case 'share':
      return value > 0 && value < 0.005 ? '< 1 %' : `${Math.round(100 * value)} %`;
    case 'seconds':
      return value < 90 ? `${number(value, value < 10 ? 1 : 0)} s` : value < 5400 ? `${number(value / 60, 1)} min` : `${number(value / 3600, 1)} h`; // prettier-ignore
    case 'bytes':
      return scaled(value, ['B', 'kB', 'MB', 'GB', 'TB']);
    case 'bits':
      return `${number(value, 1)} bits`;
    case 'pixels':
      return `${number(value, 1)} px`;
    case 'area':
      return value < 0.01 ? `${scaled(1e6 * value, [''])} mm²` : `${number(value, 3)} m²`;
    case 'metres':
      return Math.abs(value) < 0.01 ? `${number(value * 1000, 2)} mm` : `${number(value, 3)} m`;
  }
}

export const tellTimes = (ratio: number): string => `× ${ratio >= 10 ? ratio.toFixed(0) : ratio.toFixed(2)}`;
export function tellSigned(value: number, digits = 1): string {
  const shown = Math.abs(value).toFixed(digits);
  return Number(shown) === 0 ? shown : `${value > 0 ? '+' : '−'}${shown}`;
}

/**
 * The change of a figure in words, without its name: "+0.4 stops", "× 1.20", "7.6 → 7.1 of 255", "34 % of the region".
 * @param value of an effect; its figure must be in the registry
 */
export function tellChange(value: FigureValue): string {
  const figure = figureOf(value.id);
  const { before, after } = value;
  if (value.why !== undefined && (before === null || after === null)) return value.why;
  if (before === null && after === null) return 'none';
  const by = change(value);
  if (figure.unit === 'stops') {
    if (by === null) return tellAmount('stops', (after ?? before)!);
    if (after! <= BLACK_STOPS && before! > BLACK_STOPS) return 'to black';
    if (before! <= BLACK_STOPS && after! > BLACK_STOPS) return `from black to ${tellSigned(after!)} stops`;
    return `${tellSigned(by)} stops`;
  }
  if (figure.unit === 'share' && 'compare' in figure) return `${tellAmount('share', after ?? before!)} of the region`;
  if (figure.unit === 'rays') return by === null ? tellAmount('rays', (after ?? before)!) : tellTimes(by);
  if (before === null || after === null) return tellAmount(figure.unit, (after ?? before)!);
  return `${withoutUnit(figure, before)} → ${tellAmount(figure.unit, after)}`;
}

const withoutUnit = ({ unit }: Figure, value: number): string =>
  unit === 'steps' ? number(value, 1) : tellAmount(unit, value);

/** "noise 7.6 → 7.1 of 255", "brightness in occlusion +2.1 stops", "changes most: lantern base −6.3 stops". */
export function tellFigure(value: FigureValue): string {
  const { short, tells } = figureOf(value.id);
  if (tells === 'object') return value.of ? `${short}: ${value.of} ${tellChange(value)}` : `${short}: nothing`;
  const frame = value.frame === undefined ? '' : `, of the frame ${tellTimes(value.frame)}`;
  return `${short}${value.of ? ` in ${value.of}` : ''} ${tellChange(value)}${frame}`;
}
