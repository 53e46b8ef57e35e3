/** A scene of an open format becomes a shot; on a thread, see `apart.ts`. */
import type { CameIn } from '../../core/contracts/intake.ts';
import { InvalidInput, type Problem } from '../../core/document/problem.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { knownFiles } from '../../core/formats/scene-files.ts';
import { findScene, readScene } from '../../core/formats/scene-readers.ts';
import { takeOver } from '../../core/intake/fit/take-over.ts';
import { toShot } from '../../core/intake/to-shot.ts';
import { filesInFolder } from './shot-files.ts';

export interface SceneMade {
  document: ShotDocument;
  files: Map<string, Uint8Array>;
  cameIn: CameIn;
}

export interface SceneRefused {
  refused: string;
  problems: Problem[];
}

/** @returns the shot, or the sentence that says why none can be made of the folder */
export async function makeShot(folder: string): Promise<SceneMade | SceneRefused> {
  const files = await filesInFolder(folder);
  try {
    const scene = await readScene(
      findScene(files.paths),
      knownFiles(files.paths, (path) => files.read(path)),
    );
    const made = await toShot(scene);
    return {
      document: made.document,
      files: made.files,
      cameIn: {
        format: scene.format,
        file: scene.file,
        notUnderstood: made.notUnderstood,
        repaired: scene.repaired,
        takenOver: takeOver(scene, made),
      },
    };
  } catch (error) {
    // Classes of errors do not cross from thread to thread.
    if (error instanceof InvalidInput) return { refused: error.message, problems: error.problems };
    if (error instanceof RangeError) return { refused: error.message, problems: [] };
    throw error;
  }
}
