/**
 * A sweep: one dial at several values, or several choices of one thing, beside what stands now. Here: which values are
 * worth a look where a person names none, and what a person's list of values means.
 *
 * @example
 * sweepValues(dialAt('/samples'), 16); // [8, 32, 64, 128]
 */
export type SweepValue = number | string | boolean | null;

/** What a sweep must know of a dial or of a control of the scene. */
export interface SweptControl {
  kind: string;
  min?: number;
  max?: number;
  step?: number;
  digits?: number;
  whole?: boolean;
  /** How the absence of a number (null) is called, where it may be absent. */
  none?: string;
  choices?: readonly string[];
}

/** Values beside the present one: fewer are a trial, more are no longer compared at a glance. */
export const FEWEST_STEPS = 2;
export const MOST_STEPS = 9;

/** Whether a control has values enough to sweep it. */
export const canSweep = ({ kind, choices = [] }: SweptControl): boolean =>
  kind === 'number' || (kind === 'choice' && choices.length > FEWEST_STEPS);

/** A round ladder: each rung about twice the one before. */
const RUNGS = [1, 2, 5];
/** Rungs below and above what stands now. */
const BELOW = 3;
const ABOVE = 3;
/** Up to so many times its step a range is short enough to be divided evenly. */
const SHORT = 20;
/** Parts of such a range. */
const PARTS = 5;

/**
 * Values that are worth a look beside `now`, without it, smallest first: doublings of a count, parts of a short range, a
 * round ladder of anything else; all choices but the present one, as many as fit.
 */
export function sweepValues(control: SweptControl, now: SweepValue): SweepValue[] {
  if (control.kind === 'choice') return (control.choices ?? []).filter((choice) => choice !== now).slice(0, MOST_STEPS);
  const { min = -Infinity, max = Infinity } = control;
  const fits = (value: number) => value >= min && value <= max && value !== now;
  const values = candidates(control, typeof now === 'number' ? now : null)
    .map((value) => rounded(control, value))
    .filter(fits);
  return [...new Set(values)].sort((a, b) => a - b).slice(0, MOST_STEPS);
}

function candidates(control: SweptControl, now: number | null): number[] {
  const { min = -Infinity, max = Infinity, step = 1 } = control;
  if (!isCount(control) && max - min <= SHORT * step) return evenly(min, max);
  if (isCount(control)) {
    const from = now ?? step;
    const doubled = Array.from({ length: BELOW + ABOVE + 1 }, (_, k) => from * 2 ** (k - BELOW));
    return from > 0 ? doubled : [1, 2, 4, 8];
  }
  if (now !== null && now < 0) return ladder(-now).map((value) => -value);
  return ladder(now || step);
}

const isCount = ({ whole, digits, kind, step }: SweptControl): boolean =>
  kind === 'number' && (whole ?? (digits === undefined && step !== undefined));

const evenly = (min: number, max: number): number[] =>
  Array.from({ length: PARTS + 1 }, (_, k) => min + ((max - min) * k) / PARTS);

/** Rungs around a number above 0. */
function ladder(around: number): number[] {
  const decade = Math.floor(Math.log10(around));
  const rungs = [-2, -1, 0, 1, 2].flatMap((d) => RUNGS.map((rung) => rung * 10 ** (decade + d)));
  const below = rungs.filter((rung) => rung < around * 0.999);
  const above = rungs.filter((rung) => rung > around * 1.001);
  return [...below.slice(-BELOW), ...above.slice(0, ABOVE)];
}

function rounded(control: SweptControl, value: number): number {
  const { step = 1, digits = 6 } = control;
  // Samples come in fours, and the noise of one four cannot be told.
  if (isCount(control)) return step === 4 ? Math.max(8, Math.round(value / 4) * 4) : Math.round(value);
  return Number(value.toFixed(digits));
}

/**
 * A list as a person types it: "4, 8 16", with the name of none where a number may be absent.
 * @returns the values, each once and without `now`, or why it is none
 */
export function readSteps(
  control: SweptControl,
  now: SweepValue,
  text: string,
): { values: SweepValue[] } | { problem: string } {
  const { min = -Infinity, max = Infinity, none } = control;
  const values: SweepValue[] = [];
  for (const word of text.split(/[\s,;]+/).filter(Boolean)) {
    const value = word === none ? null : Number(word);
    if (Number.isNaN(value)) return { problem: `“${word}” is not a number${none ? `, nor “${none}”` : ''}.` };
    if (value !== null && (value < min || value > max))
      return { problem: `${word} is outside ${tellRange(min, max)}.` };
    if (value !== null && isCount(control) && rounded(control, value) !== value)
      return { problem: `${word} is no ${control.step === 4 ? 'multiple of 4 from 8 on' : 'whole number'}.` };
    if (value !== now && !values.includes(value)) values.push(value);
  }
  if (values.length < FEWEST_STEPS)
    return { problem: `Name at least ${FEWEST_STEPS} values other than the current one; a single value is a trial.` };
  if (values.length > MOST_STEPS)
    return { problem: `${values.length} values are more than the ${MOST_STEPS} that can be compared at a glance.` };
  return { values };
}

function tellRange(min: number, max: number): string {
  if (max === Infinity) return `what it can be: ${min} or more`;
  return min === -Infinity ? `what it can be: ${max} or less` : `${min} to ${max}`;
}
