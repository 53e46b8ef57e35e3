/**
 * Pointers of controls. One that begins with a part of the document (`/lights/sun/angle`) is the document's own;
 * any other stands inside a sheet (`/limits/transmission`), and means the same place in each.
 */
import type { SheetName } from './schema.ts';

const PARTS = [
  'frame',
  'camera',
  'cameras',
  'meshes',
  'textures',
  'maps',
  'coats',
  'materials',
  'objects',
  'groups',
  'lights',
  'environment',
  'background',
  'fog',
  'previewShadows',
];

export const isOfDocument = (pointer: string): boolean => PARTS.includes(pointer.split('/')[1]);

/** Where a control's value stands in the document, for each of the sheets it is set in. */
export const placesOf = (pointer: string, sheets: SheetName[]): string[] =>
  isOfDocument(pointer) ? [pointer] : sheets.map((sheet) => `/sheets/${sheet}${pointer}`);

/** The control whose value stands at a place of the document. */
export const pointerOf = (place: string): string => place.replace(/^\/sheets\/(preview|final)(?=\/)/, '');

/** "lights sun angle", for sentences. */
export const tellPointer = (pointer: string): string => pointer.slice(1).replaceAll('/', ' ');
