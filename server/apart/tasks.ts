/**
 * What the web process has done by processes of its own, which may be killed: a task is a function of plain data, and
 * belongs to a lane. In `foreign`, what came in is read, whoever made it; in `ours`, what we wrote ourselves.
 */
import { changeDocument, planRenders, tryValues } from './work/document.ts';
import { addScene } from './work/add-scene.ts';
import { bringTask } from './work/bring.ts';
import { dryRunPackage } from './work/dry-run.ts';
import { readLogFile, readStatistics, tellLogs } from './work/logs.ts';
import { packTask } from './work/pack.ts';
import { repairTask } from './work/repair.ts';
import { examineFile } from './work/examine-picture.ts';
import { exrOfFilms, figuresOfFilms, maskOfFilms, pictureOfFilms } from './work/films.ts';
import { takeImage } from './work/take-image.ts';
import { importFiles } from './work/import-files.ts';

export const tasks = {
  addScene,
  bringTask,
  changeDocument,
  dryRunPackage,
  examineFile,
  exrOfFilms,
  figuresOfFilms,
  importFiles,
  maskOfFilms,
  packTask,
  pictureOfFilms,
  planRenders,
  readLogFile,
  readStatistics,
  repairTask,
  takeImage,
  tellLogs,
  tryValues,
};
export type Tasks = typeof tasks;

/** How many processes each has. */
export const LANES = { foreign: 2, ours: 1 } as const;
export type Lane = keyof typeof LANES;

export const LANE_OF: { [N in keyof Tasks]: Lane } = {
  addScene: 'foreign',
  bringTask: 'foreign',
  changeDocument: 'ours',
  dryRunPackage: 'foreign',
  examineFile: 'foreign',
  exrOfFilms: 'ours',
  figuresOfFilms: 'ours',
  importFiles: 'foreign',
  maskOfFilms: 'ours',
  packTask: 'foreign',
  pictureOfFilms: 'ours',
  planRenders: 'ours',
  readLogFile: 'foreign',
  readStatistics: 'foreign',
  repairTask: 'foreign',
  takeImage: 'foreign',
  tellLogs: 'ours',
  tryValues: 'ours',
};
