/** What the page says to the worker that answers about places and lights, and it to the page. */
import type { ToldEnvironment, ToldPlace, ToldRegion } from '../../core/contracts/place.ts';
import type { ToldOcclusion } from '../../core/contracts/occlusion.ts';
import type { ToldMaps } from '../../core/contracts/preview-shadows.ts';
import type { Region } from '../../core/data/picture.ts';
import type { SheetName } from '../../core/document/schema.ts';
import type { ControlValues } from '../../core/document/set-values.ts';
import type { LiveVersion } from '../live/live-messages.ts';

/** What is asked: of the sheet's frame a pixel or a region, a light's preview shadows (null: those of the one that brings most), or ambient occlusion at every distance. */
export type Question =
  { pixel: [number, number] } | { region: Region } | { mapsOf: string | null } | { occlusion: true };
/** Questions of one kind replace each other. */
export type QuestionKind = 'place' | 'maps' | 'occlusion';
export const kindOf = (question: Question): QuestionKind =>
  'mapsOf' in question ? 'maps' : 'occlusion' in question ? 'occlusion' : 'place';

export interface AskRequest {
  turn: number;
  /** Sent when it changed since the last question. */
  version: LiveVersion | null;
  sheet: SheetName;
  values: ControlValues;
  question: Question;
}

/** A light's way over the picture, pixels of the sheet's frame. */
export interface DrawnWay {
  id: string;
  /** From the place towards the light, as far as it is before the camera. */
  way: [number, number][];
  /** What it met, in the order of the told blockers; null: not in front of the camera. */
  met: ([number, number] | null)[];
}

export interface Asked {
  /** The place, or that of the region which tells most; null: no surface is shown. */
  told: ToldPlace | null;
  /** Null: a pixel was asked. */
  region: ToldRegion | null;
  /** Null: turning the environment changes nothing. */
  environment: ToldEnvironment | null;
  ways: DrawnWay[];
  /** Milliseconds that the answer took, the scene being there. */
  took: number;
}
export interface AskedMaps {
  /** Null: no light has maps. */
  maps: ToldMaps | null;
  took: number;
}
export interface AskedOcclusion {
  occlusion: ToldOcclusion;
  took: number;
}
export type AnyAsked = Asked | AskedMaps | AskedOcclusion;
export type AskAnswer = { turn: number } & ({ asked: AnyAsked } | { problem: string });
