/** What a way of packing is: one file each, one line in `registry.ts`. */
import type { ExrBlock } from '../blocks.ts';
import type { PizValues } from './piz.ts';
import type { ExrChannel } from '../header.ts';

/** zlib stream (RFC 1950) to bytes; throws when it is none, or comes to more than `most`. */
export type Inflate = (bytes: Uint8Array, most: number) => Uint8Array;

export interface PackedBlock {
  bytes: Uint8Array;
  block: ExrBlock;
  channels: ExrChannel[];
  /** Bytes that must come out. */
  size: number;
  inflate: Inflate;
  /** Bytes put back in order; good until the next call. */
  restore(packed: Uint8Array): Uint8Array;
  /** See `piz.ts`; good until the next call. */
  unpackPlanes(packed: PizValues): Uint8Array;
}

/** @returns the block's bytes, line by line. @throws RangeError saying what does not fit */
export type Unpack = (packed: PackedBlock) => Uint8Array;

export function needSize(bytes: Uint8Array, size: number): Uint8Array {
  if (bytes.length !== size) throw new RangeError(`${bytes.length} bytes came out of a chunk of ${size}`);
  return bytes;
}
