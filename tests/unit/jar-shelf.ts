/** The jar shelf, small enough for tests: fewer pixels, everything else as the demo has it. */
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import type { ShotDocument, Sheet } from '../../core/document/schema.ts';
import { diagnoses } from '../../core/diagnose/registry.ts';
import { measurePair } from '../../core/predict/measure-pair.ts';
import { pilotSeed, trialSeed } from '../../core/predict/seeds.ts';
import type { Assets } from '../../core/render/assets.ts';
import { compileScene } from '../../core/render/compile.ts';
import { createFilm } from '../../core/render/film.ts';
import { pictureOf } from '../../core/render/film-picture.ts';
import { loadAssets } from '../../core/render/load-assets.ts';
import { ALL_PASSES } from '../../core/render/pass-list.ts';
import { renderGroups } from '../../core/render/render-tile.ts';
import { settingsOf } from '../../core/render/scene.ts';
import { kernelRays } from './kernel.ts';
import { buildJarShelf } from '../../demo/ha-010/build.ts';

export interface JarShelf {
  document: ShotDocument;
  assets: Assets;
}

export async function jarShelf(width: number, height: number, sheet: Partial<Sheet> = {}): Promise<JarShelf> {
  const { document, files } = await buildJarShelf();
  Object.assign(document.sheets.preview, { width, height }, sheet);
  return { document, assets: await loadAssets(document, async (path) => files.get(path) ?? null, 'HA-010') };
}

function sceneOf({ document, assets }: JarShelf) {
  const scene = compileScene(document, assets, document.sheets.preview);
  scene.rays = kernelRays(scene.geometry);
  return scene;
}

/** Renders the preview and looks for causes, as the server does. */
export function examine(shelf: JarShelf, n = 1): FindingWithMask[] {
  const { document } = shelf;
  const sheet = document.sheets.preview;
  const scene = sceneOf(shelf);
  const frame = { x: 0, y: 0, width: sheet.width, height: sheet.height };
  const film = createFilm(frame);
  renderGroups(scene, settingsOf(sheet), film, sheet.samples / 4);
  const picture = pictureOf([film], frame, ALL_PASSES);
  return diagnoses.flatMap((d) => d.examine({ document, sheet, scene, picture, pilotSeed: pilotSeed(n) }));
}

/** Tries values, by pointer inside the sheet, on a finding's region: what a trial measures. */
export function tryOut(shelf: JarShelf, { finding, mask }: FindingWithMask, values: Record<string, number>, n = 1) {
  const { document } = shelf;
  const before = document.sheets.preview;
  const after = structuredClone(before);
  for (const [pointer, value] of Object.entries(values)) {
    const keys = pointer.slice(1).split('/');
    const last = keys.pop()!;
    keys.reduce<any>((at, key) => at[key], after)[last] = value;
  }
  const scene = sceneOf(shelf);
  const films = [before, after].map((sheet) => {
    const film = createFilm(finding.region);
    renderGroups(scene, settingsOf(sheet, trialSeed(n)), film, sheet.samples / 4);
    return [film];
  });
  return measurePair(films[0], films[1], finding.region, mask, before.width);
}
