/** `npm run bench`: ratios, measured in one run. Absolute times drift with the machine; ratios hold. */
import process from 'node:process';
import { benchExr } from './exr.ts';
import { benchIntake } from './intake.ts';
import { benchLoad } from './load.ts';
import { benchGrowth, benchShots } from './paths.ts';
import { benchNative } from './paths-native.ts';
import { benchNoise } from './noise.ts';
import { benchBuild, benchRays } from './rays.ts';
import { benchWorkers } from './workers.ts';

const parts: Record<string, () => void | Promise<void>> = {
  rays: benchRays,
  build: benchBuild,
  native: benchNative,
  noise: benchNoise,
  shots: benchShots,
  growth: benchGrowth,
  workers: benchWorkers,
  load: benchLoad,
  intake: benchIntake,
  exr: benchExr,
};
const wanted = process.argv.slice(2).filter((name) => name in parts);
for (const name of wanted.length ? wanted : Object.keys(parts)) await parts[name]();
