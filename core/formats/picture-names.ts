/** Which files are read as pictures, by their endings; apart from the readers, which are large. */
import { extensionOf } from './paths.ts';

const SAME: Record<string, string> = { jpeg: 'jpg', tiff: 'tif' };

export const PICTURE_ENDINGS = ['exr', 'hdr', 'pfm', 'png', 'jpg', 'tif', ...Object.keys(SAME)];

/** The ending that a format goes by. */
export const sameEnding = (ending: string): string => SAME[ending] ?? ending;

export const isPictureName = (name: string): boolean => PICTURE_ENDINGS.includes(extensionOf(name));
