/** JSON of an object with some values that are JSON already, which need not be parsed to be written again. */
export function withRaw(object: object, raw: Record<string, string | null>): string {
  const own = JSON.stringify(object).slice(1, -1);
  const more = Object.entries(raw).map(([key, text]) => `${JSON.stringify(key)}:${text ?? 'null'}`);
  return `{${[...(own ? [own] : []), ...more].join(',')}}`;
}

export const rawList = (texts: string[]): string => `[${texts.join(',')}]`;
