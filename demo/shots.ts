/** The Halfmoon Apiary's shots, by code. A new shot is a new folder and one line here. */
import { buildJarShelf } from './ha-010/build.ts';
import { buildNightLantern } from './ha-020/build.ts';
import { buildPressedComb } from './ha-030/build.ts';
import { buildStoreRoom } from './ha-040/build.ts';
import { buildHiveYard } from './ha-050/build.ts';
import { buildLabelCase } from './ha-060/build.ts';
import { buildDawnSet } from './ha-070/build.ts';
import type { DemoShot } from './shot.ts';

export const demoShots: Record<string, () => Promise<DemoShot>> = {
  'HA-010': buildJarShelf,
  'HA-020': buildNightLantern,
  'HA-030': buildPressedComb,
  'HA-040': buildStoreRoom,
  'HA-050': buildHiveYard,
  'HA-060': buildLabelCase,
  'HA-070': buildDawnSet,
};
