import type { ShotDocument } from '../../core/document/schema.ts';

/**
 * A shot with its shapes and what moves their surfaces, and no other image to read.
 * @param shown a further map whose image is read; null: none
 */
export function shapesAlone(document: ShotDocument, shown: string | null = null): ShotDocument {
  const used = new Set([shown, ...Object.values(document.materials).map(({ displacementMap }) => displacementMap)]);
  const maps = Object.fromEntries(Object.entries(document.maps).filter(([id]) => used.has(id)));
  const images = new Set(Object.values(maps).map((map) => (map.kind === 'image' ? map.texture : null)));
  const textures = Object.fromEntries(Object.entries(document.textures).filter(([id]) => images.has(id)));
  return { ...document, textures, maps, coats: {} };
}
