/**
 * What stands in for a texture that is not there: its name in letters on pale paper, line after line, so that a
 * picture says itself what is missing. It is grey: a signal colour would light the scene with it.
 */
import type { Texture } from '../data/texture.ts';

/** Five columns a letter, the lowest bit at the top. */
const LETTERS: Record<string, string> = {
  A: '7e1111117e', B: '7f49494936', C: '3e41414122', D: '7f4141221c', E: '7f49494941', F: '7f09090901', G: '3e4149497a',
  H: '7f0808087f', I: '00417f4100', J: '2040413f01', K: '7f08142241', L: '7f40404040', M: '7f020c027f', N: '7f0408107f',
  O: '3e4141413e', P: '7f09090906', Q: '3e4151215e', R: '7f09192946', S: '4649494931', T: '01017f0101', U: '3f4040403f',
  V: '1f2040201f', W: '3f4038403f', X: '6314081463', Y: '0708700807', Z: '6151494543', 0: '3e5149453e', 1: '00427f4000',
  2: '4261514946', 3: '2141454b31', 4: '1814127f10', 5: '2745454539', 6: '3c4a494930', 7: '0171090503', 8: '3649494936',
  9: '064949291e', '.': '0060600000', _: '4040404040', '-': '0808080808', '/': '2010080402',
}; // prettier-ignore

/** Texels of one dot of a letter, and dots of a letter's cell. */
const DOT = 4;
const [CELL_WIDTH, CELL_HEIGHT] = [6, 11];
const [PAPER, SHADE, INK] = [0.42, 0.3, 0.02];
const LONGEST = 16;

/** @param path what is missing; its name is shown, of a long one the end */
export function standInTexture(path: string): Texture {
  const name = path
    .slice(path.lastIndexOf('/') + 1)
    .toUpperCase()
    .slice(-LONGEST);
  const texts = [name, 'IS MISSING'];
  const columns = (Math.max(...texts.map((text) => text.length)) + 2) * CELL_WIDTH;
  // As high as wide, so that letters keep their shape where the texture covers a square.
  const lines = Math.max(2, 2 * Math.round(columns / CELL_HEIGHT / 2));
  const width = columns * DOT;
  const height = lines * CELL_HEIGHT * DOT;
  const texels = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const row = Math.floor(y / DOT);
      const line = Math.floor(row / CELL_HEIGHT);
      const text = texts[line % 2];
      const column = Math.floor(x / DOT) - ((columns - text.length * CELL_WIDTH) >> 1);
      const isInk = column >= 0 && hasDot(text[Math.floor(column / CELL_WIDTH)], column % CELL_WIDTH, (row % CELL_HEIGHT) - 2); // prettier-ignore
      texels.fill(isInk ? INK : line % 2 ? SHADE : PAPER, (y * width + x) * 3, (y * width + x) * 3 + 3);
    }
  return { width, height, texels, alpha: null };
}

function hasDot(letter: string | undefined, column: number, row: number): boolean {
  if (column > 4 || row < 0 || row > 6) return false;
  const columns = letter === undefined ? undefined : LETTERS[letter];
  return columns !== undefined && ((parseInt(columns.slice(column * 2, column * 2 + 2), 16) >> row) & 1) === 1;
}
