/** Reads a picture on its way in; apart, see `apart/`. */
import { readFile } from 'node:fs/promises';
import { readPictureFile } from '../../../core/formats/picture-file.ts';
import type { PictureFacts } from '../../../core/picture/brought.ts';
import { examinePicture } from '../../../core/picture/examine.ts';
import { inflate } from '../../../host/inflate.ts';
import { exrMeans, planeMeans } from '../../../host/kernel.ts';
import { RequestError } from '../../errors.ts';

/** @throws RequestError 400 with the sentence that says why it cannot be read */
export async function examineFile({ place, name }: { place: string; name: string }): Promise<PictureFacts> {
  try {
    const bytes = new Uint8Array(await readFile(place));
    return examinePicture(await readPictureFile(bytes, name, { inflate, means: exrMeans() }), planeMeans());
  } catch (error) {
    if (error instanceof RangeError) throw new RequestError(400, `${error.message}. Nothing was kept.`);
    throw error;
  }
}
