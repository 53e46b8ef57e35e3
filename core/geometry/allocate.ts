/** Where the large arrays of a compiled scene stand: in plain memory, or in memory that threads share. */

/** Gives memory for a typed array. */
export type Allocate = (bytes: number) => ArrayBufferLike;

export const allocatePlain: Allocate = (bytes) => new ArrayBuffer(bytes);

/** The same numbers in memory of the given kind. */
export function copied<T extends Float32Array | Float64Array | Int32Array | Uint32Array>(
  from: T,
  allocate: Allocate,
): T {
  const to = new (from.constructor as new (buffer: ArrayBufferLike) => T)(allocate(from.byteLength));
  to.set(from);
  return to;
}
