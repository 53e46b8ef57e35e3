/**
 * Rays against a packed scene (see `core/geometry/packed-geometry.ts`), compiled to WebAssembly with SIMD.
 *
 * Trees are eight wide: one node's eight boxes are tested at once in 32 bits, loosened by what rounding can
 * do, so that no box a ray touches is lost. Triangles are tested in doubles with the very arithmetic of the
 * TypeScript twin, `BvhIntersector`, and ties are decided by the same rule: both find the same hits, bit for bit.
 *
 * Sources: Wald, Benthin & Boulos, "Getting Rid of Packets", 2008 (wide trees for single rays); Woop, Benthin
 * & Wald, "Watertight Ray/Triangle Intersection", 2013; Ize, "Robust BVH Ray Traversal", 2013.
 */

// The packed scene's header, and each mesh's entry: addresses of their parts.
const HEADER: usize = 4096;
const TOP_TREE: usize = HEADER;
const TOP_ORDER: usize = HEADER + 4;
const INSTANCE_MESH: usize = HEADER + 8;
const INSTANCE_MASK: usize = HEADER + 12;
const INSTANCE_SLICE: usize = HEADER + 16;
const TO_MESH: usize = HEADER + 20;
const MESHES: usize = HEADER + 24;
const SLOTS: usize = HEADER + 28;

// Trees, as in `core/geometry/wide-tree.ts`.
const UNIT_BYTES: usize = 32;
const PACKET_FIRST: usize = 144;

// A thread's slot: the result, the slice of time of its rays, the place to resume after, where the hit's triangle is, the
// ray (origin, direction, greatest distance, distance to resume after), two stacks of (reference, distance), each with room
// below it for the distances of a node's children, and the arena of its path tracer.
const SLOT_BYTES: usize = 131072;
const SLICE: usize = 32;
const AFTER_INSTANCE: usize = 36;
const AFTER_TRIANGLE: usize = 40;
const CORNER: usize = 44;
const RAY: usize = 48;
const DISTANCES_BYTES: usize = 32;
const TOP_STACK: usize = 160;
const MESH_STACK: usize = 4096;

const NODE_REFERENCES: usize = 192;

// What a walk needs of its ray at every node and packet stands in memory, in a block for each level: kept in variables, it
// is computed anew at every step, since the engine's compiler moves what only a loop uses into the loop (measured: a tenth
// of the time of a walk).
const TOP_RAY: usize = 15360;
const MESH_RAY: usize = 15616;
const NEAR_ORIGIN: usize = 0;
const FAR_ORIGIN: usize = 48;
const INVERSE: usize = 96;
const FROM: usize = 144;
const NEAR_PLANES: usize = 160;
const SHEAR_ORIGIN: usize = 176;
const SHEAR: usize = 224;
const SHEAR_ERROR: usize = 256;
const EXACT_ORIGIN: usize = 272;
const EXACT_SHEAR: usize = 296;

/** Rounding of a 32-bit difference and product, several times over. */
const LOOSE: f32 = 1.0 + 1.0 / 524288.0;
const ORIGIN_ERROR: f64 = 1.0 / 4194304.0;
/** Twice the rounding of 32 bits, and what subnormal products may be off by, generously. */
const ROUNDING: f32 = 1.0 / 8388608.0;
const SMALLEST: f32 = 1e-37;

export let bestT: f64 = 0;
export let bestU: f64 = 0;
export let bestV: f64 = 0;
export let bestInstance: i32 = -1;
export let bestTriangle: i32 = 0;
/** Address of its first corner's x. */
export let bestCorner: usize = 0;
let startT: f64 = 0;
let startInstance: i32 = 0;
let startTriangle: i32 = 0;

/** 1 / d with zeros made tiny, so that slabs keep culling and nothing becomes NaN. */
// @ts-ignore: decorator
@inline
function inverse(d: f64): f64 {
  return abs(d) < 1e-20 ? (d < 0 ? -1e20 : 1e20) : 1.0 / d;
}

/** Offsets of a node's near planes along each axis for a ray that goes up, and down. */
const UP_X: usize = 0;
const UP_Y: usize = 32;
const UP_Z: usize = 64;
const DOWN: usize = 96;

/** Writes what nodes need of a ray from (ox, oy, oz) along (dx, dy, dz) that begins at `startT`. */
// @ts-ignore: decorator
@inline
function writeRay(ray: usize, ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64): void {
  const ix = inverse(dx);
  const iy = inverse(dy);
  const iz = inverse(dz);
  v128.store(ray + NEAR_ORIGIN, moved(ox, ix, ORIGIN_ERROR));
  v128.store(ray + NEAR_ORIGIN + 16, moved(oy, iy, ORIGIN_ERROR));
  v128.store(ray + NEAR_ORIGIN + 32, moved(oz, iz, ORIGIN_ERROR));
  v128.store(ray + FAR_ORIGIN, moved(ox, ix, -ORIGIN_ERROR));
  v128.store(ray + FAR_ORIGIN + 16, moved(oy, iy, -ORIGIN_ERROR));
  v128.store(ray + FAR_ORIGIN + 32, moved(oz, iz, -ORIGIN_ERROR));
  v128.store(ray + INVERSE, f32x4.splat(<f32>ix));
  v128.store(ray + INVERSE + 16, f32x4.splat(<f32>iy));
  v128.store(ray + INVERSE + 32, f32x4.splat(<f32>iz));
  v128.store(ray + FROM, f32x4.splat(<f32>startT * (2.0 - LOOSE)));
  store<i32>(ray + NEAR_PLANES, ix >= 0 ? UP_X : UP_X + DOWN);
  store<i32>(ray + NEAR_PLANES + 4, iy >= 0 ? UP_Y : UP_Y + DOWN);
  store<i32>(ray + NEAR_PLANES + 8, iz >= 0 ? UP_Z : UP_Z + DOWN);
}

/** Which of a node's eight boxes the ray may touch before `to`, as bits; how near each is goes to `distances`. */
// @ts-ignore: decorator
@inline
function touchedOf(node: usize, distances: usize, ray: usize, to: v128): i32 {
  const nearX = node + <usize>load<u32>(ray + NEAR_PLANES);
  const nearY = node + <usize>load<u32>(ray + NEAR_PLANES + 4);
  const nearZ = node + <usize>load<u32>(ray + NEAR_PLANES + 8);
  const farX = node + node + (UP_X + UP_X + DOWN) - nearX;
  const farY = node + node + (UP_Y + UP_Y + DOWN) - nearY;
  const farZ = node + node + (UP_Z + UP_Z + DOWN) - nearZ;
  const nox = v128.load(ray + NEAR_ORIGIN);
  const noy = v128.load(ray + NEAR_ORIGIN + 16);
  const noz = v128.load(ray + NEAR_ORIGIN + 32);
  const fox = v128.load(ray + FAR_ORIGIN);
  const foy = v128.load(ray + FAR_ORIGIN + 16);
  const foz = v128.load(ray + FAR_ORIGIN + 32);
  const ix = v128.load(ray + INVERSE);
  const iy = v128.load(ray + INVERSE + 16);
  const iz = v128.load(ray + INVERSE + 32);
  const from = v128.load(ray + FROM);
  let near = f32x4.mul(f32x4.sub(v128.load(nearX), nox), ix);
  let far = f32x4.mul(f32x4.sub(v128.load(farX), fox), ix);
  near = f32x4.pmax(near, f32x4.mul(f32x4.sub(v128.load(nearY), noy), iy));
  far = f32x4.pmin(far, f32x4.mul(f32x4.sub(v128.load(farY), foy), iy));
  near = f32x4.pmax(near, f32x4.mul(f32x4.sub(v128.load(nearZ), noz), iz));
  far = f32x4.pmin(far, f32x4.mul(f32x4.sub(v128.load(farZ), foz), iz));
  near = f32x4.pmax(near, from);
  far = f32x4.pmin(far, to);
  v128.store(distances, near);
  const low = i32x4.bitmask(f32x4.le(near, f32x4.mul(far, f32x4.splat(LOOSE))));
  near = f32x4.mul(f32x4.sub(v128.load(nearX, 16), nox), ix);
  far = f32x4.mul(f32x4.sub(v128.load(farX, 16), fox), ix);
  near = f32x4.pmax(near, f32x4.mul(f32x4.sub(v128.load(nearY, 16), noy), iy));
  far = f32x4.pmin(far, f32x4.mul(f32x4.sub(v128.load(farY, 16), foy), iy));
  near = f32x4.pmax(near, f32x4.mul(f32x4.sub(v128.load(nearZ, 16), noz), iz));
  far = f32x4.pmin(far, f32x4.mul(f32x4.sub(v128.load(farZ, 16), foz), iz));
  near = f32x4.pmax(near, from);
  far = f32x4.pmin(far, to);
  v128.store(distances, near, 16);
  return low | (i32x4.bitmask(f32x4.le(near, f32x4.mul(far, f32x4.splat(LOOSE)))) << 4);
}

/** What touched children there are goes on the stack, the nearest on top. */
// @ts-ignore: decorator
@inline
function pushSorted(touched: i32, references: usize, distances: usize, top: usize): usize {
  const base = top;
  let left = touched;
  while (left !== 0) {
    const lane = <usize>ctz(left) << 2;
    left &= left - 1;
    const distance = load<f32>(distances + lane);
    let at = top;
    while (at > base && load<f32>(at - 4) < distance) {
      store<u64>(at, load<u64>(at - 8));
      at -= 8;
    }
    store<i32>(at, load<i32>(references + lane));
    store<f32>(at + 4, distance);
    top += 8;
  }
  return top;
}

/** A coordinate of the origin moved against the ray, or along it, by more than its rounding to 32 bits. */
// @ts-ignore: decorator
@inline
function moved(o: f64, i: f64, by: f64): v128 {
  return f32x4.splat(<f32>(o + (i >= 0 ? by : -by) * abs(o)));
}

/**
 * Which of a packet's triangles the ray may hit, as bits: edge functions in 32 bits, with a bound on what rounding of
 * the origin, the shear and the products can have done to them. A triangle is left out only if two of its edge
 * functions have different signs beyond that bound, so that doubles would say the same.
 *
 * With ε = 2^-24, sheared coordinates below m, depths below z and origin o: a sheared coordinate is off by less than
 * δ = ε (|o| + 4 z + 2 m), an edge function by less than 6 m δ + 2 δ². Both are doubled here.
 */
// @ts-ignore: decorator
@inline
function mayHit(
  packet: usize,
  kx: usize,
  ky: usize,
  kz: usize,
  ray: usize,
): i32 {
  const ox = v128.load(ray + SHEAR_ORIGIN);
  const oy = v128.load(ray + SHEAR_ORIGIN + 16);
  const oz = v128.load(ray + SHEAR_ORIGIN + 32);
  const sx = v128.load(ray + SHEAR);
  const sy = v128.load(ray + SHEAR + 16);
  const originError = v128.load(ray + SHEAR_ERROR);
  const x = packet + kx;
  const y = packet + ky;
  const z = packet + kz;
  const pz = f32x4.sub(v128.load(z), oz);
  const qz = f32x4.sub(v128.load(z, 48), oz);
  const rz = f32x4.sub(v128.load(z, 96), oz);
  const px = f32x4.sub(f32x4.sub(v128.load(x), ox), f32x4.mul(sx, pz));
  const py = f32x4.sub(f32x4.sub(v128.load(y), oy), f32x4.mul(sy, pz));
  const qx = f32x4.sub(f32x4.sub(v128.load(x, 48), ox), f32x4.mul(sx, qz));
  const qy = f32x4.sub(f32x4.sub(v128.load(y, 48), oy), f32x4.mul(sy, qz));
  const rx = f32x4.sub(f32x4.sub(v128.load(x, 96), ox), f32x4.mul(sx, rz));
  const ry = f32x4.sub(f32x4.sub(v128.load(y, 96), oy), f32x4.mul(sy, rz));
  const u = f32x4.sub(f32x4.mul(rx, qy), f32x4.mul(ry, qx));
  const v = f32x4.sub(f32x4.mul(px, ry), f32x4.mul(py, rx));
  const w = f32x4.sub(f32x4.mul(qx, py), f32x4.mul(qy, px));
  const across = f32x4.pmax(
    f32x4.pmax(f32x4.pmax(f32x4.abs(px), f32x4.abs(py)), f32x4.pmax(f32x4.abs(qx), f32x4.abs(qy))),
    f32x4.pmax(f32x4.abs(rx), f32x4.abs(ry)),
  );
  const along = f32x4.pmax(f32x4.pmax(f32x4.abs(pz), f32x4.abs(qz)), f32x4.abs(rz));
  const coordinateError = f32x4.mul(
    f32x4.add(originError, f32x4.mul(f32x4.splat(4.0), f32x4.add(along, across))),
    f32x4.splat(ROUNDING),
  );
  const bound = f32x4.add(
    f32x4.mul(f32x4.mul(coordinateError, f32x4.splat(8.0)), f32x4.add(across, coordinateError)),
    f32x4.splat(SMALLEST),
  );
  const least = f32x4.pmin(f32x4.pmin(u, v), w);
  const most = f32x4.pmax(f32x4.pmax(u, v), w);
  // Written so that a NaN keeps the triangle.
  return ~i32x4.bitmask(v128.and(f32x4.lt(least, f32x4.neg(bound)), f32x4.gt(most, bound)));
}

/** Leaves the nearest hit of a local ray with one mesh in the result, if it is nearer than what stands there. */
function walkMesh(
  tree: usize,
  instance: i32,
  stack: usize,
  any: bool,
  ox: f64,
  oy: f64,
  oz: f64,
  dx: f64,
  dy: f64,
  dz: f64,
): void {
  const distances = stack - DISTANCES_BYTES;
  const ray = stack + (MESH_RAY - MESH_STACK);
  writeRay(ray, ox, oy, oz, dx, dy, dz);

  // The ray's dominant axis becomes the third; the other two keep the handedness.
  const ax = abs(dx);
  const ay = abs(dy);
  const az = abs(dz);
  const kz: usize = ax > ay ? (ax > az ? 0 : 32) : ay > az ? 16 : 32;
  let kx: usize = kz === 32 ? 0 : kz + 16;
  let ky: usize = kx === 32 ? 0 : kx + 16;
  const d = kz === 0 ? dx : kz === 16 ? dy : dz;
  if (d < 0) {
    const swap = kx;
    kx = ky;
    ky = swap;
  }
  const sz = 1.0 / d;
  {
    const sx = (kx === 0 ? dx : kx === 16 ? dy : dz) * sz;
    const sy = (ky === 0 ? dx : ky === 16 ? dy : dz) * sz;
    const okx = kx === 0 ? ox : kx === 16 ? oy : oz;
    const oky = ky === 0 ? ox : ky === 16 ? oy : oz;
    const okz = kz === 0 ? ox : kz === 16 ? oy : oz;
    v128.store(ray + SHEAR_ORIGIN, f32x4.splat(<f32>okx));
    v128.store(ray + SHEAR_ORIGIN + 16, f32x4.splat(<f32>oky));
    v128.store(ray + SHEAR_ORIGIN + 32, f32x4.splat(<f32>okz));
    v128.store(ray + SHEAR, f32x4.splat(<f32>sx));
    v128.store(ray + SHEAR + 16, f32x4.splat(<f32>sy));
    v128.store(ray + SHEAR_ERROR, f32x4.splat(<f32>(abs(okx) + abs(oky) + abs(okz))));
    store<f64>(ray + EXACT_ORIGIN, okx);
    store<f64>(ray + EXACT_ORIGIN + 8, oky);
    store<f64>(ray + EXACT_ORIGIN + 16, okz);
    store<f64>(ray + EXACT_SHEAR, sx);
    store<f64>(ray + EXACT_SHEAR + 8, sy);
    store<f64>(ray + EXACT_SHEAR + 16, sz);
  }

  let to = <f32>bestT * LOOSE;
  let top = stack;
  let reference: i32 = 0;
  for (;;) {
    while (reference >= 0) {
      const node = tree + <usize>reference * UNIT_BYTES;
      const touched = touchedOf(node, distances, ray, f32x4.splat(to));
      if (touched !== 0 && (touched & (touched - 1)) === 0) {
        reference = load<i32>(node + NODE_REFERENCES + (<usize>ctz(touched) << 2));
        continue;
      }
      top = pushSorted(touched, node + NODE_REFERENCES, distances, top);
      // What was put aside and is behind the nearest hit by now is dropped.
      do {
        if (top === stack) return;
        top -= 8;
      } while (load<f32>(top + 4) > to);
      reference = load<i32>(top);
    }

    const leaf = <u32>-reference;
    const packet = tree + <usize>(leaf >> 3) * UNIT_BYTES;
    let lanes = (1 << (leaf & 7)) - 1;
    lanes &= mayHit(packet, kx, ky, kz, ray);
    if (lanes !== 0) {
      const first = load<i32>(packet + PACKET_FIRST);
      const okx = load<f64>(ray + EXACT_ORIGIN);
      const oky = load<f64>(ray + EXACT_ORIGIN + 8);
      const okz = load<f64>(ray + EXACT_ORIGIN + 16);
      const sx = load<f64>(ray + EXACT_SHEAR);
      const sy = load<f64>(ray + EXACT_SHEAR + 8);
      const sz = load<f64>(ray + EXACT_SHEAR + 16);
      do {
        const lane = ctz(lanes);
        lanes &= lanes - 1;
        const p = packet + (<usize>lane << 2);
        const pz = <f64>load<f32>(p + kz) - okz;
        const qz = <f64>load<f32>(p + kz, 48) - okz;
        const rz = <f64>load<f32>(p + kz, 96) - okz;
        const px = <f64>load<f32>(p + kx) - okx - sx * pz;
        const py = <f64>load<f32>(p + ky) - oky - sy * pz;
        const qx = <f64>load<f32>(p + kx, 48) - okx - sx * qz;
        const qy = <f64>load<f32>(p + ky, 48) - oky - sy * qz;
        const rx = <f64>load<f32>(p + kx, 96) - okx - sx * rz;
        const ry = <f64>load<f32>(p + ky, 96) - oky - sy * rz;
        const u = rx * qy - ry * qx;
        const v = px * ry - py * rx;
        const w = qx * py - qy * px;
        if ((u < 0 || v < 0 || w < 0) && (u > 0 || v > 0 || w > 0)) continue;
        const determinant = u + v + w;
        if (determinant === 0) continue;
        const t = (sz * (u * pz + v * qz + w * rz)) / determinant;
        if (!(t <= bestT) || !(t >= startT)) continue;
        const number = first + lane;
        if (t === startT && (instance < startInstance || (instance === startInstance && number <= startTriangle))) continue;
        // At equal distance the lowest id wins, whatever the order of the walk.
        if (
          t === bestT &&
          (bestInstance < 0 || instance > bestInstance || (instance === bestInstance && number >= bestTriangle))
        )
          continue;
        bestT = t;
        bestInstance = instance;
        bestTriangle = number;
        bestCorner = p;
        bestU = v / determinant;
        bestV = w / determinant;
        if (any) return;
        to = <f32>bestT * LOOSE;
      } while (lanes !== 0);
    }
    do {
      if (top === stack) return;
      top -= 8;
    } while (load<f32>(top + 4) > to);
    reference = load<i32>(top);
  }
}

/** Address of a thread's slot. */
export function slotAt(slot: i32): usize {
  return <usize>load<u32>(SLOTS) + <usize>slot * SLOT_BYTES;
}

/** Where the next walk begins: it looks for hits after (t, instance, triangle), up to `end`. */
// @ts-ignore: decorator
@inline
export function beginWalk(end: f64, t: f64, instance: i32, triangle: i32): void {
  bestT = end;
  bestInstance = -1;
  startT = t;
  startInstance = instance;
  startTriangle = triangle;
}

/**
 * Finds the first hit of a ray in the limits that `beginWalk` set, or any if `any`; it is left in `bestT` and the others.
 * @param place of the thread's slot, for its stacks
 */
export function walk(
  place: usize,
  mask: i32,
  any: bool,
  slice: i32,
  ox: f64,
  oy: f64,
  oz: f64,
  dx: f64,
  dy: f64,
  dz: f64,
): bool {
  const tree = <usize>load<u32>(TOP_TREE);
  if (tree === 0) return false;
  const order = <usize>load<u32>(TOP_ORDER);
  const instanceMesh = <usize>load<u32>(INSTANCE_MESH);
  const instanceMask = <usize>load<u32>(INSTANCE_MASK);
  const instanceSlice = <usize>load<u32>(INSTANCE_SLICE);
  const toMesh = <usize>load<u32>(TO_MESH);
  const meshes = <usize>load<u32>(MESHES);
  const ray = place + TOP_RAY;
  writeRay(ray, ox, oy, oz, dx, dy, dz);

  const stack = place + TOP_STACK;
  const distances = stack - DISTANCES_BYTES;
  let top = stack;
  let reference: i32 = 0;
  for (;;) {
    if (reference >= 0) {
      const node = tree + <usize>reference * UNIT_BYTES;
      const touched = touchedOf(node, distances, ray, f32x4.splat(<f32>bestT * LOOSE));
      top = pushSorted(touched, node + NODE_REFERENCES, distances, top);
    } else {
      const leaf = <u32>-reference;
      const first = leaf >> 3;
      const end = first + (leaf & 7);
      for (let k = first; k < end; k++) {
        const i = load<u32>(order + (<usize>k << 2));
        if ((load<i32>(instanceMask + (<usize>i << 2)) & mask) === 0) continue;
        const only = load<i32>(instanceSlice + (<usize>i << 2));
        if (only >= 0 && only !== slice) continue;
        const m = toMesh + <usize>i * 96;
        walkMesh(
          <usize>load<u32>(meshes + (<usize>load<u32>(instanceMesh + (<usize>i << 2)) << 2)),
          i,
          place + MESH_STACK,
          any,
          load<f64>(m) * ox + load<f64>(m, 8) * oy + load<f64>(m, 16) * oz + load<f64>(m, 24),
          load<f64>(m, 32) * ox + load<f64>(m, 40) * oy + load<f64>(m, 48) * oz + load<f64>(m, 56),
          load<f64>(m, 64) * ox + load<f64>(m, 72) * oy + load<f64>(m, 80) * oz + load<f64>(m, 88),
          load<f64>(m) * dx + load<f64>(m, 8) * dy + load<f64>(m, 16) * dz,
          load<f64>(m, 32) * dx + load<f64>(m, 40) * dy + load<f64>(m, 48) * dz,
          load<f64>(m, 64) * dx + load<f64>(m, 72) * dy + load<f64>(m, 80) * dz,
        );
        if (any && bestInstance >= 0) return true;
      }
    }
    for (;;) {
      if (top === stack) return bestInstance >= 0;
      top -= 8;
      if (load<f32>(top + 4) <= <f32>bestT * LOOSE) break;
    }
    reference = load<i32>(top);
  }
  // For the compiler: the loop above has no end.
  return false;
}

/**
 * Walks with the ray in a thread's slot, for hosts that trace rays one by one.
 * All but small whole numbers go through memory: passed as arguments they would be boxed at every call.
 * @returns whether there is a hit; it stands in the slot: t, u, v as doubles, instance, triangle
 */
export function trace(slot: i32, mask: i32, any: bool): bool {
  const place = slotAt(slot);
  beginWalk(
    load<f64>(place, RAY + 48),
    load<f64>(place, RAY + 56),
    load<i32>(place, AFTER_INSTANCE),
    load<i32>(place, AFTER_TRIANGLE),
  );
  const found = walk(
    place,
    mask,
    any,
    load<i32>(place + SLICE),
    load<f64>(place, RAY),
    load<f64>(place, RAY + 8),
    load<f64>(place, RAY + 16),
    load<f64>(place, RAY + 24),
    load<f64>(place, RAY + 32),
    load<f64>(place, RAY + 40),
  );
  if (!found) return false;
  store<f64>(place, bestT);
  store<f64>(place, bestU, 8);
  store<f64>(place, bestV, 16);
  store<i32>(place, bestInstance, 24);
  store<i32>(place, bestTriangle, 28);
  store<u32>(place, <u32>bestCorner, CORNER);
  return true;
}
