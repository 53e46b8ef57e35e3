/**
 * Images of the same name that have alpha, beside those of a scene that have none: a colour was saved as JPEG, or exported without
 * its alpha, and the file that has it still lies in the folder, named by nobody.
 *
 * @example
 * siblingNames('tex/label.jpg'); // ['tex/label.png', 'tex/label.tif', …, 'tex/label_alpha.png', …]
 * await findSiblings(scene, files);
 */
import { readImageHeader } from './image-header.ts';
import { readTexture } from './texture-readers.ts';
import type { SceneFiles } from './scene-files.ts';
import type { SourceScene } from './source-scene.ts';

/** What is put behind a name where an image has its alpha, after a joint or none. */
const WORDS = ['alpha', 'rgba', 'cutout', 'cut', 'mask', 'opacity'];
const JOINTS = ['_', '-', '.'];
/** Kinds of files that can have alpha. */
const ENDINGS = ['png', 'tif', 'tiff', 'exr'];
const WITH_WORD = new RegExp(`[-_. ]?(${WORDS.join('|')})$`, 'i');

const withoutEnding = (path: string): string => path.replace(/\.[^./]*$/, '');

/** A path without its ending and what tells an image with alpha from one without. */
export const stemOf = (path: string): string => withoutEnding(path).replace(WITH_WORD, '').toLowerCase();

/** Paths at which an image with alpha would stand beside one. */
export function siblingNames(path: string): string[] {
  const stem = withoutEnding(path);
  const stems = [stem, ...WORDS.flatMap((word) => JOINTS.map((joint) => `${stem}${joint}${word}`))];
  return stems.flatMap((one) => ENDINGS.map((ending) => `${one}.${ending}`)).filter((one) => one !== path);
}

/** Gives each image of a colour without alpha the first file beside it that has one by its header. */
export async function findSiblings(scene: SourceScene, files: SceneFiles): Promise<void> {
  const colours = new Set(scene.materials.flatMap(({ textures }) => textures.flatMap(({ slot, image }) => (slot === 'baseColour' ? [image] : [])))); // prettier-ignore
  for (const number of colours) {
    const image = scene.images[number];
    if (!image.resolved || !image.bytes || image.tiles.length || hasAlpha(image.bytes, image.resolved)) continue;
    for (const path of siblingNames(image.resolved)) {
      const bytes = await files.read(path);
      if (!bytes || !hasAlpha(bytes, path)) continue;
      image.sibling = { path, bytes };
      break;
    }
  }
}

/** Two channels are grey and alpha, four colour and alpha. TIFF tells in its directory alone, so that it is read whole. */
function hasAlpha(bytes: Uint8Array, path: string): boolean {
  const header = readImageHeader(bytes);
  if (header?.kind !== 'TIFF') return header !== null && (header.channels === 2 || header.channels === 4);
  try {
    return readTexture(bytes, 'srgb', path).alpha !== null;
  } catch {
    // One that cannot be read has nothing to give.
    return false;
  }
}
