/** Memory of a compiled scene: every typed array that it holds, each part of a buffer once. */
import type { CompiledScene } from './scene.ts';

/** @returns bytes of its arrays; what a host lends it to trace rays through is not among them, so that all hosts tell the same */
export function sceneBytes(scene: CompiledScene): number {
  const seen = new Set<object>();
  const parts = new Map<ArrayBufferLike, Set<number>>();
  const bytesOf = (value: unknown): number => {
    if (typeof value !== 'object' || value === null || seen.has(value)) return 0;
    seen.add(value);
    if (!ArrayBuffer.isView(value)) {
      const inside: unknown[] = value instanceof Map ? [...value.values()] : Object.values(value);
      return inside.reduce<number>((sum, one) => sum + bytesOf(one), 0);
    }
    const starts = parts.get(value.buffer) ?? new Set();
    parts.set(value.buffer, starts);
    if (starts.has(value.byteOffset)) return 0;
    starts.add(value.byteOffset);
    return value.byteLength;
  };
  return bytesOf({ ...scene, kernel: null });
}
