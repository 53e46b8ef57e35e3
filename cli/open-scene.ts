/** A scene by its path: a file, or a folder with one scene in it. */
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { findScene, readScene } from '../core/formats/scene-readers.ts';
import type { SourceScene } from '../core/formats/source-scene.ts';
import type { ShotDocument } from '../core/document/schema.ts';
import { parseDocument } from '../core/document/validate.ts';
import { DOCUMENT, fromShot } from '../core/intake/from-shot.ts';
import { BadUse } from './bad-use.ts';
import { decoders } from '../host/decoders.ts';
import { filesInFolder } from './folder-files.ts';

export async function openScene(path: string): Promise<SourceScene> {
  if (!existsSync(path)) throw new BadUse(`There is no "${path}".`);
  const isFolder = statSync(path).isDirectory();
  const folder = isFolder ? path : dirname(path);
  const file = isFolder ? findScene(readdirSync(path)) : basename(path);
  if (!statSync(join(folder, file)).isFile()) throw new BadUse(`"${path}" is no file.`);
  return readScene(file, filesInFolder(folder), decoders);
}

/** A shot folder, or a scene of an open format, to be examined. */
export async function openForIntake(path: string): Promise<{ source: SourceScene; document: ShotDocument | null }> {
  const place = join(path, DOCUMENT);
  if (!existsSync(place)) return { source: await openScene(path), document: null };
  const text = readFileSync(place, 'utf8');
  const document = parseDocument(text, place);
  return { source: await fromShot(document, text.length, filesInFolder(path)), document };
}
