/** One thing that is wrong with a document or a request body, and where. */
export interface Problem {
  /** JSON pointer, `''` for the whole. */
  path: string;
  /** The value found there, as short JSON. */
  value: string;
  /** What was expected, as a phrase: "a whole number of at least 4". */
  expected: string;
}

/** Input that cannot be used. The message names every problem; nothing was changed. */
export class InvalidInput extends Error {
  constructor(
    readonly what: string,
    readonly problems: Problem[],
  ) {
    super(`${what}: ${problems.map((p) => `${p.path || '/'} is ${p.value}, expected ${p.expected}`).join('; ')}`);
    this.name = 'InvalidInput';
  }
}

export function showValue(value: unknown): string {
  if (typeof value === 'number' && !Number.isFinite(value)) return String(value);
  const text = value === undefined ? 'missing' : (JSON.stringify(value) ?? String(value));
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}
