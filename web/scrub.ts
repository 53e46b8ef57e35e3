/**
 * Numbers that are moved by dragging their name sideways: whole numbers by one a notch, counts of samples in fours, others
 * by a fiftieth of a short range, or by a twentieth of themselves where there is no end.
 */
import type { SweptControl } from '../core/predict/sweep.ts';

/** Pixels of one notch. */
const NOTCH = 6;
const SHORT_NOTCHES = 50;
const SHARE = 0.05;

/** What `from` becomes when its name is dragged `dx` pixels to the right. */
export function scrubbed(control: SweptControl, from: number, dx: number): number {
  const { min = -Infinity, max = Infinity, step = 1, digits = 6, whole } = control;
  const notches = Math.trunc(dx / NOTCH);
  const isCount = whole ?? control.digits === undefined;
  const within = (value: number) => Math.max(min, Math.min(max, value));
  if (isCount) return within(from + notches * step);
  if (max - min <= SHORT_NOTCHES * Math.max(step, 1))
    return within(Number((from + (notches * (max - min)) / SHORT_NOTCHES).toFixed(digits)));
  // A step of its own moves what stands at nought.
  return within(Number((from === 0 ? notches * step : from * (1 + SHARE) ** notches).toFixed(digits)));
}

/** Listens from a press on the name until the pointer is let go. @param set called with each new number */
export function beginScrub(
  event: PointerEvent,
  control: SweptControl,
  from: number,
  set: (value: number) => void,
): void {
  const name = event.currentTarget as HTMLElement;
  name.setPointerCapture(event.pointerId);
  let last = from;
  const move = ({ clientX }: PointerEvent) => {
    const value = scrubbed(control, from, clientX - event.clientX);
    if (value === last) return;
    last = value;
    set(value);
  };
  const end = () => {
    name.removeEventListener('pointermove', move);
    name.removeEventListener('pointerup', end);
    name.removeEventListener('pointercancel', end);
  };
  name.addEventListener('pointermove', move);
  name.addEventListener('pointerup', end);
  name.addEventListener('pointercancel', end);
}
