import { canonicalText } from '../../document/canonical.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { SceneSheet } from './scene-sheet.ts';

/** Documents and sheets of one key compile to one scene: samples, limits and clamps are no part of it. */
export function sceneKey(document: ShotDocument, sheet: SceneSheet): string {
  const { width, height, motion, precision, neutral, passes, mostSubdivision } = sheet;
  return canonicalText({ ...document, sheets: { width, height, motion, precision, neutral, passes, mostSubdivision } });
}
