/** The part of WebAssembly's JavaScript interface that is used here; Node's own types leave it to those of browsers. */
declare namespace WebAssembly {
  class Memory {
    constructor(descriptor: { initial: number; maximum: number; shared: boolean });
    readonly buffer: SharedArrayBuffer;
  }
  class Module {
    constructor(bytes: Uint8Array);
  }
  class Instance {
    constructor(module: Module, imports: Record<string, Record<string, unknown>>);
    readonly exports: Record<string, unknown>;
  }
}
