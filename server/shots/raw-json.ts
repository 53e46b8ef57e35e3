/** JSON of an object with some values that are JSON already, which need not be parsed to be written again. */
export function withRaw(object: object, raw: Record<string, string | null>): string {
  const own = JSON.stringify(object).slice(1, -1);
  const more = Object.entries(raw).map(([key, text]) => `${JSON.stringify(key)}:${text ?? 'null'}`);
  return `{${[...(own ? [own] : []), ...more].join(',')}}`;
}

export const rawList = (texts: string[]): string => `[${texts.join(',')}]`;

/** One object of the members of both: of a value, and of the text of another object. */
export const joined = (value: object, text: string): string =>
  text === '{}' ? JSON.stringify(value) : `${JSON.stringify(value).slice(0, -1)},${text.slice(1)}`;
