/** How several pictures share a screen. */
import type { Box, Size } from './frame-place.ts';

/** Screen pixels between pictures. */
const GAP = 2;

/** Two beside each other. */
export function halves({ width, height }: Size): Box[] {
  const half = (width - GAP) / 2;
  return [0, 1].map((i) => ({ x: Math.round(i * (half + GAP)), y: 0, width: Math.floor(half), height }));
}

/** As many columns as make the tiles largest. @param shape width of what stands in them over its height */
export function tiled(count: number, { width, height }: Size, shape: number): Box[] {
  const fits = (columns: number) => Math.min(width / columns, (height / Math.ceil(count / columns)) * shape);
  let columns = 1;
  for (let more = 2; more <= count; more++) if (fits(more) > fits(columns)) columns = more;
  const rows = Math.ceil(count / columns);
  const tile = {
    width: Math.floor((width - GAP * (columns - 1)) / columns),
    height: Math.floor((height - GAP * (rows - 1)) / rows),
  };
  return Array.from({ length: count }, (_, i) => ({
    x: (i % columns) * (tile.width + GAP),
    y: Math.floor(i / columns) * (tile.height + GAP),
    ...tile,
  }));
}
