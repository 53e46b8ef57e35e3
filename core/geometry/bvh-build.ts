/**
 * Binary bounding volume hierarchy over boxes, built with the surface area heuristic on bins.
 * Source: Wald, "On fast construction of SAH-based bounding volume hierarchies", 2007.
 *
 * Nodes stand in depth-first order. Node n has its box in `bounds[6n..6n+5]` (minimum, maximum) and
 * two links: `links[2n+1] > 0` marks a leaf of that many items from `order[links[2n]]` on; otherwise
 * the lower child is n + 1, the upper one `links[2n]`, and `-links[2n+1]` the axis that parts them.
 *
 * This is the readable definition and the fallback of `core/kernels/build-bvh`, which makes the same tree.
 */
import { allocatePlain, copied, type Allocate } from './allocate.ts';

export interface Bvh {
  bounds: Float32Array;
  links: Int32Array;
  /** Item numbers, leaf after leaf. */
  order: Uint32Array;
  nodeCount: number;
}

/**
 * @param boxes 6 floats an item: minimum x, y, z, maximum x, y, z
 * @param leafSize most items in a leaf, a power of two; the heuristic counts items in blocks of it, as the walk tests them
 * @param allocate memory for what is returned
 */
export type BuildBvh = (boxes: Float32Array, leafSize: number, allocate?: Allocate) => Bvh;

/** Bins along an axis: for a few items, fewer. */
const BINS = 16;
const FEW_BINS = 8;
const FEW_ITEMS = 32;
const { fround } = Math;

export const buildBvh: BuildBvh = (boxes, leafSize, allocate = allocatePlain) => {
  const count = boxes.length / 6;
  const builder = new Builder(boxes, leafSize);
  if (count > 0) builder.node(0, count);
  return {
    bounds: copied(builder.bounds.subarray(0, builder.nodeCount * 6), allocate),
    links: copied(builder.links.subarray(0, builder.nodeCount * 2), allocate),
    order: copied(builder.order, allocate),
    nodeCount: builder.nodeCount,
  };
};

class Builder {
  readonly bounds: Float32Array;
  readonly links: Int32Array;
  readonly order: Uint32Array;
  nodeCount = 0;
  /** Along which the last split was made. */
  private axis = 0;
  /** Boxes in the order of `order`: moved with their items, so that every pass reads memory in one run. */
  private readonly boxes: Float32Array;
  private readonly binBoxes = new Float32Array(BINS * 6);
  private readonly binCounts = new Uint32Array(BINS);
  private readonly rightCosts = new Float64Array(BINS);
  private readonly box = new Float32Array(6);

  constructor(
    boxes: Float32Array,
    private readonly leafSize: number,
  ) {
    const count = boxes.length / 6;
    this.boxes = boxes.slice();
    this.bounds = new Float32Array(2 * count * 6);
    this.links = new Int32Array(2 * count * 2);
    this.order = Uint32Array.from({ length: count }, (_, i) => i);
  }

  node(start: number, end: number): void {
    const { boxes, bounds, links } = this;
    const n = this.nodeCount++;
    emptyBox(bounds, n * 6);
    for (let i = start; i < end; i++) growBox(bounds, n * 6, boxes, i * 6);
    if (end - start <= this.leafSize) {
      links[n * 2] = start;
      links[n * 2 + 1] = end - start;
      return;
    }
    const middle = this.split(start, end);
    const axis = this.axis;
    this.node(start, middle);
    links[n * 2] = this.nodeCount;
    links[n * 2 + 1] = -axis;
    this.node(middle, end);
  }

  /** Orders the items of a node in two halves and returns where the second begins. */
  private split(start: number, end: number): number {
    const bins = end - start > FEW_ITEMS ? BINS : FEW_BINS;
    let bestCost = Infinity;
    let bestAxis = -1;
    let bestBin = 0;
    let bestLow = 0;
    let bestScale = 0;
    for (let axis = 0; axis < 3; axis++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = start; i < end; i++) {
        const c = this.centre(i, axis);
        if (c < low) low = c;
        if (c > high) high = c;
      }
      const scale = fround(bins / fround(high - low));
      if (!(scale < Infinity)) continue;
      const bin = this.sweep(start, end, axis, bins, low, scale);
      if (bin.cost < bestCost) {
        bestCost = bin.cost;
        bestAxis = axis;
        bestBin = bin.at;
        bestLow = low;
        bestScale = scale;
      }
    }
    this.axis = Math.max(0, bestAxis);
    if (bestAxis < 0) return start + ((end - start) >> 1);
    let i = start;
    let j = end - 1;
    while (i <= j) {
      if (binOf(this.centre(i, bestAxis), bestLow, bestScale, bins) <= bestBin) i++;
      else this.swap(i, j--);
    }
    return i;
  }

  private sweep(
    start: number,
    end: number,
    axis: number,
    bins: number,
    low: number,
    scale: number,
  ): { cost: number; at: number } {
    const { binBoxes, binCounts, rightCosts, boxes, box, leafSize } = this;
    binCounts.fill(0);
    for (let k = 0; k < bins; k++) emptyBox(binBoxes, k * 6);
    for (let i = start; i < end; i++) {
      const k = binOf(this.centre(i, axis), low, scale, bins);
      binCounts[k]++;
      growBox(binBoxes, k * 6, boxes, i * 6);
    }
    emptyBox(box, 0);
    let items = 0;
    for (let k = bins - 1; k > 0; k--) {
      growBox(box, 0, binBoxes, k * 6);
      items += binCounts[k];
      rightCosts[k] = items === 0 ? 0 : area(box) * Math.ceil(items / leafSize);
    }
    emptyBox(box, 0);
    items = 0;
    let cost = Infinity;
    let at = 0;
    for (let k = 0; k < bins - 1; k++) {
      growBox(box, 0, binBoxes, k * 6);
      items += binCounts[k];
      if (items === 0 || items === end - start) continue;
      const c = area(box) * Math.ceil(items / leafSize) + rightCosts[k + 1];
      if (c < cost) {
        cost = c;
        at = k;
      }
    }
    return { cost, at };
  }

  /** Twice the centre of a box. */
  private centre(i: number, axis: number): number {
    return fround(this.boxes[i * 6 + axis] + this.boxes[i * 6 + 3 + axis]);
  }

  private swap(i: number, j: number): void {
    const { boxes, order } = this;
    const item = order[i];
    order[i] = order[j];
    order[j] = item;
    for (let a = 0; a < 6; a++) {
      const plane = boxes[i * 6 + a];
      boxes[i * 6 + a] = boxes[j * 6 + a];
      boxes[j * 6 + a] = plane;
    }
  }
}

function binOf(centre: number, low: number, scale: number, bins: number): number {
  const k = fround(fround(centre - low) * scale) | 0;
  return k >= bins ? bins - 1 : k;
}

function emptyBox(box: Float32Array, o: number): void {
  box[o] = box[o + 1] = box[o + 2] = Infinity;
  box[o + 3] = box[o + 4] = box[o + 5] = -Infinity;
}

function growBox(box: Float32Array, o: number, by: Float32Array, p: number): void {
  if (by[p] < box[o]) box[o] = by[p];
  if (by[p + 1] < box[o + 1]) box[o + 1] = by[p + 1];
  if (by[p + 2] < box[o + 2]) box[o + 2] = by[p + 2];
  if (by[p + 3] > box[o + 3]) box[o + 3] = by[p + 3];
  if (by[p + 4] > box[o + 4]) box[o + 4] = by[p + 4];
  if (by[p + 5] > box[o + 5]) box[o + 5] = by[p + 5];
}

/** Half the surface of a box. */
function area(box: Float32Array): number {
  const x = box[3] - box[0];
  const y = box[4] - box[1];
  const z = box[5] - box[2];
  return x * y + y * z + z * x;
}
