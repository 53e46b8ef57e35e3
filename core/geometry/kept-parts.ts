/**
 * Parts of compiled scenes that hang on one mesh or image alone, kept for as long as that is: trees, mips. A changed
 * setting then compiles only what it is about.
 *
 * @example
 * const tree = kept.of(mesh, 'tree', () => compileMesh(mesh, means));
 */
export class KeptParts {
  private readonly parts = new WeakMap<object, Map<string, unknown>>();

  /** @param part names what is made of `source`; always made the same way */
  of<T>(source: object, part: string, make: () => T): T {
    let own = this.parts.get(source);
    if (!own) this.parts.set(source, (own = new Map()));
    if (!own.has(part)) own.set(part, make());
    return own.get(part) as T;
  }
}
