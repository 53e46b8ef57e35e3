/**
 * Pixel filters by importance sampling: a sample belongs to one pixel and its place is drawn from the
 * filter's magnitude; where the filter is negative the sample counts negatively.
 * Source: Ernst, Stamminger & Greiner, "Filter Importance Sampling", 2006.
 *
 * Shapes over x from −1 to 1, the filter's half width:
 * box and triangle; Gaussian, standard deviation two fifths of the half width; Mitchell & Netravali,
 * "Reconstruction Filters in Computer Graphics", 1988, B = C = 1/3; Blackman–Harris, four terms (Harris 1978);
 * Lanczos with two lobes (Duchon 1979).
 *
 * @example
 * const filter = new FilterSampler(tabulated({ kind: 'mitchell', width: 4 }));
 * const dx = filter.offset(u);   // pixels
 * value *= filter.sign;
 */
import type { FilterKind } from '../../document/schema.ts';
import { toInt, type i32 } from '../../data/numbers.ts';

const shapes: Record<FilterKind, (x: number) => number> = {
  box: () => 1,
  triangle: (x) => 1 - Math.abs(x),
  gaussian: (x) => Math.exp(-0.5 * (x / 0.4) ** 2),
  mitchell: (x) => {
    const t = 2 * Math.abs(x);
    return t < 1 ? (7 * t ** 3 - 12 * t ** 2 + 16 / 3) / 6 : ((-7 / 3) * t ** 3 + 12 * t ** 2 - 20 * t + 32 / 3) / 6;
  },
  'blackman-harris': (x) => {
    const a = Math.PI * (x + 1);
    return 0.35875 - 0.48829 * Math.cos(a) + 0.14128 * Math.cos(2 * a) - 0.01168 * Math.cos(3 * a);
  },
  lanczos: (x) => sinc(2 * x) * sinc(x),
};

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));

/** Value of a filter, 1 at most; 0 outside its width. `x` in pixels from the pixel's centre. */
export function filterValue(kind: FilterKind, width: number, x: number): number {
  const at = (2 * x) / width;
  return Math.abs(at) > 1 ? 0 : shapes[kind](at);
}

/** Steps of the tabulated distribution; within one it is even. */
const STEPS = 1024;

/** A filter's magnitude as a distribution over its width. */
export interface FilterTable {
  /** Pixels. */
  width: number;
  /** Area of the magnitude over that of the filter, both axes together: what keeps means right. */
  scale: number;
  /** `STEPS` + 1 values from 0 to 1. */
  cumulative: Float64Array;
  /** 1, or −1 in a negative lobe, for each step. */
  signs: Int8Array;
  /** Last step that begins at or below each of `STEPS` even shares: where to look for the step of a share. */
  guide: Int32Array;
}

const tables = new Map<string, FilterTable>();

/** Made once for each filter: every tile asks for its own. */
export function tabulated({ kind, width }: { kind: FilterKind; width: number }): FilterTable {
  const key = `${kind} ${width}`;
  const table = tables.get(key) ?? tabulate(kind, width);
  tables.set(key, table);
  return table;
}

function tabulate(kind: FilterKind, width: number): FilterTable {
  const cumulative = new Float64Array(STEPS + 1);
  const signs = new Int8Array(STEPS);
  let signed = 0;
  for (let i = 0; i < STEPS; i++) {
    const value = shapes[kind](((i + 0.5) / STEPS) * 2 - 1);
    signed += value;
    signs[i] = value < 0 ? -1 : 1;
    cumulative[i + 1] = cumulative[i] + Math.abs(value);
  }
  const all = cumulative[STEPS];
  for (let i = 1; i <= STEPS; i++) cumulative[i] /= all;
  const guide = new Int32Array(STEPS);
  for (let k = 0, i = 0; k < STEPS; k++) {
    while (i < STEPS - 1 && cumulative[i + 1] <= k / STEPS) i++;
    guide[k] = i;
  }
  return { width, scale: (all / signed) ** 2, cumulative, signs, guide };
}

export class FilterSampler {
  /** Of the last offset: 1, or −1 in a negative lobe. */
  sign: i32 = 1;

  constructor(private readonly table: FilterTable) {}

  get scale(): number {
    return this.table.scale;
  }

  /** Offset from the pixel's centre, pixels, along one axis. */
  offset(u: number): number {
    const { cumulative, signs, guide, width } = this.table;
    let low = guide[toInt(u * STEPS)];
    while (cumulative[low + 1] <= u) low++;
    this.sign = signs[low];
    const within = (u - cumulative[low]) / (cumulative[low + 1] - cumulative[low]);
    return ((low + within) / STEPS - 0.5) * width;
  }
}
