/** Runs on a thread of a worker process: everything that takes long. No database, no files. */
import type { Effect } from '../../core/contracts/figures.ts';
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import type { Region } from '../../core/data/picture.ts';
import type { FamilyId } from '../../core/diagnose/catalogue.ts';
import { FAMILIES, neededPasses } from '../../core/diagnose/registry.ts';
import { arrangeFindings, diagnoseRender, lookInRender } from '../../core/diagnose/run.ts';
import type { Sheet, SheetName, ShotDocument } from '../../core/document/schema.ts';
import { varying } from '../../core/diagnose/vary.ts';
import { timeFrame, type FrameTime } from '../../core/predict/frame-time.ts';
import { predictChanges, type Changes } from '../../core/predict/predict-change.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { renderBytes } from '../../core/predict/render-bytes.ts';
import { createFilm, packFilm, packTime, unpackFilm } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import type { FilmLayout } from '../../core/render/film/passes.ts';
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
  /** Families that look. */
  families: readonly FamilyId[];
  /** What families found that looked by themselves: it is put in order, and nothing looked for. */
  found: FindingWithMask[] | null;
}

/** The most that an examination held at a time, beside what it found. */
export interface Examined {
  found: FindingWithMask[];
  /** Of the passes it reads, its scene, and the largest of the scenes it held it against. */
  bytes: number;
}

export function examine(task: ExamineTask): Examined {
  const { scene, packed, document, assets, sheetName, sheet, films, pilotSeed } = task;
  const rendered = withKernel(scene, packed);
  const families = FAMILIES.filter(({ id }) => task.families.includes(id));
  const passes = neededPasses(scene.layout, task.found ? [] : families);
  const picture = wholePicture(sheet, films, passes, scene.layout);
  let largest = 0;
  const compile = (changed: ShotDocument, its: Sheet, like: CompiledScene, files: Assets) => {
    const other = compiledWithKernel(changed, files, its, like);
    largest = Math.max(largest, renderBytes(other, its));
    return other;
  };
  const input = {
    document,
    sheet,
    scene: rendered,
    assets,
    picture,
    pilotSeed,
    vary: varying({ document, sheetName, sheet, scene: rendered, assets, compile }),
    clock: () => performance.now(),
  };
  // One family by itself is put in order with the others later.
  const found = task.found ? arrangeFindings(input, task.found) : families.length === 1 ? lookInRender(input, families[0]) : diagnoseRender(input, families); // prettier-ignore
  const planes = [...picture.channels.values()].reduce((sum, { byteLength }) => sum + byteLength, 0);
  return { found, bytes: planes + renderBytes(scene, sheet) + largest };
}

type SideTask = SceneTask & { sheet: Sheet };

export interface PredictTask extends Omit<Changes, 'picture' | 'before' | 'see' | 'clock'> {
  before: SideTask;
  /** `alone`: a second render that is put together with it. */
  afters: (SideTask & { alone?: SideTask })[];
  /** Films of the newest base render of the frame, for its noise; empty when there is none. */
  films: Uint8Array[];
}

export function predict({ films, before, afters, ...changes }: PredictTask): Effect[] {
  const picture = films.length ? wholePicture(before.sheet, films, ['beauty', 'error.beauty', 'object']) : null;
  return predictChanges(
    { ...changes, before: { scene: withKernel(before.scene, before.packed), sheet: before.sheet }, picture, clock: () => performance.now() },
    afters.map(({ alone, ...after }) => ({ ...variationOf(after), ...(alone && { alone: variationOf(alone) }) })),
  ); // prettier-ignore
}

const variationOf = ({ scene, packed, sheet }: SideTask) => ({ sheet, compile: () => withKernel(scene, packed) });

export interface TimeTask extends SceneTask {
  sheet: Sheet;
  seed: number;
}

export const timeOnThread = ({ scene, packed, sheet, seed }: TimeTask): FrameTime =>
  timeFrame({ scene: withKernel(scene, packed), sheet }, seed, () => performance.now());

function wholePicture(sheet: Sheet, films: Uint8Array[], passes: string[], layout?: FilmLayout) {
  const frame = { x: 0, y: 0, width: sheet.width, height: sheet.height };
  return pictureOf(
    films.map((film) => unpackFilm(film)),
    frame,
    passes,
    layout,
  );
}

/** What a thread can be asked to do, by the exported function's name. */
export interface Tasks {
  renderTile: typeof renderTile;
  examine: typeof examine;
  predict: typeof predict;
  timeOnThread: typeof timeOnThread;
}
