/** The two sides have normals of their own, and are moved different ways. */
import type { Way } from '../way.ts';

export const splitNormals: Way = {
  cause: 'seams.split-normals',
  without: ({ state }) => ({ ...state, joinsNormals: true }),
};
