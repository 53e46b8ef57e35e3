import { InvalidInput, showValue } from './problem.ts';

/** No document of ours, and no scene that people made, nests deeper. */
export const DEEPEST = 64;

/**
 * @throws InvalidInput with the place of the first fault, for text that is not JSON, and for text that nests deeper than
 * `DEEPEST`: what walks a value calls itself for each level
 */
export function parseJson(text: string, what: string): unknown {
  const deepest = jsonDepth(text);
  if (deepest > DEEPEST)
    throw new InvalidInput(what, [
      { path: '', value: `nested ${deepest} deep`, expected: `at most ${DEEPEST} levels` },
    ]);
  try {
    return JSON.parse(text);
  } catch (error) {
    const expected = `JSON text (${(error as Error).message})`;
    throw new InvalidInput(what, [{ path: '', value: showValue(text.slice(0, 40)), expected }]);
  }
}

/** How deep brackets stand in each other, before anything is made of the text; text in quotes does not count. */
export function jsonDepth(text: string): number {
  let depth = 0;
  let deepest = 0;
  let isQuoted = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (isQuoted) {
      if (code === BACKSLASH) i++;
      else if (code === QUOTE) isQuoted = false;
    } else if (code === QUOTE) isQuoted = true;
    else if (code === OPEN_BRACKET || code === OPEN_BRACE) deepest = Math.max(deepest, ++depth);
    else if (code === CLOSE_BRACKET || code === CLOSE_BRACE) depth--;
  }
  return deepest;
}
const [QUOTE, BACKSLASH, OPEN_BRACKET, CLOSE_BRACKET, OPEN_BRACE, CLOSE_BRACE] = [...'"\\[]{}'].map((c) =>
  c.charCodeAt(0),
);
