/** A shot with repairs carried out, as a folder of its own; the shot it was made of stays as it is. */
import { existsSync } from 'node:fs';
import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { canonicalText } from '../core/document/canonical.ts';
import type { ShotDocument } from '../core/document/schema.ts';
import { DOCUMENT } from '../core/intake/from-shot.ts';
import type { Profile } from '../core/intake/preflight/profile.ts';
import { CHECKS } from '../core/intake/preflight/registry.ts';
import { repairAll, type Repaired } from '../core/intake/repair-all.ts';
import { neededFiles } from '../core/render/compile/load-assets.ts';
import { placeIn } from '../host/place-in.ts';
import { BadUse } from './bad-use.ts';
import { filesInFolder } from './folder-files.ts';

/** @param ids of checks; null: all that offer a repair */
export async function writeRepaired(
  folder: string,
  document: ShotDocument,
  profile: Profile,
  ids: string[] | null,
  out: string,
): Promise<Repaired['done']> {
  const unknown = ids?.find((id) => !CHECKS.some((check) => check.id === id));
  if (unknown !== undefined) throw new BadUse(`There is no check "${unknown}".`);
  if (existsSync(out) && (await readdir(out)).length) throw new BadUse(`"${out}" is there already and not empty.`);
  const from = filesInFolder(folder);
  const made = await repairAll(document, (path) => from.read(path), profile, ids);
  const read = async (path: string) => made.files.get(path) ?? from.read(path);
  for (const path of await neededFiles(made.document, read, folder, 'stand in')) {
    const place = placeIn(out, path);
    await mkdir(dirname(place), { recursive: true });
    await writeFile(place, (await read(path))!);
  }
  await mkdir(out, { recursive: true });
  await writeFile(join(out, DOCUMENT), canonicalText(made.document));
  return made.done;
}
