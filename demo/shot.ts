import type { ShotDocument } from '../core/document/schema.ts';

/** A shot as its folder holds it: the document and the files it refers to, by relative path. */
export interface DemoShot {
  document: ShotDocument;
  files: Map<string, Uint8Array>;
}
