/** `dusting trial`: a change tried on a region of a shot: what it is predicted to do, and what two renders measure. */
import { existsSync, readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import type { Effect } from '../core/contracts/finding.ts';
import type { Region } from '../core/data/picture.ts';
import { objectNames } from '../core/document/object-names.ts';
import { applyPatch, type JsonPatch } from '../core/document/patch.ts';
import type { SheetName, ShotDocument } from '../core/document/schema.ts';
import { valuesPatch, type ControlValues } from '../core/document/set-values.ts';
import { validateDocument } from '../core/document/validate.ts';
import { costAtEqualNoise, samplesAtEqualNoise } from '../core/predict/equal-noise.ts';
import { measurePair } from '../core/predict/measure-pair.ts';
import { predictChange } from '../core/predict/predict-change.ts';
import { pilotSeed, trialSeed } from '../core/predict/seeds.ts';
import { decidingSamples } from '../core/render/frame/adaptive.ts';
import { GROUP } from '../core/render/film/random.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { compiledWithKernel } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { numbersOption, parseOptions } from './options.ts';
import { needInside } from './region.ts';
import { renderFrame } from './render-frame.ts';

export const TRIAL_USAGE =
  'dusting trial <shot folder> --patch change.json [--region x,y,w,h] [--sheet preview|final] [--json]';

const OPTIONS = { patch: { type: 'string' }, region: { type: 'string' }, sheet: { type: 'string', default: 'preview' }, json: { type: 'boolean', default: false } } as const; // prettier-ignore

export async function trialCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, TRIAL_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder.\n${TRIAL_USAGE}`);
  if (values.patch === undefined) throw new BadUse(`Name the change: --patch change.json.\n${TRIAL_USAGE}`);
  if (values.sheet !== 'preview' && values.sheet !== 'final') throw new BadUse(`--sheet is "${values.sheet}"; it must be preview or final.`); // prettier-ignore
  const name: SheetName = values.sheet;
  const shot = await openShot(positionals[0], {});
  const { document } = shot;
  const after = changed(document, name, readChange(values.patch));
  const [first, second] = [document.sheets[name], after.sheets[name]];
  if (first.width !== second.width || first.height !== second.height) throw new BadUse('A trial compares the same pixels: it cannot change the width or height.'); // prettier-ignore
  const numbers = numbersOption('region', values.region, ',', 4, '100,50,320,180');
  const region: Region = numbers
    ? { x: numbers[0], y: numbers[1], width: numbers[2], height: numbers[3] }
    : { x: 0, y: 0, width: first.width, height: first.height };
  needInside(region, first.width, first.height, `the ${name} sheet’s frame`);
  const sides = await Promise.all(
    [document, after].map(async (one) => {
      const sheet = one.sheets[name];
      return { sheet, scene: compiledWithKernel(one, await shot.load(one), sheet) };
    }),
  );
  const names = objectNames(document);
  const seed = pilotSeed(1);
  const predicted = predictChange({
    before: sides[0],
    after: sides[1],
    region,
    mask: null,
    picture: null,
    names,
    seed,
  });
  const films = [];
  for (const { scene, sheet } of sides) {
    const settings = settingsOf(sheet, trialSeed(1));
    const { films: its } = await renderFrame({ ...scene, rays: null }, settings, region, sheet.samples / GROUP, availableParallelism(), () => {}); // prettier-ignore
    films.push(its);
  }
  const measured = measurePair(films[0], films[1], region, null, first.width, names, [decidingSamples(first), decidingSamples(second)]); // prettier-ignore
  if (values.json) console.log(JSON.stringify({ region, predicted: told(predicted), measured: told(measured) }));
  else console.log(table(predicted, measured));
}

/** A JSON Patch, or values by the pointers of controls, as remedies of `diagnose --json` have them. */
function readChange(path: string): JsonPatch | ControlValues {
  if (!existsSync(path)) throw new BadUse(`There is no file "${path}".`);
  let value: unknown;
  try {
    value = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new BadUse(`${path} is not JSON (${(error as Error).message}).`, { cause: error });
  }
  if (typeof value !== 'object' || value === null || Object.keys(value).length === 0)
    throw new BadUse(`${path} holds no change: give a JSON Patch, or values by pointer such as {"/samples": 64}.`);
  return value as JsonPatch | ControlValues;
}

function changed(document: ShotDocument, sheet: SheetName, change: JsonPatch | ControlValues): ShotDocument {
  const patch = Array.isArray(change) ? change : valuesPatch(document, [sheet], change);
  if (patch.length === 0) throw new BadUse('All of it stands like that already: nothing to try.');
  return validateDocument(applyPatch(document, patch), document.code);
}

const told = (effect: Effect) => ({
  ...effect,
  samplesAtEqualNoise: samplesAtEqualNoise(effect),
  costAtEqualNoise: costAtEqualNoise(effect),
});

function table(predicted: Effect, measured: Effect): string {
  const look = ({ look: most }: Effect) => (most ? `${most.object} ${most.stops.toFixed(2)}` : 'none');
  const rows: [string, (effect: Effect) => string][] = [
    ['brightness, stops', (e) => e.stops.toFixed(2)],
    ['rays, times', (e) => e.cost.toFixed(2)],
    ['visible grain before', (e) => e.grainBefore.toFixed(2)],
    ['visible grain after', (e) => e.grainAfter.toFixed(2)],
    ['samples at equal noise, times', (e) => samplesAtEqualNoise(e).toFixed(2)],
    ['rays at equal noise, times', (e) => costAtEqualNoise(e).toFixed(2)],
    ['fireflies before', (e) => String(e.fireflies?.before ?? 0)],
    ['fireflies after', (e) => String(e.fireflies?.after ?? 0)],
    ['object that changes most, stops', look],
  ];
  const head = `${''.padEnd(34)}${'predicted'.padStart(18)}${'measured'.padStart(18)}`;
  return [head, ...rows.map(([label, of]) => `${label.padEnd(34)}${of(predicted).padStart(18)}${of(measured).padStart(18)}`)].join('\n'); // prettier-ignore
}
