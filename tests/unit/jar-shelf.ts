/** The jar shelf, small enough for tests. */
import type { Sheet } from '../../core/document/schema.ts';
import { buildJarShelf } from '../../demo/ha-010/build.ts';
import { benchShot, type BenchShot } from './bench-shot.ts';

export const jarShelf = (width: number, height: number, sheet: Partial<Sheet> = {}): Promise<BenchShot> =>
  benchShot(buildJarShelf, { width, height, ...sheet });
