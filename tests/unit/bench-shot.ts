/** A demo shot, small enough for tests: fewer pixels, everything else as the demo has it; examined and tried as the server does. */
import type { Effect, FindingWithMask } from '../../core/contracts/finding.ts';
import type { Picture, Region } from '../../core/data/picture.ts';
import type { DiagnosisInput } from '../../core/diagnose/diagnosis.ts';
import { diagnoses } from '../../core/diagnose/registry.ts';
import { varying } from '../../core/diagnose/vary.ts';
import { objectNames } from '../../core/document/object-names.ts';
import type { Sheet, ShotDocument } from '../../core/document/schema.ts';
import { withValues, type ControlValues } from '../../core/document/set-values.ts';
import { measurePair } from '../../core/predict/measure-pair.ts';
import { predictChange } from '../../core/predict/predict-change.ts';
import { pilotSeed, trialSeed } from '../../core/predict/seeds.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { decidingSamples } from '../../core/render/frame/adaptive.ts';
import { createFilm, type Film } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { ALL_PASSES } from '../../core/render/film/pass-list.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene/scene.ts';
import type { DemoShot } from '../../demo/shot.ts';
import { kernelRays } from './kernel.ts';

export interface BenchShot {
  document: ShotDocument;
  assets: Assets;
}

export async function benchShot(built: Promise<DemoShot>, sheet: Partial<Sheet> = {}): Promise<BenchShot> {
  const { document, files } = await built;
  Object.assign(document.sheets.preview, sheet);
  return { document, assets: await loadAssets(document, async (path) => files.get(path) ?? null, document.code) };
}

function compiled(document: ShotDocument, assets: Assets, sheet: Sheet): CompiledScene {
  const scene = compileScene(document, assets, sheet);
  scene.rays = kernelRays(scene.geometry);
  return scene;
}

/** All passes of the preview, or of a region of it with values set. */
export function renderShot(shot: BenchShot, values: ControlValues = {}, region?: Region, seed?: number): Picture {
  const document = withValues(shot.document, ['preview'], values);
  const sheet = document.sheets.preview;
  const scene = compiled(document, shot.assets, sheet);
  const film = createFilm(region ?? { x: 0, y: 0, width: sheet.width, height: sheet.height }, scene.layout);
  renderGroups(scene, settingsOf(sheet, seed ?? sheet.seed), film, sheet.samples / 4);
  return pictureOf([film], film.region, ALL_PASSES, scene.layout);
}

export function inputOf({ document, assets }: BenchShot, picture: Picture, n = 1): DiagnosisInput {
  const sheet = document.sheets.preview;
  const compile = (changed: ShotDocument, its: Sheet) => compiled(changed, assets, its);
  return { document, sheet, scene: compile(document, sheet), picture, pilotSeed: pilotSeed(n), vary: varying(document, 'preview', sheet, compile) }; // prettier-ignore
}

/** Renders the preview and looks for causes. */
export function examine(shot: BenchShot, families = diagnoses, n = 1): FindingWithMask[] {
  const input = inputOf(shot, renderShot(shot), n);
  return families.flatMap((diagnosis) => diagnosis.examine(input));
}

/** Films of a region with values set, by the random numbers of a trial. */
function filmOf(shot: BenchShot, values: ControlValues, region: Region, n: number): { film: Film; deciding: number } {
  const document = withValues(shot.document, ['preview'], values);
  const sheet = document.sheets.preview;
  const scene = compiled(document, shot.assets, sheet);
  const film = createFilm(region, scene.layout);
  renderGroups(scene, settingsOf(sheet, trialSeed(n)), film, sheet.samples / 4);
  return { film, deciding: decidingSamples(sheet) };
}

/** The side without any change is the same for every trial of a region. */
const before = new Map<string, ReturnType<typeof filmOf>>();

/** What a trial of values on a region measures; its random numbers are no other render's. */
export function tryOut(
  shot: BenchShot,
  values: ControlValues,
  region: Region,
  mask: Uint8Array | null = null,
  n = 1,
): Effect {
  const key = JSON.stringify([shot.document, region, n]);
  const first = before.get(key) ?? filmOf(shot, {}, region, n);
  before.set(key, first);
  const second = filmOf(shot, values, region, n);
  const { width } = shot.document.sheets.preview;
  const deciding: [number, number] = [first.deciding, second.deciding];
  return measurePair([first.film], [second.film], region, mask, width, objectNames(shot.document), deciding);
}

/** What the same trial is predicted to measure, where no finding says it. */
export function foretell(
  shot: BenchShot,
  values: ControlValues,
  region: Region,
  picture: Picture | null = null,
  n = 1,
): Effect {
  // prettier-ignore
  const { document } = shot;
  const input = inputOf(shot, picture ?? ({} as Picture), n);
  const [before, after] = [input.vary({}), input.vary(values)];
  return predictChange({
    before,
    after,
    region,
    mask: null,
    picture,
    names: objectNames(document),
    seed: pilotSeed(n),
  });
}
