/** Reads an image that is to be a texture of a shot, to know that it can be; apart, see `apart/`. */
import { readFile } from 'node:fs/promises';
import { readImageHeader } from '../../../core/formats/image-header.ts';
import { readTexture } from '../../../core/formats/texture-readers.ts';
import { proposeColourSpace, type ProposedSpace } from '../../../core/textures/colour-space.ts';
import { RequestError } from '../../errors.ts';

/** @throws RequestError 400 with the sentence that says why it cannot be read */
export async function takeImage({ place, name }: { place: string; name: string }): Promise<ProposedSpace> {
  try {
    const bytes = new Uint8Array(await readFile(place));
    const header = readImageHeader(bytes);
    if (!header) throw new RangeError(`${name}: begins as no image that is known`);
    const proposed = proposeColourSpace(name, header);
    readTexture(bytes, proposed.colourSpace, name);
    return proposed;
  } catch (error) {
    if (error instanceof RangeError) throw new RequestError(400, `${error.message}. Nothing was kept.`);
    throw error;
  }
}
