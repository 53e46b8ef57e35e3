/** Runs on a thread of a worker process: everything that takes long. No database, no files. */
import type { Effect, FindingWithMask } from '../../core/contracts/finding.ts';
import type { Region } from '../../core/data/picture.ts';
import { diagnoses, neededPasses } from '../../core/diagnose/registry.ts';
import type { DiagnosisInput } from '../../core/diagnose/diagnosis.ts';
import type { Sheet, SheetName, ShotDocument } from '../../core/document/schema.ts';
import { varying } from '../../core/diagnose/vary.ts';
import { timeFrame, type FrameTime } from '../../core/predict/frame-time.ts';
import { predictChanges, type Change } from '../../core/predict/predict-change.ts';
import type { ChangeSide } from '../../core/predict/small-render.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { createFilm, packFilm, packTime, unpackFilm } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene/scene.ts';
import { compiledWithKernel, withKernel, type PackedScene } from '../../host/kernel.ts';

/** A scene on its way to a thread: what is shaded with, and what rays are traced through. */
export interface SceneTask {
  scene: CompiledScene;
  packed: PackedScene;
}

export interface TileTask extends SceneTask {
  sheet: Sheet;
  seed: number;
  region: Region;
  /** The film so far and what its pixels took, or null for a new one. */
  film: Uint8Array | null;
  time: Uint8Array | null;
  groups: number;
}

export interface TileResult {
  film: Uint8Array;
  time: Uint8Array;
  rays: number;
  ms: number;
}

export function renderTile({ scene, packed, sheet, seed, region, film: before, time, groups }: TileTask): TileResult {
  const film = before ? unpackFilm(before, time) : createFilm(region, scene.layout);
  const started = performance.now();
  const rays = renderGroups(withKernel(scene, packed), settingsOf(sheet, seed), film, groups, () => performance.now());
  return { film: packFilm(film), time: packTime(film), rays, ms: performance.now() - started };
}

export interface ExamineTask extends SceneTask {
  document: ShotDocument;
  assets: Assets;
  sheetName: SheetName;
  /** As the render was made, with the samples it has. */
  sheet: Sheet;
  films: Uint8Array[];
  pilotSeed: number;
}

export function examine({
  scene,
  packed,
  document,
  assets,
  sheetName,
  sheet,
  films,
  pilotSeed,
}: ExamineTask): FindingWithMask[] {
  const input: DiagnosisInput = {
    document,
    sheet,
    scene: withKernel(scene, packed),
    vary: varying(document, sheetName, sheet, (changed, its) => compiledWithKernel(changed, assets, its)),
    picture: wholePicture(sheet, films, neededPasses()),
    pilotSeed,
  };
  const rank = { stop: 0, caution: 1, note: 2 };
  return diagnoses
    .flatMap((diagnosis) => diagnosis.examine(input))
    .sort((a, b) => rank[a.finding.severity] - rank[b.finding.severity]);
}

export interface PredictTask extends Omit<Change, 'picture' | 'before' | 'after'> {
  before: SceneTask & ChangeSide;
  afters: (SceneTask & ChangeSide)[];
  /** Films of the newest base render of the frame, for its grain; empty when there is none. */
  films: Uint8Array[];
}

export function predict({ films, before, afters, ...change }: PredictTask): Effect[] {
  const side = ({ scene, packed, sheet }: SceneTask & ChangeSide) => ({ scene: withKernel(scene, packed), sheet });
  const picture = films.length ? wholePicture(before.sheet, films, ['beauty', 'error.beauty', 'object']) : null;
  return predictChanges({ ...change, before: side(before), picture }, afters.map(side));
}

export interface TimeTask extends SceneTask {
  sheet: Sheet;
  seed: number;
}

export const timeOnThread = ({ scene, packed, sheet, seed }: TimeTask): FrameTime =>
  timeFrame({ scene: withKernel(scene, packed), sheet }, seed, () => performance.now());

function wholePicture(sheet: Sheet, films: Uint8Array[], passes: string[]) {
  const frame = { x: 0, y: 0, width: sheet.width, height: sheet.height };
  return pictureOf(
    films.map((film) => unpackFilm(film)),
    frame,
    passes,
  );
}

/** What a thread can be asked to do, by the exported function's name. */
export interface Tasks {
  renderTile: typeof renderTile;
  examine: typeof examine;
  predict: typeof predict;
  timeOnThread: typeof timeOnThread;
}
