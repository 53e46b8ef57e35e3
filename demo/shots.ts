/** The Halfmoon Apiary's shots, by code. A new shot is a new folder and one line here. */
import { buildJarShelf } from './ha-010/build.ts';
import type { DemoShot } from './shot.ts';

export const demoShots: Record<string, () => Promise<DemoShot>> = {
  'HA-010': buildJarShelf,
};
