import type { ShotDocument } from './schema.ts';

/** What objects are called, by the number that passes of objects hold, less one. */
export const objectNames = ({ objects }: ShotDocument): string[] =>
  Object.keys(objects)
    .sort()
    .map((id) => objects[id].name || id);
