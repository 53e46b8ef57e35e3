/** Bytes of an EXR file, read in order; whatever does not fit is refused with its place in the file. */
export class ExrReading {
  at = 0;
  readonly bytes: Uint8Array;
  readonly view: DataView;

  /** @param where the file's name in messages */
  constructor(
    bytes: Uint8Array,
    readonly where: string,
  ) {
    // A Buffer of Node is none that `slice` copies: chunks at odd places would stay there.
    this.bytes = new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  /** @returns never: throws a RangeError that names file and byte */
  refuse(what: string, at = this.at): never {
    throw new RangeError(`${this.where}: at byte ${at}: ${what}`);
  }

  need(count: number, what: string): void {
    if (!(count >= 0) || this.at + count > this.bytes.length)
      this.refuse(`the file ends within ${what} (${count} bytes wanted, ${this.bytes.length - this.at} there)`);
  }

  byte(what: string): number {
    this.need(1, what);
    return this.bytes[this.at++];
  }

  int32(what: string): number {
    this.need(4, what);
    this.at += 4;
    return this.view.getInt32(this.at - 4, true);
  }

  float32(what: string): number {
    this.need(4, what);
    this.at += 4;
    return this.view.getFloat32(this.at - 4, true);
  }

  /** A place in the file; what is no place in any file becomes −1. */
  offset(what: string): number {
    this.need(8, what);
    const value = this.view.getBigUint64(this.at, true);
    this.at += 8;
    return value > BigInt(Number.MAX_SAFE_INTEGER) ? -1 : Number(value);
  }

  /** Up to a zero. */
  text(most: number, what: string): string {
    const end = this.bytes.subarray(this.at, this.at + most + 1).indexOf(0);
    if (end < 0) this.refuse(`${what} is longer than ${most} bytes, or the file ends within it`);
    const text = new TextDecoder().decode(this.bytes.subarray(this.at, this.at + end));
    this.at += end + 1;
    return text;
  }

  take(count: number, what: string): Uint8Array {
    this.need(count, what);
    this.at += count;
    return this.bytes.subarray(this.at - count, this.at);
  }
}
