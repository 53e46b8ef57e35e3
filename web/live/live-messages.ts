/** What the page says to the workers of the live look, and they to it. */
import type { Region } from '../../core/data/picture.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import type { ControlValues } from '../../core/document/set-values.ts';
import type { View } from '../../core/picture/view.ts';
import type { LivePlanes } from '../../core/render/frame/live-share.ts';
import type { CompiledScene, RenderSettings } from '../../core/render/scene/scene.ts';

/** A scene on its way between workers, which trace it in `memory`. */
export interface LiveScene {
  /** Scenes of one key are the same. */
  key: number;
  scene: CompiledScene;
  memory: WebAssembly.Memory;
  /** Address of the workers' slots. */
  slots: number;
  /** Address of the scene's structures. */
  at: number;
}

/** Which version is looked at; sent when it changes. */
export interface LiveVersion {
  document: ShotDocument;
  /** Hashes of its files by path. */
  manifest: Record<string, string>;
}

export type PrepareRequest =
  | { do: 'version'; version: LiveVersion }
  | { do: 'prepare'; turn: number; values: ControlValues }
  | { do: 'draw'; turn: number; planes: LivePlanes; region: Region; view: View };

export interface Prepared {
  turn: number;
  settings: RenderSettings;
  live: LiveScene;
}
export interface Drawn {
  turn: number;
  image: ImageData;
  grain: number | null;
  samples: number;
}
export type PrepareAnswer = Prepared | Drawn | { turn: number; problem: string };

export type TraceRequest =
  | { do: 'start'; kernel: WebAssembly.Module; share: { index: number; of: number }; control: Int32Array }
  | { do: 'look'; turn: number; live: LiveScene | null; settings: RenderSettings; region: Region; planes: LivePlanes };

export type TraceAnswer = { turn: number; problem: string };

/** Words of the control block that all share: the present turn, pieces written in it, workers that are done with it. */
export const TURN = 0;
export const WRITTEN = 1;
export const DONE = 2;
export const CONTROL_WORDS = 3;
