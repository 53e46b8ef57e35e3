/**
 * `npm run bench`: ratios, measured in one run, beside those of the run that was kept. Absolute times drift with the machine;
 * ratios hold. `npm run bench keep` keeps this run's, of all parts or of those that are named.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import process from 'node:process';
import { benchExr } from './exr.ts';
import { benchFirstMinute } from './first-minute.ts';
import { benchIntake } from './intake.ts';
import { benchLoad } from './load.ts';
import { ratios } from './measure.ts';
import { benchGrowth, benchShots } from './paths.ts';
import { benchNative } from './paths-native.ts';
import { benchNoise } from './noise.ts';
import { benchBuild, benchRays } from './rays.ts';
import { benchSubdivision } from './subdivision.ts';
import { benchWorkers } from './workers.ts';

const parts: Record<string, () => void | Promise<void>> = {
  rays: benchRays,
  build: benchBuild,
  subdivision: benchSubdivision,
  native: benchNative,
  noise: benchNoise,
  shots: benchShots,
  growth: benchGrowth,
  'first-minute': benchFirstMinute,
  workers: benchWorkers,
  load: benchLoad,
  intake: benchIntake,
  exr: benchExr,
};
const wanted = process.argv.slice(2).filter((name) => name in parts);
for (const name of wanted.length ? wanted : Object.keys(parts)) await parts[name]();

const place = join(import.meta.dirname, 'kept.json');
const kept = JSON.parse(readFileSync(place, 'utf8')) as Record<string, number>;
if (ratios.size) console.log('\nBeside the run that was kept:');
for (const [name, value] of ratios)
  console.log(`${name}: ${value.toFixed(2)}, kept ${kept[name]?.toFixed(2) ?? 'none'}`);
if (process.argv.includes('keep')) {
  const all = Object.entries({ ...kept, ...Object.fromEntries(ratios) }).sort(([a], [b]) => (a < b ? -1 : 1));
  writeFileSync(
    place,
    `${JSON.stringify(Object.fromEntries(all.map(([name, value]) => [name, Number(value.toPrecision(3))])), null, 2)}\n`,
  );
}
