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
const TOP_NODES: usize = HEADER;
const TOP_ORDER: usize = HEADER + 4;
const INSTANCE_MESH: usize = HEADER + 8;
const INSTANCE_MASK: usize = HEADER + 12;
const INSTANCE_SLICE: usize = HEADER + 16;
const TO_MESH: usize = HEADER + 20;
const MESHES: usize = HEADER + 24;
const SLOTS: usize = HEADER + 28;
const MESH_ENTRY: usize = 8;
/** Three corners of three 32-bit coordinates. */
const TRIANGLE_BYTES: usize = 36;

// A thread's slot: the result, the slice of time of its rays, and two stacks of (reference, distance).
const SLOT_BYTES: usize = 16384;
const SLICE: usize = 32;
const TOP_STACK: usize = 64;
const MESH_STACK: usize = 4096;

const NODE_BYTES: usize = 224;
const NODE_REFERENCES: usize = 192;

/** Rounding of a 32-bit difference and product, several times over. */
const LOOSE: f32 = 1.0 + 1.0 / 524288.0;
const ORIGIN_ERROR: f64 = 1.0 / 8388608.0;

let bestT: f64 = 0;
let bestU: f64 = 0;
let bestV: f64 = 0;
let bestInstance: i32 = -1;
let bestTriangle: i32 = 0;
let startT: f64 = 0;
let startInstance: i32 = 0;
let startTriangle: i32 = 0;

/** 1 / d with zeros made tiny, so that slabs keep culling and nothing becomes NaN. */
// @ts-ignore: decorator
@inline
function inverse(d: f64): f64 {
  return abs(d) < 1e-20 ? (d < 0 ? -1e20 : 1e20) : 1.0 / d;
}

/**
 * Tests a node's eight boxes and puts those that the ray may touch on the stack, the nearest on top.
 * @returns the new top of the stack
 */
// @ts-ignore: decorator
@inline
function pushChildren(
  node: usize,
  top: usize,
  nearX: usize,
  nearY: usize,
  nearZ: usize,
  ox: v128,
  oy: v128,
  oz: v128,
  ix: v128,
  iy: v128,
  iz: v128,
  mx: v128,
  my: v128,
  mz: v128,
  from: v128,
  to: v128,
): usize {
  const base = top;
  for (let half: usize = 0; half < 32; half += 16) {
    const n = node + half;
    let near = f32x4.sub(f32x4.mul(f32x4.sub(v128.load(n + nearX), ox), ix), mx);
    let far = f32x4.add(f32x4.mul(f32x4.sub(v128.load(n + 96 - nearX), ox), ix), mx);
    near = f32x4.max(near, f32x4.sub(f32x4.mul(f32x4.sub(v128.load(n + nearY), oy), iy), my));
    far = f32x4.min(far, f32x4.add(f32x4.mul(f32x4.sub(v128.load(n + 160 - nearY), oy), iy), my));
    near = f32x4.max(near, f32x4.sub(f32x4.mul(f32x4.sub(v128.load(n + nearZ), oz), iz), mz));
    far = f32x4.min(far, f32x4.add(f32x4.mul(f32x4.sub(v128.load(n + 224 - nearZ), oz), iz), mz));
    near = f32x4.max(near, from);
    far = f32x4.min(far, to);
    let touched = i32x4.bitmask(f32x4.le(near, f32x4.mul(far, f32x4.splat(LOOSE))));
    while (touched !== 0) {
      const lane = ctz(touched);
      touched &= touched - 1;
      const reference = load<i32>(n + NODE_REFERENCES + (<usize>lane << 2));
      if (reference === 0) continue;
      const distance =
        lane === 0
          ? f32x4.extract_lane(near, 0)
          : lane === 1
            ? f32x4.extract_lane(near, 1)
            : lane === 2
              ? f32x4.extract_lane(near, 2)
              : f32x4.extract_lane(near, 3);
      // Sorted in: whatever is nearer moves up.
      let at = top;
      while (at > base && load<f32>(at - 4) < distance) {
        store<u64>(at, load<u64>(at - 8));
        at -= 8;
      }
      store<i32>(at, reference);
      store<f32>(at + 4, distance);
      top += 8;
    }
  }
  return top;
}

/** Leaves the nearest hit of a local ray with one mesh in the result, if it is nearer than what stands there. */
function walkMesh(
  entry: usize,
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
  const nodes = <usize>load<u32>(entry);
  const triangles = <usize>load<u32>(entry, 4);

  const ix = inverse(dx);
  const iy = inverse(dy);
  const iz = inverse(dz);
  const nearX: usize = ix >= 0 ? 0 : 96;
  const nearY: usize = iy >= 0 ? 32 : 128;
  const nearZ: usize = iz >= 0 ? 64 : 160;
  const vox = f32x4.splat(<f32>ox);
  const voy = f32x4.splat(<f32>oy);
  const voz = f32x4.splat(<f32>oz);
  const vix = f32x4.splat(<f32>ix);
  const viy = f32x4.splat(<f32>iy);
  const viz = f32x4.splat(<f32>iz);
  const vmx = f32x4.splat(<f32>(abs(ix * ox) * ORIGIN_ERROR));
  const vmy = f32x4.splat(<f32>(abs(iy * oy) * ORIGIN_ERROR));
  const vmz = f32x4.splat(<f32>(abs(iz * oz) * ORIGIN_ERROR));
  const from = f32x4.splat(<f32>startT * (2.0 - LOOSE));

  // The ray's dominant axis becomes the third; the other two keep the handedness.
  const ax = abs(dx);
  const ay = abs(dy);
  const az = abs(dz);
  const kz: usize = ax > ay ? (ax > az ? 0 : 8) : ay > az ? 4 : 8;
  let kx: usize = kz === 8 ? 0 : kz + 4;
  let ky: usize = kx === 8 ? 0 : kx + 4;
  const d = kz === 0 ? dx : kz === 4 ? dy : dz;
  if (d < 0) {
    const swap = kx;
    kx = ky;
    ky = swap;
  }
  const sz = 1.0 / d;
  const sx = (kx === 0 ? dx : kx === 4 ? dy : dz) * sz;
  const sy = (ky === 0 ? dx : ky === 4 ? dy : dz) * sz;
  const okx = kx === 0 ? ox : kx === 4 ? oy : oz;
  const oky = ky === 0 ? ox : ky === 4 ? oy : oz;
  const okz = kz === 0 ? ox : kz === 4 ? oy : oz;

  let to = <f32>bestT * LOOSE;
  let top = stack;
  let reference: i32 = 0;
  for (;;) {
    if (reference >= 0) {
      const node = nodes + <usize>reference * NODE_BYTES;
      top = pushChildren(
        node, top, nearX, nearY, nearZ, vox, voy, voz, vix, viy, viz, vmx, vmy, vmz, from, f32x4.splat(to),
      ); // prettier-ignore
    } else {
      const leaf = <u32>-reference;
      const first = leaf >> 3;
      const end = first + (leaf & 7);
      for (let triangle = first; triangle < end; triangle++) {
        const p = triangles + <usize>triangle * TRIANGLE_BYTES;
        const q = p + 12;
        const r = p + 24;
        const pz = <f64>load<f32>(p + kz) - okz;
        const qz = <f64>load<f32>(q + kz) - okz;
        const rz = <f64>load<f32>(r + kz) - okz;
        const px = <f64>load<f32>(p + kx) - okx - sx * pz;
        const py = <f64>load<f32>(p + ky) - oky - sy * pz;
        const qx = <f64>load<f32>(q + kx) - okx - sx * qz;
        const qy = <f64>load<f32>(q + ky) - oky - sy * qz;
        const rx = <f64>load<f32>(r + kx) - okx - sx * rz;
        const ry = <f64>load<f32>(r + ky) - oky - sy * rz;
        const u = rx * qy - ry * qx;
        const v = px * ry - py * rx;
        const w = qx * py - qy * px;
        if ((u < 0 || v < 0 || w < 0) && (u > 0 || v > 0 || w > 0)) continue;
        const determinant = u + v + w;
        if (determinant === 0) continue;
        const t = (sz * (u * pz + v * qz + w * rz)) / determinant;
        if (!(t <= bestT) || !(t >= startT)) continue;
        const number = <i32>triangle;
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
        bestU = v / determinant;
        bestV = w / determinant;
        if (any) return;
        to = <f32>bestT * LOOSE;
      }
    }
    // What was put aside and is behind the nearest hit by now is dropped.
    do {
      if (top === stack) return;
      top -= 8;
    } while (load<f32>(top + 4) > to);
    reference = load<i32>(top);
  }
}

/**
 * Finds the first hit that comes after (afterT, afterInstance, afterTriangle), or any if `any`.
 * @returns whether there is one; it stands in the thread's slot: t, u, v as doubles, instance, triangle
 */
export function trace(
  slot: i32,
  ox: f64,
  oy: f64,
  oz: f64,
  dx: f64,
  dy: f64,
  dz: f64,
  tMax: f64,
  mask: u32,
  afterT: f64,
  afterInstance: i32,
  afterTriangle: i32,
  any: bool,
): bool {
  const place = <usize>load<u32>(SLOTS) + <usize>slot * SLOT_BYTES;
  bestT = tMax;
  bestInstance = -1;
  startT = afterT;
  startInstance = afterInstance;
  startTriangle = afterTriangle;

  const nodes = <usize>load<u32>(TOP_NODES);
  if (nodes === 0) return false;
  const order = <usize>load<u32>(TOP_ORDER);
  const instanceMesh = <usize>load<u32>(INSTANCE_MESH);
  const instanceMask = <usize>load<u32>(INSTANCE_MASK);
  const instanceSlice = <usize>load<u32>(INSTANCE_SLICE);
  const slice = load<i32>(place + SLICE);
  const toMesh = <usize>load<u32>(TO_MESH);
  const meshes = <usize>load<u32>(MESHES);
  const ix = inverse(dx);
  const iy = inverse(dy);
  const iz = inverse(dz);
  const nearX: usize = ix >= 0 ? 0 : 96;
  const nearY: usize = iy >= 0 ? 32 : 128;
  const nearZ: usize = iz >= 0 ? 64 : 160;
  const vox = f32x4.splat(<f32>ox);
  const voy = f32x4.splat(<f32>oy);
  const voz = f32x4.splat(<f32>oz);
  const vix = f32x4.splat(<f32>ix);
  const viy = f32x4.splat(<f32>iy);
  const viz = f32x4.splat(<f32>iz);
  const vmx = f32x4.splat(<f32>(abs(ix * ox) * ORIGIN_ERROR));
  const vmy = f32x4.splat(<f32>(abs(iy * oy) * ORIGIN_ERROR));
  const vmz = f32x4.splat(<f32>(abs(iz * oz) * ORIGIN_ERROR));
  const from = f32x4.splat(<f32>startT * (2.0 - LOOSE));

  const stack = place + TOP_STACK;
  let top = stack;
  let reference: i32 = 0;
  for (;;) {
    if (reference >= 0) {
      const node = nodes + <usize>reference * NODE_BYTES;
      top = pushChildren(
        node, top, nearX, nearY, nearZ, vox, voy, voz, vix, viy, viz, vmx, vmy, vmz, from,
        f32x4.splat(<f32>bestT * LOOSE),
      ); // prettier-ignore
    } else {
      const leaf = <u32>-reference;
      const first = leaf >> 3;
      const end = first + (leaf & 7);
      for (let k = first; k < end; k++) {
        const i = load<u32>(order + (<usize>k << 2));
        if ((load<u32>(instanceMask + (<usize>i << 2)) & mask) === 0) continue;
        const only = load<i32>(instanceSlice + (<usize>i << 2));
        if (only >= 0 && only !== slice) continue;
        const m = toMesh + <usize>i * 96;
        walkMesh(
          meshes + <usize>load<u32>(instanceMesh + (<usize>i << 2)) * MESH_ENTRY,
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
      if (top === stack) return finish(place);
      top -= 8;
      if (load<f32>(top + 4) <= <f32>bestT * LOOSE) break;
    }
    reference = load<i32>(top);
  }
  // For the compiler: the loop above has no end.
  return false;
}

/** Puts the result, if there is one, where the caller reads it. */
function finish(place: usize): bool {
  if (bestInstance < 0) return false;
  store<f64>(place, bestT);
  store<f64>(place, bestU, 8);
  store<f64>(place, bestV, 16);
  store<i32>(place, bestInstance, 24);
  store<i32>(place, bestTriangle, 28);
  return true;
}
