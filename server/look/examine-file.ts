/** Reads a picture on a thread, see `apart.ts`. */
import { readFile } from 'node:fs/promises';
import { readPictureFile } from '../../core/formats/picture-file.ts';
import type { PictureFacts } from '../../core/picture/brought.ts';
import { examinePicture } from '../../core/picture/examine.ts';
import { inflate } from '../../host/inflate.ts';
import { exrMeans } from '../../host/kernel.ts';

/** @returns what is known of it, or the sentence that says why it cannot be read */
export async function examineFile({
  place,
  name,
}: {
  place: string;
  name: string;
}): Promise<PictureFacts | { refused: string }> {
  try {
    const bytes = new Uint8Array(await readFile(place));
    return examinePicture(await readPictureFile(bytes, name, { inflate, means: exrMeans() }));
  } catch (error) {
    // Classes of errors do not cross from thread to thread.
    if (error instanceof RangeError) return { refused: error.message };
    throw error;
  }
}
