import type { Mesh } from '../../data/mesh.ts';
import type { Texture } from '../../data/texture.ts';
import type { CoatSpec, MapSpec, ShotDocument } from '../../document/schema.ts';

/** What the document's references stand for, by id. */
export interface Assets {
  meshes: Map<string, Mesh>;
  textures: Map<string, Texture>;
  /** Maps and coats that stand in other files, with what the document overrides. */
  shared?: { maps: Map<string, MapSpec>; coats: Map<string, CoatSpec> };
  /** What is not there and what stands in for it, one sentence each. */
  missing?: string[];
}

/** @throws RangeError naming the id of what is not there */
export function need<T>(map: Map<string, T>, id: string, kind: string): T {
  const item = map.get(id);
  if (!item) throw new RangeError(`${kind} "${id}" was not loaded`);
  return item;
}

export function mapOf(document: ShotDocument, assets: Assets, id: string): MapSpec {
  const own = document.maps[id];
  return own.kind === 'shared' ? need(assets.shared?.maps ?? new Map<string, MapSpec>(), id, 'shared map') : own;
}

export function coatOf(document: ShotDocument, assets: Assets, id: string): CoatSpec {
  const own = document.coats[id];
  return own.kind === 'shared' ? need(assets.shared?.coats ?? new Map<string, CoatSpec>(), id, 'shared coat') : own;
}
