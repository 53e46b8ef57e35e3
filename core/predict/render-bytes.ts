import { filmBytes } from '../render/film/film.ts';
import { sceneBytes } from '../render/scene/scene-bytes.ts';
import type { CompiledScene } from '../render/scene/scene.ts';

/** Bytes that a render of a whole frame holds: its compiled scene and all of its film. */
export const renderBytes = (scene: CompiledScene, { width, height }: { width: number; height: number }): number =>
  sceneBytes(scene) + width * height * filmBytes(scene.layout);
