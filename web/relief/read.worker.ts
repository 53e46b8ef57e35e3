/** Beside the page: reads the displacement map of a material as its objects wear it, with what their meshes carry of it. */
import type { SheetName, ShotDocument } from '../../core/document/schema.ts';
import type { MapReading } from '../../core/relief/read-map.ts';
import { studyRelief, type LevelStudy } from '../../core/relief/study.ts';
import { compileCamera } from '../../core/render/compile/camera.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { viewOf } from '../../core/render/scene/view.ts';
import { wornShapes } from '../../core/seams/worn-shapes.ts';
import { shapesAlone } from '../stage/shapes-alone.ts';
import { versionFiles } from '../remote/version-files.ts';

export interface ReliefRequest {
  document: ShotDocument;
  material: string;
  sheet: SheetName;
  /** Hashes of the version's files by path. */
  manifest: Record<string, string>;
}
export interface WornRelief {
  /** Key and name of the object. */
  id: string;
  name: string;
  map: MapReading;
  /** Longest side, and what a pixel covers at the nearest; metres. */
  size: number;
  pixel: number;
  level: number;
  levels: LevelStudy[];
}
export type ReliefAnswer = { worn: WornRelief[] } | { problem: string };

self.onmessage = async ({ data: { document, material, sheet, manifest } }: MessageEvent<ReliefRequest>) => {
  try {
    const assets = await loadAssets(shapesAlone(document), versionFiles(manifest), document.code, 'stand in');
    const { width, height } = document.sheets[sheet];
    const view = viewOf({ camera: compileCamera(document, width / height) }, { width, height });
    const shapes = wornShapes({ document: moving(document, material), assets, sheet: document.sheets[sheet] }, (id) => document.objects[id].material === material); // prettier-ignore
    const worn = shapes.flatMap((shape): WornRelief[] => {
      if (shape.relief.kind !== 'height') return [];
      const study = studyRelief(shape, document, assets, view);
      if (!study) return [];
      const { map, size, pixel, level, levels } = study;
      return [{ id: shape.id, name: document.objects[shape.id].name || shape.id, map, size, pixel, level, levels }];
    });
    self.postMessage({ worn: worn.sort((a, b) => b.size - a.size) } satisfies ReliefAnswer);
  } catch (error) {
    self.postMessage({ problem: (error as Error).message } satisfies ReliefAnswer);
  }
};

/** A map of scale 0 moves nothing, and is read all the same. */
function moving(document: ShotDocument, material: string): ShotDocument {
  const spec = document.materials[material];
  if (spec.displacementScale !== 0) return document;
  return { ...document, materials: { ...document.materials, [material]: { ...spec, displacementScale: 1e-9 } } };
}
