/** Runs on a thread of a worker process: everything that takes long. No database, no files. */
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import type { Region } from '../../core/data/picture.ts';
import { diagnoses } from '../../core/diagnose/registry.ts';
import type { DiagnosisInput } from '../../core/diagnose/diagnosis.ts';
import type { Sheet, ShotDocument } from '../../core/document/schema.ts';
import { predictChange, type Change } from '../../core/predict/predict-change.ts';
import { createFilm, packFilm, unpackFilm } from '../../core/render/film.ts';
import { pictureOf } from '../../core/render/film-picture.ts';
import { ALL_PASSES } from '../../core/render/passes.ts';
import { renderGroups } from '../../core/render/render-tile.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene.ts';

export interface TileTask {
  scene: CompiledScene;
  sheet: Sheet;
  seed: number;
  region: Region;
  /** The film so far, or null for a new one. */
  film: Uint8Array | null;
  groups: number;
}

export interface TileResult {
  film: Uint8Array;
  rays: number;
  ms: number;
}

export function renderTile({ scene, sheet, seed, region, film: before, groups }: TileTask): TileResult {
  const film = before ? unpackFilm(before) : createFilm(region);
  const started = performance.now();
  const rays = renderGroups(scene, settingsOf(sheet, seed), film, groups);
  return { film: packFilm(film), rays, ms: performance.now() - started };
}

export interface ExamineTask {
  scene: CompiledScene;
  document: ShotDocument;
  /** As the render was made, with the samples it has. */
  sheet: Sheet;
  films: Uint8Array[];
  pilotSeed: number;
}

export function examine({ scene, document, sheet, films, pilotSeed }: ExamineTask): FindingWithMask[] {
  const input: DiagnosisInput = {
    document,
    sheet,
    scene,
    picture: wholePicture(sheet, films),
    pilotSeed,
  };
  const rank = { stop: 0, caution: 1, note: 2 };
  return diagnoses
    .flatMap((diagnosis) => diagnosis.examine(input))
    .sort((a, b) => rank[a.finding.severity] - rank[b.finding.severity]);
}

export interface PredictTask extends Omit<Change, 'picture'> {
  /** Films of the newest base render of the frame, for its grain; empty when there is none. */
  films: Uint8Array[];
}

export function predict({ films, ...change }: PredictTask): ReturnType<typeof predictChange> {
  return predictChange({
    ...change,
    picture: films.length ? wholePicture(change.before.sheet, films) : null,
  });
}

function wholePicture(sheet: Sheet, films: Uint8Array[]) {
  const frame = { x: 0, y: 0, width: sheet.width, height: sheet.height };
  return pictureOf(films.map(unpackFilm), frame, ALL_PASSES);
}

/** What a thread can be asked to do, by the exported function's name. */
export interface Tasks {
  renderTile: typeof renderTile;
  examine: typeof examine;
  predict: typeof predict;
}
