/**
 * Binary bounding volume hierarchy over boxes, built with the surface area heuristic on bins.
 * Source: Wald, "On fast construction of SAH-based bounding volume hierarchies", 2007.
 *
 * Nodes stand in depth-first order. Node n has its box in `bounds[6n..6n+5]` (minimum, maximum) and
 * two links: `links[2n+1] > 0` marks a leaf of that many items from `order[links[2n]]` on; otherwise
 * the lower child is n + 1, the upper one `links[2n]`, and `-links[2n+1]` the axis that parts them.
 */
export interface Bvh {
  bounds: Float64Array;
  links: Int32Array;
  /** Item numbers, leaf after leaf. */
  order: Uint32Array;
  nodeCount: number;
}

const BINS = 16;
const TRAVERSAL_COST = 1;
const ITEM_COST = 1;

/**
 * @param boxes 6 doubles an item: minimum x, y, z, maximum x, y, z
 * @param leafSize most items a leaf may hold
 */
export function buildBvh(boxes: Float64Array, leafSize: number): Bvh {
  const count = boxes.length / 6;
  const builder = new Builder(boxes, leafSize);
  if (count > 0) builder.node(0, count);
  return {
    bounds: builder.bounds.slice(0, builder.nodeCount * 6),
    links: builder.links.slice(0, builder.nodeCount * 2),
    order: builder.order,
    nodeCount: builder.nodeCount,
  };
}

class Builder {
  readonly bounds: Float64Array;
  readonly links: Int32Array;
  readonly order: Uint32Array;
  nodeCount = 0;
  /** Along which the last split was made. */
  private axis = 0;
  private readonly centres: Float64Array;
  private readonly binBoxes = new Float64Array(BINS * 6);
  private readonly binCounts = new Uint32Array(BINS);
  private readonly rightAreas = new Float64Array(BINS);

  constructor(
    private readonly boxes: Float64Array,
    private readonly leafSize: number,
  ) {
    const count = boxes.length / 6;
    this.bounds = new Float64Array(Math.max(1, 2 * count) * 6);
    this.links = new Int32Array(Math.max(1, 2 * count) * 2);
    this.order = Uint32Array.from({ length: count }, (_, i) => i);
    this.centres = new Float64Array(count * 3);
    for (let i = 0; i < count; i++)
      for (let a = 0; a < 3; a++) this.centres[i * 3 + a] = (boxes[i * 6 + a] + boxes[i * 6 + 3 + a]) / 2;
  }

  node(start: number, end: number): void {
    const { boxes, bounds, links, order } = this;
    const n = this.nodeCount++;
    const b = n * 6;
    emptyBox(bounds, b);
    for (let i = start; i < end; i++) growBox(bounds, b, boxes, order[i] * 6);
    const middle = end - start <= 1 ? -1 : this.split(start, end, area(bounds, b));
    const axis = this.axis;
    if (middle < 0) {
      links[n * 2] = start;
      links[n * 2 + 1] = end - start;
      return;
    }
    this.node(start, middle);
    links[n * 2] = this.nodeCount;
    links[n * 2 + 1] = -axis;
    this.node(middle, end);
  }

  /** Orders the items of a node in two halves and returns where the second begins, or −1 for a leaf. */
  private split(start: number, end: number, nodeArea: number): number {
    const { centres, order, leafSize } = this;
    const count = end - start;
    let bestCost = Infinity;
    let bestAxis = -1;
    let bestBin = 0;
    let low = 0;
    let scale = 0;
    for (let axis = 0; axis < 3; axis++) {
      let min = Infinity;
      let max = -Infinity;
      for (let i = start; i < end; i++) {
        const c = centres[order[i] * 3 + axis];
        if (c < min) min = c;
        if (c > max) max = c;
      }
      if (!(max > min)) continue;
      const s = BINS / (max - min);
      const bin = this.sweep(start, end, axis, min, s);
      if (bin.cost < bestCost) {
        bestCost = bin.cost;
        bestAxis = axis;
        bestBin = bin.at;
        low = min;
        scale = s;
      }
    }
    this.axis = Math.max(0, bestAxis);
    if (bestAxis < 0) return count <= leafSize ? -1 : start + (count >> 1);
    const splitCost = TRAVERSAL_COST + (ITEM_COST * bestCost) / Math.max(nodeArea, 1e-300);
    if (count <= leafSize && splitCost >= ITEM_COST * count) return -1;
    let i = start;
    let j = end - 1;
    while (i <= j) {
      if (binOf(centres[order[i] * 3 + bestAxis], low, scale) <= bestBin) i++;
      else {
        const swap = order[i];
        order[i] = order[j];
        order[j--] = swap;
      }
    }
    return i;
  }

  private sweep(start: number, end: number, axis: number, low: number, scale: number): { cost: number; at: number } {
    const { binBoxes, binCounts, rightAreas, boxes, centres, order } = this;
    binCounts.fill(0);
    for (let k = 0; k < BINS; k++) emptyBox(binBoxes, k * 6);
    for (let i = start; i < end; i++) {
      const k = binOf(centres[order[i] * 3 + axis], low, scale);
      binCounts[k]++;
      growBox(binBoxes, k * 6, boxes, order[i] * 6);
    }
    const box = new Float64Array(6);
    emptyBox(box, 0);
    let items = 0;
    for (let k = BINS - 1; k > 0; k--) {
      growBox(box, 0, binBoxes, k * 6);
      items += binCounts[k];
      rightAreas[k] = items === 0 ? 0 : area(box, 0) * items;
    }
    emptyBox(box, 0);
    items = 0;
    let cost = Infinity;
    let at = 0;
    for (let k = 0; k < BINS - 1; k++) {
      growBox(box, 0, binBoxes, k * 6);
      items += binCounts[k];
      if (items === 0 || items === end - start) continue;
      const c = area(box, 0) * items + rightAreas[k + 1];
      if (c < cost) {
        cost = c;
        at = k;
      }
    }
    return { cost, at };
  }
}

function binOf(centre: number, low: number, scale: number): number {
  const k = ((centre - low) * scale) | 0;
  return k >= BINS ? BINS - 1 : k;
}

function emptyBox(box: Float64Array, o: number): void {
  box[o] = box[o + 1] = box[o + 2] = Infinity;
  box[o + 3] = box[o + 4] = box[o + 5] = -Infinity;
}

function growBox(box: Float64Array, o: number, by: Float64Array, p: number): void {
  if (by[p] < box[o]) box[o] = by[p];
  if (by[p + 1] < box[o + 1]) box[o + 1] = by[p + 1];
  if (by[p + 2] < box[o + 2]) box[o + 2] = by[p + 2];
  if (by[p + 3] > box[o + 3]) box[o + 3] = by[p + 3];
  if (by[p + 4] > box[o + 4]) box[o + 4] = by[p + 4];
  if (by[p + 5] > box[o + 5]) box[o + 5] = by[p + 5];
}

function area(box: Float64Array, o: number): number {
  const x = box[o + 3] - box[o];
  const y = box[o + 4] - box[o + 1];
  const z = box[o + 5] - box[o + 2];
  return x * y + y * z + z * x;
}
