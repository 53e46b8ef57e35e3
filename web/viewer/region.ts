/** Regions that are set without drawing them: about a pixel, or from the keyboard. */
import type { Box, Point, Size } from './frame-place.ts';

const within = (value: number, least: number, most: number) => Math.max(least, Math.min(most, value));

/** A square about a pixel, inside the frame, as large as fits. */
export function regionAround({ x, y }: Point, frame: Size, side = 64): Box {
  const width = Math.min(side, frame.width);
  const height = Math.min(side, frame.height);
  return {
    x: within(Math.round(x - width / 2), 0, frame.width - width),
    y: within(Math.round(y - height / 2), 0, frame.height - height),
    width,
    height,
  };
}

/** Pixels that an arrow key moves or sizes a region by; with Ctrl or Command one. */
const KEY_STEP = 8;
/** Pixels of a side that a trial can use. */
const LEAST = 4;

/**
 * A region moved by an arrow key, or sized by it with Shift, inside the frame.
 * @returns null for other keys
 */
export function regionByKey(
  event: Pick<KeyboardEvent, 'key' | 'shiftKey' | 'ctrlKey' | 'metaKey'>,
  { x, y, width, height }: Box,
  frame: Size,
): Box | null {
  const ways: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }; // prettier-ignore
  const way = ways[event.key];
  if (!way) return null;
  const step = event.ctrlKey || event.metaKey ? 1 : KEY_STEP;
  const [dx, dy] = way.map((one) => one * step);
  if (event.shiftKey)
    return { x, y, width: within(width + dx, LEAST, frame.width - x), height: within(height + dy, LEAST, frame.height - y) }; // prettier-ignore
  return { x: within(x + dx, 0, frame.width - width), y: within(y + dy, 0, frame.height - height), width, height };
}
