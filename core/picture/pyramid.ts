/**
 * Planes at half, a quarter … of their size, so that a picture that is shown small is read small. Means carry NaN and
 * infinity along: a broken pixel stays visible from afar.
 *
 * @example
 * const pyramid = new Pyramid(plane, 1920, 1080, 'mean');
 * pyramid.level(2);   // 480 × 270
 */
export interface Level {
  plane: ArrayLike<number>;
  width: number;
  height: number;
}

export class Pyramid {
  private readonly levels: Level[];

  /** @param way numbers that stand for something have no mean: the one at the top left is taken */
  constructor(
    plane: ArrayLike<number>,
    width: number,
    height: number,
    private readonly way: 'mean' | 'first',
  ) {
    this.levels = [{ plane, width, height }];
  }

  /** @param at 0 is full size, each further one half of it; the last one there is where there are not so many */
  level(at: number): Level {
    while (this.levels.length <= at) {
      const last = this.levels.at(-1)!;
      if (last.width < 2 || last.height < 2) return last;
      this.levels.push(halved(last, this.way));
    }
    return this.levels[at];
  }

  /** Levels are made anew from the plane, which has changed. */
  forget(): void {
    this.levels.length = 1;
  }
}

/** The level that has at least a pixel for each of the screen. @param scale screen pixels a picture pixel takes */
export const levelFor = (scale: number): number => Math.max(0, Math.floor(Math.log2(1 / scale) + 1e-6));

function halved({ plane, width, height }: Level, way: 'mean' | 'first'): Level {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    const top = 2 * y * width;
    const below = 2 * y + 1 < height ? top + width : top;
    for (let x = 0; x < w; x++) {
      const left = 2 * x;
      const right = left + 1 < width ? left + 1 : left;
      out[y * w + x] =
        way === 'first'
          ? plane[top + left]
          : (plane[top + left] + plane[top + right] + plane[below + left] + plane[below + right]) / 4;
    }
  }
  return { plane: out, width: w, height: h };
}
