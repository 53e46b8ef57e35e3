/** Times of contestants, run in turns so that drift of the machine meets all of them. */
const RUNS = 5;

export const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1];

/** Median milliseconds of each; the first round warms all of them up and does not count. */
export function interleaved(contestants: (() => void)[], runs = RUNS): number[] {
  const times = contestants.map((): number[] => []);
  for (let run = 0; run <= runs; run++)
    contestants.forEach((work, k) => {
      const started = performance.now();
      work();
      if (run > 0) times[k].push(performance.now() - started);
    });
  return times.map(median);
}

/** Ratios of this run by name. Times drift with the machine; ratios of one run can be laid beside those of another. */
export const ratios = new Map<string, number>();

/** Notes a ratio, to be compared with the run that was kept; returns it as text. */
export function ratio(name: string, value: number, digits = 2): string {
  ratios.set(name, value);
  return `${value.toFixed(digits)} ×`;
}
