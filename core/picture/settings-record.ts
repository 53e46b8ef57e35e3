/**
 * Sampling that a picture was rendered with, as a record that came along says it: attributes of an EXR file, JSON, or CSV
 * of a name and a number a line. Names are the renderer's own; which of them count samples, and of what, is told by words.
 *
 * @example
 * const record = readSettings('{"camera samples": 64, "diffuse samples": 2}', 'shot.json');
 * samplesIn(record, 'diffuse'); // { name: 'diffuse samples', value: 2 }
 */
import { parseJson } from '../document/json-text.ts';
import { InvalidInput } from '../document/problem.ts';

/** Numbers by their names, with those of groups in JSON joined by "/". */
export type SettingsRecord = Map<string, number>;

/** What samples are taken of: of a pixel, or further ones at its first hit. */
export type SampledKind = 'pixel' | 'light' | 'diffuse' | 'specular' | 'transmission' | 'volume';

const KINDS: Record<Exclude<SampledKind, 'pixel'>, RegExp> = {
  light: /\blights?\b/,
  diffuse: /diffuse/,
  specular: /specular|reflect|glossy/,
  transmission: /transmission|refract|glass/,
  volume: /volume|fog/,
};
const SAMPLES = /\b(samples?|spp|splits?)\b/;

/** @throws InvalidInput naming the line or the key that is no number */
export function readSettings(text: string, what: string): SettingsRecord {
  const record: SettingsRecord = /^\s*[{[]/.test(text) ? fromJson(parseJson(text, what)) : fromCsv(text, what);
  if (record.size === 0)
    throw new InvalidInput(what, [{ path: '', value: text.slice(0, 40), expected: 'a name with a number' }]);
  return record;
}

function fromJson(value: unknown): SettingsRecord {
  const record: SettingsRecord = new Map();
  const walk = (node: unknown, name: string) => {
    if (typeof node === 'number') record.set(name, node);
    else if (node && typeof node === 'object')
      for (const [key, child] of Object.entries(node)) walk(child, name ? `${name}/${key}` : key);
  };
  walk(value, '');
  return record;
}

function fromCsv(text: string, what: string): SettingsRecord {
  const record: SettingsRecord = new Map();
  text.split(/\r?\n/).forEach((line, i) => {
    const [, name, number] = /^\s*"?([^",;]+?)"?\s*[,;]\s*"?([^",;]*?)"?\s*$/.exec(line) ?? [];
    if (name === undefined) {
      if (line.trim() === '') return;
      throw new InvalidInput(what, [{ path: `line ${i + 1}`, value: line.slice(0, 40), expected: 'a name and a number' }]); // prettier-ignore
    }
    const value = Number(number);
    if (number !== '' && Number.isFinite(value)) record.set(name, value);
    // The first line may name the columns.
    else if (i > 0) throw new InvalidInput(what, [{ path: `line ${i + 1}`, value: number, expected: 'a number' }]);
  });
  return record;
}

/** Numbers among the attributes of a file, those that are text as well. */
export function settingsOfAttributes(attributes: Record<string, unknown>): SettingsRecord {
  const numbers = Object.entries(attributes).map(([name, value]) => [name, typeof value === 'string' && value.trim() !== '' ? Number(value) : value] as const); // prettier-ignore
  return new Map(numbers.filter((entry): entry is [string, number] => Number.isFinite(entry[1])));
}

/** The number of samples of a kind, under the name it has there; null where the record does not say. */
export function samplesIn(record: SettingsRecord, kind: SampledKind): { name: string; value: number } | null {
  for (const [name, value] of record) {
    if (!(value >= 1)) continue;
    const words = wordsOf(name);
    if (!SAMPLES.test(words)) continue;
    const kinds = Object.entries(KINDS).flatMap(([one, pattern]) => (pattern.test(words) ? [one] : []));
    if (kind === 'pixel' ? kinds.length === 0 : kinds.includes(kind)) return { name, value };
  }
  return null;
}

/** "extraSamples/diffuse" → "extra samples diffuse". */
const wordsOf = (name: string): string =>
  name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/[^A-Za-z0-9]+/g, ' ')
    .toLowerCase();

/** What samples a pass is made of, by its name; null where that does not say. */
export function kindOfPass(pass: string): Exclude<SampledKind, 'pixel'> | null {
  const words = wordsOf(pass);
  const found = (['diffuse', 'specular', 'transmission', 'volume'] as const).find((kind) => KINDS[kind].test(words));
  return /\bdirect\b/.test(words) ? 'light' : (found ?? null);
}
