/**
 * Trees over boxes with the surface area heuristic, compiled to WebAssembly with SIMD: the same trees, number for
 * number, as the TypeScript twin in `core/geometry/bvh-build.ts` makes, which also says how they are stored.
 *
 * Every item is one record of two vectors, (minimum x, y, z, item) and (maximum x, y, z, –), and is moved as a whole:
 * all passes over a node read memory in one run. The three axes are binned in one pass.
 *
 * Source: Wald, "On fast construction of SAH-based bounding volume hierarchies", 2007.
 */

/** Bins along an axis: for a few items, fewer. */
const BINS: i32 = 16;
const FEW_BINS: i32 = 8;
const FEW_ITEMS: i32 = 32;
/** Scratch below the data: boxes of the bins of three axes, 32 bytes each; how many are in each; costs from the right. */
const BIN_BOXES: usize = 1024;
const AXIS_BOXES: usize = 512;
const BIN_COUNTS: usize = 2560;
const AXIS_COUNTS: usize = 64;
const RIGHT_COSTS: usize = 2816;
const RECORD: usize = 32;
/** Added to an item's number, so that its bits are those of an ordinary float: arithmetic on subnormal lanes is slow. */
const ITEM_BITS: i32 = 0x40000000;

let records: usize = 0;
let bounds: usize = 0;
let links: usize = 0;
let leafSize: i32 = 0;
let leafShift: i32 = 0;
let nodeCount: i32 = 0;
/** The split last chosen: its axis, the last bin below it, of how many (0: none), where the first begins, bins a length. */
let splitAxis: i32 = 0;
let splitBin: i32 = 0;
let splitBins: i32 = 0;
let splitLow: f32 = 0;
let splitScale: f32 = 0;

// @ts-ignore: decorator
@inline
function area(low: v128, high: v128): f64 {
  const x = <f64>f32x4.extract_lane(high, 0) - <f64>f32x4.extract_lane(low, 0);
  const y = <f64>f32x4.extract_lane(high, 1) - <f64>f32x4.extract_lane(low, 1);
  const z = <f64>f32x4.extract_lane(high, 2) - <f64>f32x4.extract_lane(low, 2);
  return x * y + y * z + z * x;
}

// @ts-ignore: decorator
@inline
function blocks(items: i32): f64 {
  return <f64>((items + leafSize - 1) >> leafShift);
}

// @ts-ignore: decorator
@inline
function countOf(ofAxis: i32, bin: i32): usize {
  return BIN_COUNTS + <usize>ofAxis * AXIS_COUNTS + (<usize>bin << 2);
}

// @ts-ignore: decorator
@inline
function put(ofAxis: i32, bin: i32, low: v128, high: v128): void {
  const box = BIN_BOXES + <usize>ofAxis * AXIS_BOXES + (<usize>bin << 5);
  v128.store(box, f32x4.pmin(v128.load(box), low));
  v128.store(box, f32x4.pmax(v128.load(box, 16), high), 16);
  const count = countOf(ofAxis, bin);
  store<i32>(count, load<i32>(count) + 1);
}

/** Finds where the items of a node are best split. */
function chooseSplit(start: i32, end: i32, lowCentre: v128, highCentre: v128): void {
  const first = records + <usize>start * RECORD;
  const last = records + <usize>end * RECORD;
  const bins = end - start > FEW_ITEMS ? BINS : FEW_BINS;
  const quotient = f32x4.div(f32x4.splat(<f32>bins), f32x4.sub(highCentre, lowCentre));
  // Axes along which the centres do not differ stay in the first bin.
  const scale = v128.and(quotient, f32x4.lt(quotient, f32x4.splat(Infinity)));
  const topBin = i32x4.splat(bins - 1);

  for (let b: usize = 0; b < <usize>bins << 5; b += 32) {
    v128.store(BIN_BOXES + b, f32x4.splat(Infinity));
    v128.store(BIN_BOXES + b, f32x4.splat(-Infinity), 16);
    v128.store(BIN_BOXES + b, f32x4.splat(Infinity), AXIS_BOXES);
    v128.store(BIN_BOXES + b, f32x4.splat(-Infinity), AXIS_BOXES + 16);
    v128.store(BIN_BOXES + b, f32x4.splat(Infinity), 2 * AXIS_BOXES);
    v128.store(BIN_BOXES + b, f32x4.splat(-Infinity), 2 * AXIS_BOXES + 16);
  }
  memory.fill(BIN_COUNTS, 0, 3 * AXIS_COUNTS);
  for (let record = first; record < last; record += RECORD) {
    const low = v128.load(record);
    const high = v128.load(record, 16);
    const bin = i32x4.min_s(
      i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.sub(f32x4.add(low, high), lowCentre), scale)),
      topBin,
    );
    put(0, i32x4.extract_lane(bin, 0), low, high);
    put(1, i32x4.extract_lane(bin, 1), low, high);
    put(2, i32x4.extract_lane(bin, 2), low, high);
  }

  let bestCost: f64 = Infinity;
  let bestAxis: i32 = -1;
  let bestBin: i32 = 0;
  for (let a: i32 = 0; a < 3; a++) {
    const boxes = BIN_BOXES + <usize>a * AXIS_BOXES;
    let low = f32x4.splat(Infinity);
    let high = f32x4.splat(-Infinity);
    let items: i32 = 0;
    let right: f64 = 0;
    for (let k: i32 = bins - 1; k > 0; k--) {
      const box = boxes + (<usize>k << 5);
      const more = load<i32>(countOf(a, k));
      if (more !== 0) {
        items += more;
        low = f32x4.pmin(low, v128.load(box));
        high = f32x4.pmax(high, v128.load(box, 16));
        right = area(low, high) * blocks(items);
      }
      store<f64>(RIGHT_COSTS + (<usize>k << 3), right);
    }
    low = f32x4.splat(Infinity);
    high = f32x4.splat(-Infinity);
    items = 0;
    for (let k: i32 = 0; k < bins - 1; k++) {
      // An empty bin moves nothing: the cost is that of the split before it.
      const more = load<i32>(countOf(a, k));
      if (more === 0) continue;
      items += more;
      if (items === end - start) break;
      const box = boxes + (<usize>k << 5);
      low = f32x4.pmin(low, v128.load(box));
      high = f32x4.pmax(high, v128.load(box, 16));
      const cost = area(low, high) * blocks(items) + load<f64>(RIGHT_COSTS + (<usize>(k + 1) << 3));
      if (cost < bestCost) {
        bestCost = cost;
        bestAxis = a;
        bestBin = k;
      }
    }
  }
  splitAxis = max(0, bestAxis);
  splitBin = bestBin;
  splitBins = bestAxis < 0 ? 0 : bins;
  v128.store(RIGHT_COSTS, lowCentre);
  splitLow = load<f32>(RIGHT_COSTS + (<usize>splitAxis << 2));
  v128.store(RIGHT_COSTS, scale);
  splitScale = load<f32>(RIGHT_COSTS + (<usize>splitAxis << 2));
}

/**
 * Writes the node of some items and all nodes below it.
 * @param low, high the box around them; lowCentre, highCentre that around their centres, doubled
 */
function node(start: i32, end: i32, low: v128, high: v128, lowCentre: v128, highCentre: v128): void {
  const n = <usize>nodeCount;
  nodeCount++;
  const box = bounds + n * 24;
  // The fourth lane is written over by what follows.
  v128.store(box, low);
  store<f32>(box, f32x4.extract_lane(high, 0), 12);
  store<f32>(box, f32x4.extract_lane(high, 1), 16);
  store<f32>(box, f32x4.extract_lane(high, 2), 20);
  const link = links + (n << 3);
  if (end - start <= leafSize) {
    store<i32>(link, start);
    store<i32>(link, end - start, 4);
    return;
  }
  chooseSplit(start, end, lowCentre, highCentre);
  const axis = splitAxis;
  const lane = <usize>axis << 2;
  const bin = splitBin;
  const topBin = splitBins - 1;
  const origin = splitLow;
  const scale = splitScale;

  // Items go to their side, and each side's boxes grow as they do. Without a split the first half goes below.
  const half = records + <usize>(start + ((end - start) >> 1)) * RECORD;
  let i = records + <usize>start * RECORD;
  let j = records + <usize>(end - 1) * RECORD;
  let low0 = f32x4.splat(Infinity);
  let high0 = f32x4.splat(-Infinity);
  let low1 = low0;
  let high1 = high0;
  let lowCentre0 = low0;
  let highCentre0 = high0;
  let lowCentre1 = low0;
  let highCentre1 = high0;
  while (i <= j) {
    const itsLow = v128.load(i);
    const itsHigh = v128.load(i, 16);
    const centre = f32x4.add(itsLow, itsHigh);
    const isBelow =
      topBin < 0 ? i < half : min(topBin, <i32>((load<f32>(i + lane) + load<f32>(i + lane, 16) - origin) * scale)) <= bin;
    if (isBelow) {
      low0 = f32x4.pmin(low0, itsLow);
      high0 = f32x4.pmax(high0, itsHigh);
      lowCentre0 = f32x4.pmin(lowCentre0, centre);
      highCentre0 = f32x4.pmax(highCentre0, centre);
      i += RECORD;
    } else {
      low1 = f32x4.pmin(low1, itsLow);
      high1 = f32x4.pmax(high1, itsHigh);
      lowCentre1 = f32x4.pmin(lowCentre1, centre);
      highCentre1 = f32x4.pmax(highCentre1, centre);
      if (topBin < 0) {
        i += RECORD;
        continue;
      }
      v128.store(i, v128.load(j));
      v128.store(i, v128.load(j, 16), 16);
      v128.store(j, itsLow);
      v128.store(j, itsHigh, 16);
      j -= RECORD;
    }
  }
  const middle = <i32>(((topBin < 0 ? half : i) - records) / RECORD);
  node(start, middle, low0, high0, lowCentre0, highCentre0);
  store<i32>(link, nodeCount);
  store<i32>(link, -axis, 4);
  node(middle, end, low1, high1, lowCentre1, highCentre1);
}

/**
 * @param recordsAt where the caller put `count` boxes of six floats; room for as many records of 32 bytes
 * @param boundsAt, linksAt room for twice as many nodes, 24 and 8 bytes each
 * @param orderAt room for the order, 4 bytes an item
 * @returns how many nodes there are
 */
export function build(
  recordsAt: usize,
  count: i32,
  itemsALeaf: i32,
  boundsAt: usize,
  linksAt: usize,
  orderAt: usize,
): i32 {
  records = recordsAt;
  bounds = boundsAt;
  links = linksAt;
  leafSize = itemsALeaf;
  leafShift = ctz(itemsALeaf);
  nodeCount = 0;
  let low = f32x4.splat(Infinity);
  let high = f32x4.splat(-Infinity);
  let lowCentre = low;
  let highCentre = high;
  // From the end, since records are longer than the boxes they are made of in place.
  for (let i = <i32>count - 1; i >= 0; i--) {
    const from = recordsAt + <usize>i * 24;
    const record = recordsAt + <usize>i * RECORD;
    const x = load<f32>(from);
    const y = load<f32>(from, 4);
    const z = load<f32>(from, 8);
    const highX = load<f32>(from, 12);
    const highY = load<f32>(from, 16);
    const highZ = load<f32>(from, 20);
    store<f32>(record, x);
    store<f32>(record, y, 4);
    store<f32>(record, z, 8);
    store<i32>(record, i + ITEM_BITS, 12);
    store<f32>(record, highX, 16);
    store<f32>(record, highY, 20);
    store<f32>(record, highZ, 24);
    store<f32>(record, 0, 28);
    const itsLow = v128.load(record);
    const itsHigh = v128.load(record, 16);
    const centre = f32x4.add(itsLow, itsHigh);
    low = f32x4.pmin(low, itsLow);
    high = f32x4.pmax(high, itsHigh);
    lowCentre = f32x4.pmin(lowCentre, centre);
    highCentre = f32x4.pmax(highCentre, centre);
  }
  if (count > 0) node(0, count, low, high, lowCentre, highCentre);
  for (let i: usize = 0; i < <usize>count; i++)
    store<i32>(orderAt + (i << 2), load<i32>(recordsAt + i * RECORD, 12) - ITEM_BITS);
  return nodeCount;
}
