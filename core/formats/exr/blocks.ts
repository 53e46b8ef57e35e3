/** How the pixels of a part are cut into chunks, and how the bytes of a chunk hold them. */
import type { ExrChannel, ExrCompression, ExrPart, ExrType } from './header.ts';

export const BYTES_OF: Record<ExrType, number> = { uint: 4, half: 2, float: 4 };

/** Scan lines in a chunk. */
const LINES: Record<ExrCompression, number> = {
  none: 1, RLE: 1, ZIPS: 1, ZIP: 16, PIZ: 32, PXR24: 16, B44: 32, B44A: 32, DWAA: 32, DWAB: 256,
}; // prettier-ignore

/** A rectangle of pixels that is packed as one; both ends belong to it. */
export interface ExrBlock {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

/** Blocks of the full picture, in the order of the table of offsets; further levels come after them. */
export function blocksOf({ dataWindow, compression, tiles }: ExrPart): ExrBlock[] {
  const { minX, minY, maxX, maxY } = dataWindow;
  const blocks: ExrBlock[] = [];
  const width = tiles?.width ?? maxX - minX + 1;
  const height = tiles?.height ?? LINES[compression];
  for (let y = minY; y <= maxY; y += height)
    for (let x = minX; x <= maxX; x += width)
      blocks.push({ minX: x, minY: y, maxX: Math.min(maxX, x + width - 1), maxY: Math.min(maxY, y + height - 1) });
  return blocks;
}

/** How many chunks a part has, those of its lesser levels too. */
export function chunkCount(part: ExrPart): number {
  const { tiles, dataWindow } = part;
  const size = [dataWindow.maxX - dataWindow.minX + 1, dataWindow.maxY - dataWindow.minY + 1];
  if (!tiles) return Math.ceil(size[1] / LINES[part.compression]);
  const halved = (n: number): number[] => {
    const sizes = [n];
    while (sizes.at(-1)! > 1)
      sizes.push(Math.max(1, tiles.roundsUp ? Math.ceil(sizes.at(-1)! / 2) : sizes.at(-1)! >> 1));
    return sizes;
  };
  const across = (n: number) => Math.ceil(n / tiles.width);
  const down = (n: number) => Math.ceil(n / tiles.height);
  if (tiles.levels === 'one') return across(size[0]) * down(size[1]);
  if (tiles.levels === 'rip') {
    const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
    return sum(halved(size[0]).map(across)) * sum(halved(size[1]).map(down));
  }
  const level = (n: number, l: number): number => {
    let out = n;
    for (let k = 0; k < l; k++) out = Math.max(1, tiles.roundsUp ? Math.ceil(out / 2) : out >> 1);
    return out;
  };
  const levels = halved(Math.max(...size)).length;
  let count = 0;
  for (let l = 0; l < levels; l++) count += across(level(size[0], l)) * down(level(size[1], l));
  return count;
}

/** Samples that a channel has from one place to another. */
export const samplesIn = (sampling: number, min: number, max: number): number =>
  sampling === 1 ? max - min + 1 : Math.floor(max / sampling) - Math.ceil(min / sampling) + 1;

/** Bytes of a block before it is packed. */
export function rawSize(channels: ExrChannel[], { minX, minY, maxX, maxY }: ExrBlock): number {
  let size = 0;
  for (const { type, xSampling, ySampling } of channels)
    size += samplesIn(xSampling, minX, maxX) * samplesIn(ySampling, minY, maxY) * BYTES_OF[type];
  return size;
}

/** A run of bytes of one channel in a block. */
export interface ChannelRun {
  channel: ExrChannel;
  /** Samples across and down. */
  nx: number;
  ny: number;
}

export const runsOf = (channels: ExrChannel[], { minX, minY, maxX, maxY }: ExrBlock): ChannelRun[] =>
  channels.map((channel) => ({
    channel,
    nx: samplesIn(channel.xSampling, minX, maxX),
    ny: samplesIn(channel.ySampling, minY, maxY),
  }));

/**
 * Channels that were packed one after the other, put into the order of unpacked blocks: line by line, and in each line
 * channel by channel.
 * @param planar the bytes of each channel in turn
 */
export function inLines(planar: Uint8Array, channels: ExrChannel[], block: ExrBlock): Uint8Array {
  const runs = runsOf(channels, block);
  const out = new Uint8Array(planar.length);
  const from: number[] = [];
  let start = 0;
  for (const { channel, nx, ny } of runs) {
    from.push(start);
    start += nx * ny * BYTES_OF[channel.type];
  }
  let at = 0;
  for (let y = block.minY; y <= block.maxY; y++)
    runs.forEach(({ channel, nx }, c) => {
      if (channel.ySampling > 1 && y % channel.ySampling !== 0) return;
      const length = nx * BYTES_OF[channel.type];
      out.set(planar.subarray(from[c], from[c] + length), at);
      from[c] += length;
      at += length;
    });
  return out;
}
