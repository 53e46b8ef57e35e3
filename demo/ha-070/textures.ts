/** Image of HA-070, drawn by code: the cells of a comb as heights. */
import { draw, type Drawing } from '../ha-010/textures.ts';

export const comb = (): Drawing =>
  draw(256, 256, (u, v) => {
    const [x, y] = [u * 8, (v * 8) / 0.866];
    let nearest = Infinity;
    let second = Infinity;
    for (let row = Math.floor(y) - 1; row <= Math.floor(y) + 1; row++)
      for (let column = Math.floor(x) - 1; column <= Math.floor(x) + 1; column++) {
        const d = Math.hypot(x - column - (row % 2 ? 0.5 : 0), (y - row) * 0.866);
        if (d < nearest) [nearest, second] = [d, nearest];
        else if (d < second) second = d;
      }
    const wall = Math.max(0, 1 - (second - nearest) * 4) * 200 + 40;
    return [wall, wall, wall];
  });
