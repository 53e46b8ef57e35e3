import { InvalidInput, showValue } from './problem.ts';

/** @throws InvalidInput with the place of the first fault, for text that is not JSON */
export function parseJson(text: string, what: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    const expected = `JSON text (${(error as Error).message})`;
    throw new InvalidInput(what, [{ path: '', value: showValue(text.slice(0, 40)), expected }]);
  }
}
