/** An image that is brought into a shot: a file and a texture of it, and at once the environment or a map, as one version. */
import { freeId } from '../../core/document/new-items.ts';
import { defaultMap } from '../../core/document/defaults.ts';
import type { AddedImage, ImageUse } from '../../core/contracts/requests.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import type { ControlValues } from '../../core/document/set-values.ts';
import { apart } from '../apart/apart.ts';
import type { Context } from '../context.ts';
import { freePath } from '../manifest.ts';
import type { ReceivedFile } from '../received.ts';
import { addVersion, lockHead, shotByCode } from './versions.ts';

/**
 * @param name of the file; it stands below `textures/`, under another name where that one is taken by another
 * @throws RequestError 400 with what is wrong with it
 */
export async function addImage(
  context: Context,
  code: string,
  name: string,
  use: ImageUse,
  { place, bytes, hash, gone }: ReceivedFile,
): Promise<AddedImage> {
  await shotByCode(context.db, code);
  const { colourSpace, why } = await apart('takeImage', { place, name }, { gone, bytes });
  await context.blobs.adopt(place, hash);
  return context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    const document = JSON.parse(head.document) as ShotDocument;
    const manifest = JSON.parse(head.manifest) as Record<string, string>;
    const path = freePath(manifest, texturePath(name), hash);
    const known = Object.entries(document.textures).find(([, one]) => one.file === path && one.colourSpace === colourSpace); // prettier-ignore
    const texture = known?.[0] ?? freeId(document.textures, name.replace(/\.[^.]*$/, ''));
    const values: ControlValues = known ? {} : { [`/textures/${texture}`]: { file: path, colourSpace } };
    let item = `/textures/${texture}`;
    if (use === 'environment') {
      item = '/environment';
      values['/environment/kind'] = 'image';
      values['/environment/texture'] = texture;
      if (document.environment.intensity === 0) values['/environment/intensity'] = 1;
    }
    if (use === 'map') {
      item = `/maps/${freeId(document.maps, texture)}`;
      values[item] = { ...defaultMap('image'), name: name.slice(0, 200), texture };
    }
    const reason = (told: string) => `Added ${name}, read as ${colourSpace === 'srgb' ? 'sRGB' : 'linear'}; ${told}`;
    const files = manifest[path] === hash ? {} : { [path]: hash };
    await addVersion(context, tx, shot, head, { reason, values, files });
    return { item, colourSpace, why };
  });
}

/** "textures/sky.exr", with signs that every system keeps. */
function texturePath(name: string): string {
  const dot = name.lastIndexOf('.');
  const clean = (text: string) => text.replace(/[^A-Za-z0-9_.-]+/g, '-');
  return `textures/${clean(name.slice(0, dot)) || 'image'}${clean(name.slice(dot))}`;
}
