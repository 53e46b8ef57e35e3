/** Meshes and textures in memory that threads share, so that sending them to one copies nothing. */
import type { Assets } from '../../core/render/compile/assets.ts';

export function sharedAssets(assets: Assets): Assets {
  const each = <T extends object>(items: Map<string, T>): Map<string, T> =>
    new Map([...items].map(([id, item]) => [id, shared(item)]));
  return { ...assets, meshes: each(assets.meshes), textures: each(assets.textures) };
}

function shared<T extends object>(item: T): T {
  return Object.fromEntries(
    Object.entries(item).map(([key, value]) => [
      key,
      value instanceof Float32Array || value instanceof Uint32Array ? copyOf(value) : (value as unknown),
    ]),
  ) as T;
}

function copyOf<T extends Float32Array | Uint32Array>(from: T): T {
  const into = new (from.constructor as new (buffer: SharedArrayBuffer) => T)(new SharedArrayBuffer(from.byteLength));
  into.set(from);
  return into;
}
