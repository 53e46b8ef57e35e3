/** What the page and the server say to each other of pictures that were brought in, and of how a shot was looked at. */
import type { ExrType, ExrValue, ExrWindow } from '../formats/exr/header.ts';
import type { LayerRole } from '../formats/layers.ts';
import type { Balance } from './balance.ts';
import type { ChannelHealth, HealthFinding } from './health/check.ts';
import type { FrameFigures } from './sequence/frame-figures.ts';
import type { SpaceId } from './spaces.ts';

export interface PartFacts {
  name: string;
  compression: string;
  dataWindow: ExrWindow;
  displayWindow: ExrWindow;
  pixelAspect: number;
  /** By the names that layers go by: those of a file of several parts begin with the part's. */
  channels: { name: string; type: ExrType }[];
  attributes: Record<string, ExrValue>;
}

export interface LayerFacts {
  /** Empty for channels without a layer. */
  name: string;
  role: LayerRole;
  channels: string[];
  /** Number of the part it is in. */
  part: number;
  /** Mean luminance, or mean of the first channel. */
  mean: number;
  /** Variance of its noise, weighed as in visible grain; null where it is not of light. */
  noise: number | null;
}

/** What is known of a picture once it is read: kept beside it, so that lists and charts need not read it again. */
export interface PictureFacts {
  format: string;
  /** Made for a display: whole numbers that came through a curve. */
  isForDisplay: boolean;
  parts: PartFacts[];
  layers: LayerFacts[];
  health: { channels: ChannelHealth[]; findings: HealthFinding[] };
  /** Of the beauty; null where it has none. */
  figures: FrameFigures | null;
  /** Chunks that are missing or broken. */
  missingChunks: number;
}

export interface BroughtPicture {
  id: number;
  name: string;
  /** Null where its name has no number. */
  frame: number | null;
  bytes: number;
  facts: PictureFacts;
  createdAt: string;
}

/** What a person says of a set of pictures, where it is not what was worked out. */
export interface SetReading {
  /** Roles of layers. */
  roles: Record<string, LayerRole>;
  space: SpaceId | null;
  /** Stops that the values were raised by before they were written; 0 where nothing is baked in. */
  bakedExposure: number;
  /** Samples per pixel it was made with, where that is known. */
  samples: number | null;
}

/** A picture, or the frames of a sequence, that came under one name. */
export interface PictureSet {
  id: number;
  /** The name of the file, with signs for the frame's number. */
  name: string;
  /** A name that comes again with other bytes is another take: 1, 2, 3 … */
  take: number;
  reading: SetReading;
  pictures: BroughtPicture[];
}

/** A view of the shot that a person named, to come back to. */
export interface KeptLook {
  id: number;
  name: string;
  note: string;
  /** The query of its address: picture, layer, exposure, region and all. */
  query: Record<string, string>;
  pins: { x: number; y: number; text: string }[];
  createdAt: string;
}

export interface ShotPictures {
  sets: PictureSet[];
  looks: KeptLook[];
  /** Light groups set against each other. */
  balance: Balance;
}
