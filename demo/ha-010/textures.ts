/** Images of HA-010, drawn by code: wood grain and a printed jar label. sRGB bytes, rows from the top. */

export interface Drawing {
  width: number;
  height: number;
  rgb: Uint8Array;
}

export function draw(
  width: number,
  height: number,
  colour: (u: number, v: number) => [number, number, number],
): Drawing {
  const rgb = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      rgb.set(
        colour((x + 0.5) / width, (y + 0.5) / height).map((c) => Math.max(0, Math.min(255, Math.round(c)))),
        (y * width + x) * 3,
      );
  return { width, height, rgb };
}

/** Value noise that repeats after `period` cells, 0–1. */
function noise(x: number, y: number, period: number): number {
  const cell = (i: number, j: number) => {
    const wrap = (n: number) => ((n % period) + period) % period;
    const h = Math.imul(wrap(i) * 374761393 + wrap(j) * 668265263, 1274126177);
    return ((h ^ (h >>> 13)) >>> 0) / 2 ** 32;
  };
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const soft = (t: number) => t * t * (3 - 2 * t);
  const [a, b] = [soft(x - i), soft(y - j)];
  const top = cell(i, j) * (1 - a) + cell(i + 1, j) * a;
  const bottom = cell(i, j + 1) * (1 - a) + cell(i + 1, j + 1) * a;
  return top * (1 - b) + bottom * b;
}

export const wood = (): Drawing =>
  draw(512, 256, (u, v) => {
    const bend = noise(u * 6, v * 8, 8) * 0.06;
    const rings = 0.5 + 0.5 * Math.sin((v + bend) * 2 * Math.PI * 9);
    const fibre = noise(u * 24, v * 256, 256);
    const light = 0.72 + 0.2 * rings + 0.14 * (fibre - 0.5);
    return [158 * light, 116 * light, 76 * light];
  });

/** Cream paper, a comb of six cells and three lines of print. */
export const label = (): Drawing =>
  draw(256, 160, (u, v) => {
    const paper: [number, number, number] = [236, 226, 200];
    const ink: [number, number, number] = [92, 62, 24];
    const border = Math.min(u * 1.6, (1 - u) * 1.6, v, 1 - v);
    if (border > 0.035 && border < 0.055) return ink;
    for (let k = 0; k < 6; k++) {
      const angle = (k * Math.PI) / 3;
      const x = (u - 0.26) * 1.6 - 0.12 * Math.cos(angle);
      const y = v - 0.5 - 0.12 * Math.sin(angle);
      const edge = Math.max(Math.abs(x), Math.abs(x) / 2 + Math.abs(y) * 0.866);
      if (edge < 0.052 && edge > 0.034) return ink;
    }
    for (const [line, from, to] of [
      [0.36, 0.5, 0.9],
      [0.52, 0.5, 0.82],
      [0.66, 0.5, 0.87],
    ])
      if (Math.abs(v - line) < 0.03 && u > from && u < to && noise(u * 60, line * 90, 90) > 0.28) return ink;
    return paper;
  });
