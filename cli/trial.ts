/** `dusting trial`: a change tried on a region of a shot: what it is predicted to do, and what two renders measure. */
import { existsSync, readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import type { Effect } from '../core/contracts/figures.ts';
import type { Region } from '../core/data/picture.ts';
import { objectNames } from '../core/document/object-names.ts';
import { applyPatch, type JsonPatch } from '../core/document/patch.ts';
import { pointerOf } from '../core/document/pointers.ts';
import { holdOutPair } from '../core/document/hold-out.ts';
import type { Sheet, SheetName, ShotDocument } from '../core/document/schema.ts';
import { valuesPatch, withValues, type ControlValues } from '../core/document/set-values.ts';
import { validateDocument } from '../core/document/validate.ts';
import { tellChange } from '../core/figures/effect.ts';
import { FIGURES } from '../core/figures/registry.ts';
import { tellNothing } from '../core/figures/nothing-shown.ts';
import { costAtEqualNoise, samplesAtEqualNoise } from '../core/predict/equal-noise.ts';
import { measurePair, type RenderedSide } from '../core/predict/measure-pair.ts';
import { predictChange } from '../core/predict/predict-change.ts';
import { sceneFigures } from '../core/predict/scene-figures.ts';
import { pilotSeed, trialSeed } from '../core/predict/seeds.ts';
import { decidingSamples } from '../core/render/frame/adaptive.ts';
import type { Film } from '../core/render/film/film.ts';
import { addFilm } from '../core/render/film/put-together.ts';
import { GROUP } from '../core/render/film/random.ts';
import { settingsOf, type CompiledScene } from '../core/render/scene/scene.ts';
import { compiledWithKernel } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { numbersOption, parseOptions } from './options.ts';
import { sheetOption } from './sheet-option.ts';
import { needInside } from './region.ts';
import { renderFrame } from './render-frame.ts';

export const TRIAL_USAGE = `dusting trial <shot folder> --patch change.json [--region x,y,w,h] [--sheet preview|final] [--json]
    [--hold-out object,object]   the change in a second render of these alone, put together with the first`;

const OPTIONS = { patch: { type: 'string' }, 'hold-out': { type: 'string' }, region: { type: 'string' }, sheet: { type: 'string', default: 'preview' }, json: { type: 'boolean', default: false } } as const; // prettier-ignore

export async function trialCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, TRIAL_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder.\n${TRIAL_USAGE}`);
  if (values.patch === undefined) throw new BadUse(`Name the change: --patch change.json.\n${TRIAL_USAGE}`);
  const name = sheetOption(values.sheet);
  const shot = await openShot(positionals[0], {});
  const { document } = shot;
  const patch = patchOf(document, name, readChange(values.patch));
  const after = validateDocument(applyPatch(document, patch), document.code);
  const [first, second] = [document.sheets[name], after.sheets[name]];
  if (first.width !== second.width || first.height !== second.height) throw new BadUse('A trial compares the same pixels: it cannot change the width or height.'); // prettier-ignore
  const numbers = numbersOption('region', values.region, ',', 4, '100,50,320,180');
  const region: Region = numbers
    ? { x: numbers[0], y: numbers[1], width: numbers[2], height: numbers[3] }
    : { x: 0, y: 0, width: first.width, height: first.height };
  needInside(region, first.width, first.height, `the ${name} sheet’s frame`);
  const names = objectNames(document);
  const compile = async (one: ShotDocument) => {
    const sheet = one.sheets[name];
    return { sheet, scene: compiledWithKernel(one, await shot.load(one), sheet) };
  };
  const before = await compile(document);
  const layers = values['hold-out'] === undefined ? [after] : heldOut(document, name, values['hold-out'], patch);
  const sides = await Promise.all(layers.map(compile));
  const [own] = sides;
  const change = {
    before,
    region,
    mask: null,
    picture: null,
    names,
    seed: pilotSeed(1),
    clock: () => performance.now(),
  };
  // What two renders make together is measured alone: no pilot traces it.
  const predicted = layers.length > 1 ? null : predictChange({ ...change, after: { sheet: own.sheet, compile: () => own.scene } }); // prettier-ignore
  const without = await renderSide(before, region);
  const withIt = await renderSide(own, region);
  for (const layer of sides.slice(1)) putTogether(withIt, await renderSide(layer, region));
  const measured = measurePair(without, withIt, { region, mask: null, frameWidth: first.width, names });
  const pointers = patch.filter(({ op }) => op !== 'test').map((step) => pointerOf(step.path));
  if (values.json)
    console.log(JSON.stringify({ region, predicted: predicted && told(predicted), measured: told(measured) }));
  else console.log([table(predicted, measured), tellNothing(measured, pointers)].filter(Boolean).join('\n'));
}

/** The shot without the chosen objects, and those alone with the change. */
function heldOut(document: ShotDocument, name: SheetName, ids: string, patch: JsonPatch): ShotDocument[] {
  try {
    const { rest, alone } = holdOutPair(document, ids.split(',').map((id) => id.trim()));
    const changed = validateDocument(applyPatch(document, patch), document.code);
    return [withValues(document, [name], rest), withValues(changed, [name], alone)];
  } catch (error) {
    if (error instanceof RangeError) throw new BadUse(`--hold-out ${ids}: ${error.message}.`, { cause: error });
    throw error;
  }
} // prettier-ignore

async function renderSide({ scene, sheet }: { scene: CompiledScene; sheet: Sheet }, region: Region): Promise<RenderedSide> {
  const settings = settingsOf(sheet, trialSeed(1));
  const { films } = await renderFrame({ ...scene, kernel: null }, settings, region, sheet.samples / GROUP, availableParallelism(), () => {});
  const microseconds = films.reduce((sum, { time }) => time.reduce((all, one) => all + one, sum), 0);
  return { films, layout: scene.layout, deciding: decidingSamples(sheet), occlusionRays: sheet.extraSamples.occlusion, seconds: microseconds / 1e6, ofScene: sceneFigures(scene, sheet) };
} // prettier-ignore

/** Adds what another render of the same pixels has to a side. */
function putTogether(side: RenderedSide, other: RenderedSide): void {
  const at = ({ region: { x, y } }: Film) => `${x},${y}`;
  const its = new Map(other.films.map((film) => [at(film), film]));
  for (const film of side.films) addFilm(film, its.get(at(film))!);
  side.seconds = (side.seconds ?? 0) + (other.seconds ?? 0);
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

function patchOf(document: ShotDocument, sheet: SheetName, change: JsonPatch | ControlValues): JsonPatch {
  const patch = Array.isArray(change) ? change : valuesPatch(document, [sheet], change);
  if (patch.length === 0) throw new BadUse('Everything already has these values: nothing to try.');
  return patch;
}

const told = (effect: Effect) => ({
  ...effect,
  samplesAtEqualNoise: samplesAtEqualNoise(effect),
  costAtEqualNoise: costAtEqualNoise(effect),
});

/** Every figure, predicted beside measured. */
function table(predicted: Effect | null, measured: Effect): string {
  const cell = (effect: Effect | null, id: string) => {
    const value = effect?.figures.find((one) => one.id === id);
    if (!value) return '';
    const of = value.of ? `${value.of} ` : '';
    return `${of}${tellChange(value)}`;
  };
  const rows = FIGURES.map(({ id, label }) => [label, cell(predicted, id), cell(measured, id)]);
  const equal = (effect: Effect | null) => (effect ? [samplesAtEqualNoise(effect), costAtEqualNoise(effect)].map((value) => value.toFixed(2)) : ['', '']); // prettier-ignore
  const [[p, q], [m, n]] = [equal(predicted), equal(measured)];
  rows.push(['Samples at equal noise, times', p, m], ['Rays at equal noise, times', q, n]);
  const widths = [0, 1, 2].map((column) => Math.max(...[['', 'predicted', 'measured'], ...rows].map((row) => row[column].length))); // prettier-ignore
  return [['', 'predicted', 'measured'], ...rows]
    .map(
      ([label, first, second]) =>
        `${label.padEnd(widths[0])}  ${first.padStart(widths[1])}  ${second.padStart(widths[2])}`,
    ) // prettier-ignore
    .join('\n');
}
