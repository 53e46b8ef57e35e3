/** Hatches the pixels of a mask over what is drawn. */
import type { Region } from '../../../core/data/picture.ts';
import { gather, placed } from '../../../core/picture/paint.ts';
import type { Cell } from '../desk-messages.ts';

export function hatch(
  mask: { values: ArrayLike<number>; window: Region } | null,
  screen: Cell['screen'],
  out: Uint8ClampedArray,
): void {
  if (!mask) return;
  // A single pixel must be found from afar: where the picture is small, its whole neighbourhood on screen is hatched.
  const spot = placed(screen, mask.window, 0);
  const reach = screen.scale < 4 ? 2 : 0;
  const seen = gather(mask.values, spot);
  if (screen.scale < 1) markFar(mask, screen, seen);
  const { width, height } = screen;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let isIn = seen[y * width + x] > 0;
      for (let dy = -reach; dy <= reach && !isIn; dy++)
        for (let dx = -reach; dx <= reach && !isIn; dx++) isIn = seen[(y + dy) * width + x + dx] > 0 && x + dx >= 0 && x + dx < width; // prettier-ignore
      if (isIn && (x + y) % 6 < 2) out.set([214, 220, 92, 255], (y * width + x) * 4);
    }
}

/** Pixels that a small screen would skip. */
function markFar(
  { values, window }: { values: ArrayLike<number>; window: Region },
  screen: Cell['screen'],
  seen: Float32Array,
): void {
  for (let i = 0; i < values.length; i++) {
    if (!values[i]) continue;
    const x = Math.floor(((i % window.width) + window.x + 0.5) * screen.scale * screen.aspect + screen.x);
    const y = Math.floor((Math.floor(i / window.width) + window.y + 0.5) * screen.scale + screen.y);
    if (x >= 0 && y >= 0 && x < screen.width && y < screen.height) seen[y * screen.width + x] = 1;
  }
}
