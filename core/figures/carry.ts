import type { FigureValue } from '../contracts/figures.ts';

/** A figure that grows with what it is counted over. */
export const times = (value: FigureValue, before: number, after: number): FigureValue => ({
  ...value,
  before: value.before === null ? null : value.before * before,
  after: value.after === null ? null : value.after * after,
});
