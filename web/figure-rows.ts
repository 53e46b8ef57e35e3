/** Figures of a trial side by side: what was predicted and what was measured of each, on an axis of its own. */
import type { Effect, FigureValue } from '../core/contracts/figures.ts';
import { change, isSeen, tellAmount, tellSigned, tellTimes, valueIn } from '../core/figures/effect.ts';
import type { Figure } from '../core/figures/figure.ts';
import { FIGURES } from '../core/figures/registry.ts';
import { BLACK_STOPS } from '../core/figures/stops-between.ts';

export interface FigureRow {
  id: string;
  label: string;
  from: number;
  to: number;
  predicted: number | null;
  measured: number | null;
  text: (value: number) => string;
}

/** What is shown of a value: its change where the unit is one of changes, what it becomes otherwise. */
export function shownOf(figure: Figure, value: FigureValue | undefined): number | null {
  if (!value) return null;
  return figure.unit === 'stops' || figure.unit === 'rays' ? change(value) : value.after;
}

export function textOf({ unit, most = Infinity }: Figure): (value: number) => string {
  // Beyond what is told one side is black.
  if (unit === 'stops') return (value) => (Math.abs(value) < most ? tellSigned(value) : value > 0 ? 'black →' : '→ black'); // prettier-ignore
  if (unit === 'rays') return tellTimes;
  if (unit === 'steps') return (value) => value.toFixed(1);
  return (value) => tellAmount(unit, value);
}

/** The pass that shows a change, where it is not the beauty. */
export const passOf = (effect: Effect | null): string | null => (effect && valueIn(effect, 'changed')?.of) ?? null;

/** What a chart of several steps is drawn by: each side's own amount, so that steps differ as they do; null for black. */
export function chartedOf(figure: Figure, value: FigureValue | undefined): number | null {
  if (figure.unit === 'rays') return shownOf(figure, value);
  return value?.after == null || (figure.unit === 'stops' && value.after <= BLACK_STOPS) ? null : value.after;
}

/** Room above the greatest value. */
const ROOM = 1.15;

/**
 * The figures worth an axis: those that change in one of the effects, and those that are always told.
 * @param most axes there is room for; what is always told goes last, and before what else has no room
 */
export function figureRows(effects: { predicted: Effect | null; measured: Effect | null }, most: number): FigureRow[] {
  const { predicted, measured } = effects;
  const all = [predicted, measured].filter((one) => one !== null);
  const values = (id: string) => all.flatMap((effect) => valueIn(effect, id) ?? []);
  const axes = FIGURES.filter(({ tells }) => tells === undefined);
  const seen = axes.filter(({ id, always }) => !always && values(id).some(isSeen));
  const always = axes.filter(({ id, always: told }) => told && values(id).length > 0);
  const chosen = [...seen.slice(0, Math.max(0, most - always.length)), ...always];
  return axes
    .filter((figure) => chosen.includes(figure))
    .map((figure) => rowOf(figure, values(figure.id), predicted, measured));
}

function rowOf(figure: Figure, values: FigureValue[], predicted: Effect | null, measured: Effect | null): FigureRow {
  const shown = (effect: Effect | null) => (effect ? shownOf(figure, valueIn(effect, figure.id)) : null);
  const [p, m] = [shown(predicted), shown(measured)];
  const isSigned = figure.unit === 'stops';
  const sizes = [p, m, ...(figure.unit === 'rays' ? [1] : isSigned ? [0.5] : values.map(({ before }) => before))];
  const to = ROOM * Math.max(0, ...sizes.map((one) => Math.abs(one ?? 0)));
  return {
    id: figure.id,
    label: figure.short,
    from: isSigned ? -to : 0,
    to: to || 1,
    predicted: p,
    measured: m,
    text: textOf(figure),
  };
}
