/**
 * What lowered TypeScript stands on (see `scripts/lib/lower.mjs`): views on memory in the place of typed arrays, and what
 * the two languages do not share. An array's number of elements stands in the 8 bytes before its first.
 */

/** Unmanaged memory of this thread, handed out once and taken back as a whole. */
let next: usize = 0;
let last: usize = 0;

export function useArena(at: usize, end: usize): void {
  next = at;
  last = end;
}

/** Zeroed bytes on a boundary of 16, with room for a length before them. */
export function take(bytes: usize): usize {
  const at = (next + 8 + 15) & ~(<usize>15);
  if (at + bytes > last) unreachable();
  next = at + bytes;
  memory.fill(at, 0, bytes);
  return at;
}

function takeArray(length: i32, shift: i32): usize {
  const at = take(<usize>length << shift);
  store<i32>(at - 8, length);
  return at;
}

@final @unmanaged
export class F64s {
  constructor(length: i32) {
    return changetype<F64s>(takeArray(length, 3));
  }
  @inline get length(): i32 {
    return load<i32>(changetype<usize>(this) - 8);
  }
  @inline @operator('[]') at(i: i32): f64 {
    return load<f64>(changetype<usize>(this) + (<usize>i << 3));
  }
  @inline @operator('[]=') put(i: i32, value: f64): void {
    store<f64>(changetype<usize>(this) + (<usize>i << 3), value);
  }
  fill(value: f64): void {
    if (value === 0) {
      memory.fill(changetype<usize>(this), 0, <usize>this.length << 3);
      return;
    }
    for (let i = 0, n = this.length; i < n; i++) this[i] = value;
  }
  set(from: F64s): void {
    memory.copy(changetype<usize>(this), changetype<usize>(from), <usize>from.length << 3);
  }
  /** Its length is not told. */
  subarray(begin: i32, end: i32): F64s {
    return changetype<F64s>(changetype<usize>(this) + (<usize>begin << 3));
  }
}

/** Numbers of 32 bits, doubles wherever they are used. */
@final @unmanaged
export class F32s {
  @inline get length(): i32 {
    return load<i32>(changetype<usize>(this) - 8);
  }
  @inline @operator('[]') at(i: i32): f64 {
    return <f64>load<f32>(changetype<usize>(this) + (<usize>i << 2));
  }
  @inline @operator('[]=') put(i: i32, value: f64): void {
    store<f32>(changetype<usize>(this) + (<usize>i << 2), <f32>value);
  }
}

@final @unmanaged
export class I32s {
  constructor(length: i32) {
    return changetype<I32s>(takeArray(length, 2));
  }
  @inline get length(): i32 {
    return load<i32>(changetype<usize>(this) - 8);
  }
  @inline @operator('[]') at(i: i32): i32 {
    return load<i32>(changetype<usize>(this) + (<usize>i << 2));
  }
  @inline @operator('[]=') put(i: i32, value: i32): void {
    store<i32>(changetype<usize>(this) + (<usize>i << 2), value);
  }
}

@final @unmanaged
export class U8s {
  @inline @operator('[]') at(i: i32): i32 {
    return load<u8>(changetype<usize>(this) + <usize>i);
  }
}

@final @unmanaged
export class I8s {
  @inline @operator('[]') at(i: i32): i32 {
    return load<i8>(changetype<usize>(this) + <usize>i);
  }
}

/** Structures, or lists of them, by address. */
@final @unmanaged
export class Pointers<T> {
  @inline get length(): i32 {
    return load<i32>(changetype<usize>(this) - 8);
  }
  @inline @operator('[]') at(i: i32): T {
    return changetype<T>(<usize>load<u32>(changetype<usize>(this) + (<usize>i << 2)));
  }
}

@inline export function imul(a: i32, b: i32): i32 {
  return a * b;
}
@inline export function fround(x: f64): f64 {
  return <f64><f32>x;
}
@inline export function toInt(x: f64): i32 {
  return <i32>x;
}
@inline export function unsigned(x: i32): f64 {
  return <f64><u32>x;
}

/** A value that is known not to be null, unchecked. */
@inline export function known<T>(value: T): NonNullable<T> {
  return changetype<NonNullable<T>>(value);
}

@external('math', 'sin') export declare function host_sin(x: f64): f64;
@external('math', 'cos') export declare function host_cos(x: f64): f64;
@external('math', 'exp') export declare function host_exp(x: f64): f64;
@external('math', 'log1p') export declare function host_log1p(x: f64): f64;
@external('math', 'log') export declare function host_log(x: f64): f64;
@external('math', 'acos') export declare function host_acos(x: f64): f64;
@external('math', 'asin') export declare function host_asin(x: f64): f64;
@external('math', 'atan2') export declare function host_atan2(y: f64, x: f64): f64;
