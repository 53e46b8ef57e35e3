/** A demo shot, small enough for tests: fewer pixels, everything else as the demo has it; examined and tried as the server does. */
import type { Effect } from '../../core/contracts/figures.ts';
import type { FindingWithMask, Remedy } from '../../core/contracts/finding.ts';
import type { Picture, Region } from '../../core/data/picture.ts';
import type { Family, RenderInput } from '../../core/diagnose/family.ts';
import { FAMILIES } from '../../core/diagnose/registry.ts';
import { diagnoseRender } from '../../core/diagnose/run.ts';
import { varying } from '../../core/diagnose/vary.ts';
import { objectNames } from '../../core/document/object-names.ts';
import type { Sheet, ShotDocument } from '../../core/document/schema.ts';
import { withValues, type ControlValues } from '../../core/document/set-values.ts';
import { measurePair, type RenderedSide } from '../../core/predict/measure-pair.ts';
import { predictChange } from '../../core/predict/predict-change.ts';
import { sceneFigures } from '../../core/predict/scene-figures.ts';
import { pilotSeed, trialSeed } from '../../core/predict/seeds.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { KeptParts } from '../../core/geometry/kept-parts.ts';
import { PLAIN_MEANS } from '../../core/geometry/scene-geometry.ts';
import { sceneKey } from '../../core/render/scene/scene-key.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { decidingSamples } from '../../core/render/frame/adaptive.ts';
import { createFilm, type Film } from '../../core/render/film/film.ts';
import type { FilmLayout } from '../../core/render/film/passes.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { passList } from '../../core/render/film/pass-list.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene/scene.ts';
import type { DemoShot } from '../../demo/shot.ts';
import { builtOnce } from './built.ts';
import { kernelScene } from './kernel.ts';

export interface BenchShot {
  document: ShotDocument;
  assets: Assets;
}

/** Demo shots as they were read, once a process. */
const read = new Map<() => Promise<DemoShot>, Promise<BenchShot>>();

async function asRead(build: () => Promise<DemoShot>): Promise<BenchShot> {
  const { document, files } = await builtOnce(build);
  return { document, assets: await loadAssets(document, async (path) => files.get(path) ?? null, document.code) };
}

/** A copy of a demo shot that a test may change. */
export async function benchShot(build: () => Promise<DemoShot>, sheet: Partial<Sheet> = {}): Promise<BenchShot> {
  const shot = read.get(build) ?? asRead(build);
  read.set(build, shot);
  const { document: original, assets } = await shot;
  const document = structuredClone(original);
  Object.assign(document.sheets.preview, sheet);
  return { document, assets: { ...assets, meshes: new Map(assets.meshes), textures: new Map(assets.textures) } };
}

/** Trees and mips hang on their mesh and image, as on the server; a scene is compiled once for all that differs in samples or limits. */
const means = { ...PLAIN_MEANS, kept: new KeptParts() };
const scenes = new WeakMap<Assets, Map<string, CompiledScene>>();
/** Scenes that are kept of each shot. */
const KEPT = 4;

function compiled(document: ShotDocument, assets: Assets, sheet: Sheet): CompiledScene {
  const own = scenes.get(assets) ?? new Map<string, CompiledScene>();
  scenes.set(assets, own);
  const key = sceneKey(document, sheet);
  const scene = own.get(key) ?? kernelScene(compileScene(document, assets, sheet, means));
  own.delete(key);
  own.set(key, scene);
  if (own.size > KEPT) own.delete(own.keys().next().value!);
  return scene;
}

/** The preview, or a region of it, with values set: as a film. */
export function filmOf(shot: BenchShot, values: ControlValues = {}, region?: Region, seed?: number): { film: Film; layout: FilmLayout } {
  const document = withValues(shot.document, ['preview'], values);
  const sheet = document.sheets.preview;
  const scene = compiled(document, shot.assets, sheet);
  const film = createFilm(region ?? { x: 0, y: 0, width: sheet.width, height: sheet.height }, scene.layout);
  renderGroups(scene, settingsOf(sheet, seed ?? sheet.seed), film, sheet.samples / 4);
  return { film, layout: scene.layout };
} // prettier-ignore

/** All passes of a film. */
export const allPasses = ({ film, layout }: { film: Film; layout: FilmLayout }): Picture =>
  pictureOf([film], film.region, passList(layout).map((pass) => pass.name), layout); // prettier-ignore

/** All passes of the preview, or of a region of it with values set. */
export const renderShot = (shot: BenchShot, values: ControlValues = {}, region?: Region, seed?: number): Picture =>
  allPasses(filmOf(shot, values, region, seed));

export function inputOf({ document, assets }: BenchShot, picture: Picture, n = 1): RenderInput {
  const sheet = document.sheets.preview;
  const compile = (changed: ShotDocument, its: Sheet, _like: CompiledScene, files: Assets) => compiled(changed, files, its); // prettier-ignore
  const scene = compiled(document, assets, sheet);
  const vary = varying({ document, sheetName: 'preview', sheet, scene, assets, compile });
  return { document, sheet, scene, assets, picture, pilotSeed: pilotSeed(n), vary, clock: null };
}

/** Renders the preview and looks for causes. */
export const examine = (shot: BenchShot, families: readonly Family[] = FAMILIES, n = 1): FindingWithMask[] =>
  diagnoseRender(inputOf(shot, renderShot(shot), n), families);

/** What a remedy sets, by pointer. */
export function valuesOf({ id, change }: Remedy): ControlValues {
  if (change?.kind !== 'values') throw new Error(`remedy "${id}" sets no values`);
  return change.values;
}

/** A region with values set, by the random numbers of a trial. */
function sideOf(shot: BenchShot, values: ControlValues, region: Region, n: number): RenderedSide {
  const document = withValues(shot.document, ['preview'], values);
  const sheet = document.sheets.preview;
  const scene = compiled(document, shot.assets, sheet);
  const film = createFilm(region, scene.layout);
  const began = performance.now();
  renderGroups(scene, settingsOf(sheet, trialSeed(n)), film, sheet.samples / 4);
  const seconds = (performance.now() - began) / 1000;
  return { films: [film], layout: scene.layout, deciding: decidingSamples(sheet), occlusionRays: sheet.extraSamples.occlusion, seconds, ofScene: sceneFigures(scene, sheet) }; // prettier-ignore
}

/** The side without any change is the same for every trial of a region. */
const before = new Map<string, RenderedSide>();

/** What a trial of values on a region measures; its random numbers are no other render's. */
export function tryOut(
  shot: BenchShot,
  values: ControlValues,
  region: Region,
  mask: Uint8Array | null = null,
  n = 1,
): Effect {
  const key = JSON.stringify([shot.document, region, n]);
  const first = before.get(key) ?? sideOf(shot, {}, region, n);
  before.set(key, first);
  const second = sideOf(shot, values, region, n);
  const frameWidth = shot.document.sheets.preview.width;
  return measurePair(first, second, { region, mask, frameWidth, names: objectNames(shot.document) });
}

/** A trial of a remedy on its finding's region, as the server makes it. */
export const tryRemedy = (shot: BenchShot, { finding, mask }: FindingWithMask, remedy: Remedy): Effect =>
  tryOut(shot, valuesOf(remedy), finding.where.region!, finding.isElsewhereNext ? null : mask);

/** What the same trial is predicted to measure, where no finding says it. */
export function forecast(
  shot: BenchShot,
  values: ControlValues,
  region: Region,
  picture: Picture | null = null,
  n = 1,
): Effect {
  const { document } = shot;
  const input = inputOf(shot, picture ?? ({} as Picture), n);
  return predictChange({
    before: { scene: input.scene, sheet: input.sheet },
    after: input.vary(values),
    region,
    mask: null,
    picture,
    names: objectNames(document),
    seed: pilotSeed(n),
  });
}
