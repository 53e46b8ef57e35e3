/** A picture at another size, so that two renders of one frame can be laid over each other: by nearest pixel centres down, between them up. */
import type { Colours } from './compare.ts';

/** @param factor columns and rows that one of the picture's becomes */
export function resampled({ x, y, width, height, planes }: Colours, factor: number): Colours {
  if (factor === 1) return { x, y, width, height, planes };
  const [w, h] = [Math.max(1, Math.round(width * factor)), Math.max(1, Math.round(height * factor))];
  const at = (i: number, count: number, of: number) => Math.max(0, Math.min(of - 1, ((i + 0.5) * of) / count - 0.5));
  const out = planes.map((plane) => {
    const made = new Float32Array(w * h);
    for (let j = 0; j < h; j++) {
      const v = at(j, h, height);
      const [top, fy] = [Math.floor(v), v - Math.floor(v)];
      const below = Math.min(height - 1, top + 1);
      for (let i = 0; i < w; i++) {
        const u = at(i, w, width);
        const [left, fx] = [Math.floor(u), u - Math.floor(u)];
        const right = Math.min(width - 1, left + 1);
        const upper = plane[top * width + left] * (1 - fx) + plane[top * width + right] * fx;
        const lower = plane[below * width + left] * (1 - fx) + plane[below * width + right] * fx;
        made[j * w + i] = upper * (1 - fy) + lower * fy;
      }
    }
    return made;
  });
  return { x: Math.round(x * factor), y: Math.round(y * factor), width: w, height: h, planes: out as unknown as Colours['planes'] }; // prettier-ignore
}
