/**
 * Objects written to a kernel's memory as the structures that it reads there. What a structure looks like is told by the
 * kernel (see `scripts/lib/lower.mjs`): fields in order, each on a boundary of its own size; typed arrays, structures and
 * lists by address, 0 for null, with the number of elements in the 8 bytes before an array's or a list's first.
 *
 * @example
 * const address = new StructureWriter(layouts, memory, (bytes) => reserve(memory, bytes)).write('CompiledScene', scene);
 */

/** By structure: name and kind of each field in order, with what a structure or a list is of. */
export type Layouts = Record<string, [name: string, kind: string, ...of: string[]][]>;

/** @param sections of the kernel's module by the name of `structures`, of which there is one */
export const layoutsOf = ([section]: ArrayBuffer[]): Layouts =>
  JSON.parse(new TextDecoder().decode(new Uint8Array(section))) as Layouts;

type Fields = Record<string, unknown>;

const SIZES: Record<string, number> = { bool: 1, i32: 4, f64: 8 };
const ADDRESS = 4;

export class StructureWriter {
  /**
   * @param reserve gives the address of so many bytes, on a boundary of 16 and with 8 before them
   * @param placed addresses of what was written to this memory before and is not written again
   */
  constructor(
    private readonly layouts: Layouts,
    private readonly memory: { readonly buffer: ArrayBufferLike },
    private readonly reserve: (bytes: number) => number,
    private readonly placed = new WeakMap<object, number>(),
  ) {}

  /** @returns the address of the structure */
  write(name: string, value: object): number {
    return this.once(value, () => this.structure(name, value as Fields));
  }

  private once(value: object, place: () => number): number {
    const known = this.placed.get(value);
    if (known !== undefined) return known;
    const at = place();
    this.placed.set(value, at);
    return at;
  }

  private structure(name: string, value: Fields): number {
    const fields = this.layouts[name];
    let bytes = 0;
    const places = fields.map(([, kind]) => {
      const size = SIZES[kind] ?? ADDRESS;
      const at = Math.ceil(bytes / size) * size;
      bytes = at + size;
      return at;
    });
    const values = fields.map(([field, kind, ...of]) => this.valueOf(kind, of, value[field], `${name}.${field}`));
    const at = this.reserve(bytes);
    const view = new DataView(this.memory.buffer);
    fields.forEach(([, kind], i) => {
      if (kind === 'bool') view.setUint8(at + places[i], values[i]);
      else if (kind === 'f64') view.setFloat64(at + places[i], values[i], true);
      else if (kind === 'i32') view.setInt32(at + places[i], values[i], true);
      else view.setUint32(at + places[i], values[i], true);
    });
    return at;
  }

  private valueOf(kind: string, of: string[], value: unknown, where: string): number {
    if (typeof value === 'number' || typeof value === 'boolean') return Number(value);
    if (value === null) return 0;
    if (kind === 'array' && ArrayBuffer.isView(value)) return this.once(value, () => this.array(value as Uint8Array));
    if (kind === 'struct') return this.write(of[0], value as object);
    if (kind === 'list' && Array.isArray(value)) return this.once(value, () => this.list(of, value, where));
    throw new TypeError(`${where} cannot be written as ${kind}`);
  }

  private array(value: Uint8Array): number {
    const at = this.reserve(value.byteLength);
    new Int32Array(this.memory.buffer, at - 8, 1)[0] = value.length;
    const bytes = new Uint8Array(value.buffer, value.byteOffset, value.byteLength);
    new Uint8Array(this.memory.buffer, at, value.byteLength).set(bytes);
    return at;
  }

  private list([kind, ...of]: string[], values: unknown[], where: string): number {
    const addresses = values.map((value, i) => this.valueOf(kind, of, value, `${where}[${i}]`));
    return this.array(Uint32Array.from(addresses) as unknown as Uint8Array);
  }
}
