import { canonicalText } from '../../document/canonical.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { sceneSheetOf, type SceneSheet } from './scene-sheet.ts';

/** Documents and sheets of one key compile to one scene: samples, limits and clamps are no part of it. */
export function sceneKey(document: ShotDocument, sheet: SceneSheet): string {
  return canonicalText({ ...document, groups: {}, sheets: sceneSheetOf(sheet) });
}
